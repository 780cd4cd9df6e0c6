# frozen_string_literal: true

module Vestry
  module Drawings
    # The cuts of a method, to scale with this stick's and this stub's measures: the stick in
    # profile and from its cut face, and the stub with its slit, panel or flaps.
    class Cuts
      WIDTH = 640.0
      HEIGHT = 300.0

      # @param technique [String]
      # @param stub_mm [Float]
      # @param scion_mm [Float]
      # @param figures [Core::Graft::Figures] hash of lengths in mm
      # @param say [Proc] a length in the orchard's units
      # @param thin [Proc] what a blade takes off, likewise
      def initialize(technique, stub_mm:, scion_mm:, figures:, say:, thin: say)
        @technique = technique
        @stub_mm = stub_mm
        @scion_mm = scion_mm
        @f = figures
        @say = say
        @thin = thin
      end

      attr_reader :technique

      def svg = Template.render("cuts", self)
      def width = WIDTH
      def height = HEIGHT
      def say(mm) = @say.call(mm)
      def shaved_words = @thin.call(@f[:flaps][:depth_mm])
      def kind = @f[:kind]
      def figure(name) = @f[name]
      def title = "The cuts of the #{Spoken.method_name(technique)}, to scale: long face #{say(@f[:face])}"

      # Pixels a mm, so that the stick's cut end fills the height.
      def scale = @scale ||= (height - 70) / (@f[:face] + 45)
      def px(mm) = mm * scale
      def r(number) = Stroke.round(number)

      def stick_width = [px(@scion_mm), 9].max
      def foot = height - 34
      def face_top = foot - px(@f[:face])

      # The stick from the side, upright, its long face to the right; x is its left edge.
      def profile(x)
        w = stick_width
        return shaved(x, w) if kind == "flaps" && @f[:flaps][:feasible]
        if kind == "cleft"
          return "#{Stroke.straight([[x, 14], [x, face_top], [x + w / 2, foot], [x + w, face_top], [x + w, 14]])}Z"
        end

        points = [[x, 14], [x, foot - px(@f[:bevel] || 0)], [x + w * (@f[:bevel] ? 0.16 : 0.1), foot],
                  [x + w * 0.28, foot]]
        points += @f[:shoulder] ? [[x + w * 0.5, face_top], [x + w, face_top]] : [[x + w, face_top]]
        points << [x + w, 14]
        "#{Stroke.straight(points)}Z"
      end

      # A stick for flaps: shaved by the same depth on both sides that are seen.
      def shaved(x, wide)
        deep = [px(@f[:flaps][:depth_mm]), 2].max
        points = [[x, 14], [x, face_top], [x + deep, face_top + 5], [x + deep, foot], [x + wide - deep, foot],
                  [x + wide - deep, face_top + 5], [x + wide, face_top], [x + wide, 14]]
        "#{Stroke.straight(points)}Z"
      end

      # The cut side, drawn stronger.
      def faced(x)
        w = stick_width
        return Stroke.straight([[x, face_top], [x + w / 2, foot], [x + w, face_top]]) if kind == "cleft"
        unless kind == "flaps" && @f[:flaps][:feasible]
          return Stroke.straight([[x + w * (@f[:shoulder] ? 0.5 : 1), face_top], [x + w * 0.28, foot]])
        end

        deep = [px(@f[:flaps][:depth_mm]), 2].max
        "#{Stroke.straight([[x + w - deep, face_top + 5], [x + w - deep, foot]])}" \
        "#{Stroke.straight([[x + deep, face_top + 5], [x + deep, foot]])}"
      end

      # The cut face seen from the front: a long tongue of wood in its bark.
      def face(x)
        w = stick_width
        return flap_face(x, w) if kind == "flaps" && @f[:flaps][:feasible]

        "M#{r(x)} #{r(face_top)}C#{r(x)} #{r(face_top + 14)} #{r(x + w * 0.2)} #{r(foot - 12)} #{r(x + w * 0.5)} " \
          "#{r(foot)}C#{r(x + w * 0.8)} #{r(foot - 12)} #{r(x + w)} #{r(face_top + 14)} #{r(x + w)} #{r(face_top)}Z"
      end

      def flap_face(x, w)
        aside = [(w - px(@f[:flaps][:flat_mm])) / 2, 1].max
        points = [[x + aside, face_top], [x + aside, foot], [x + w - aside, foot], [x + w - aside, face_top]]
        "#{Stroke.straight(points)}Z"
      end

      # The stub's outline: sawn across, or on the slope of a tongue.
      def stub_outline(x)
        low = height - 30
        if kind == "tongue"
          return Stroke.straight([[x, low], [x, stub_top + px(@f[:face])], [x + stub_width, stub_top],
                                  [x + stub_width, low]])
        end

        Stroke.straight([[x, low], [x, stub_top], [x + stub_width, stub_top], [x + stub_width, low]])
      end

      # The stub from the side, at the same scale but drawn no wider than there is room for.
      def stub_width = [px(@stub_mm), 150].min
      def stub_cut? = px(@stub_mm) > 150
      def stub_top = face_top + px(@f[:showing] || 0)
    end
  end
end
