# frozen_string_literal: true

module Vestry
  module Drawings
    # A stick end-on, whose faces are cut by pulling: how deep, and where round it. Once it is judged, the wood under
    # the bark and the strips that were left.
    class PracticeToWood
      RADIUS, MIDDLE = 190.0, 235.0
      private_constant :RADIUS, :MIDDLE

      attr_reader :faces

      # @param exercise [Hash] as Core::Practice::ToWood shows it
      # @param faces [Array<Hash>, nil] +at_deg+ and +depth_mm+, as they were cut
      # @param result [Hash, nil] what that came to
      # @param units [String] in which the strips are said
      def initialize(exercise, faces: nil, result: nil, units: "metric")
        @exercise = exercise
        @result = result
        @units = units
        @faces = (faces || begin_with).sort_by { |face| face[:at_deg] }
      end

      def svg = Template.render("practice_to_wood", self)
      def judged? = !@result.nil?
      def scale = RADIUS / (@exercise[:scion_mm] / 2)
      def radius = RADIUS
      def middle = MIDDLE
      def scion_mm = @exercise[:scion_mm]
      def down(mm) = Stroke.round(mm * scale)

      # The wood under each face, as it was: from half way to the one before to half way to the one after.
      def wood
        @result[:best][:barks_mm].each_with_index.map do |bark, i|
          turn = 360.0 / faces.size
          at = faces[i][:at_deg]
          points = (0..12).map { |step| on_rim(at - turn / 2 + turn * step / 12, RADIUS - bark * scale) }
          Stroke.straight(points)
        end
      end

      def green?(place) = judged? && reasons("practice_green").any? { |each| each[:face] == place }

      # What was left of bark after each face, as an arc on the rim, with what it came to where it was wrong.
      def strips
        wrong = reasons("practice_strip_narrow", "practice_strip_wide").map { |each| each[:face] }
        faces.each_index.map do |i|
          from, to = edge(i, 1), edge((i + 1) % faces.size, -1)
          to += 360 while to < from - 180
          { path: arc(from, to), wrong: wrong.include?(i + 1), said: said(along_rim(to - from)),
            at: on_rim((from + to) / 2, RADIUS + 26) }
        end
      end

      def arc(from, to) = Stroke.straight((0..8).map { |step| on_rim(from + (to - from) * step / 8.0, RADIUS + 5) })
      def along_rim(degrees) = [degrees * Math::PI / 180 * @exercise[:scion_mm] / 2, 0.0].max
      # A width as it stands beside its strip.
      def said(mm) = @units == "imperial" ? format("%.2f", mm / Core::Measure::INCH) : mm.round(1)

      # Where the faces' numbers stand.
      def numbers = faces.map { |face| on_rim(face[:at_deg], RADIUS * 0.6) }

      def spoken
        "A stick #{format('%g', @exercise[:scion_mm])} mm thick, end-on, with #{faces.size} faces: " \
          "#{faces.map { |face| format('%<depth>.2f mm deep at %<at>.0f°', depth: face[:depth_mm], at: face[:at_deg]) }
            .join(', ')}."
      end

      private

      def begin_with
        Array.new(@exercise[:flaps]) { |i| { at_deg: (i * 360.0 / @exercise[:flaps] + i * 7) % 360, depth_mm: 0.5 } }
      end

      def reasons(*codes) = @result[:feedback].select { |each| codes.include?(each[:code]) }

      # Where a face meets the rim, in degrees.
      def edge(place, side)
        face = faces[place]
        half = Math.acos((1 - 2 * face[:depth_mm] / @exercise[:scion_mm]).clamp(-1.0, 1.0)) * 180 / Math::PI
        face[:at_deg] + side * half
      end

      # 0 is up, and it goes round as a clock does.
      def on_rim(degrees, far)
        way = degrees * Math::PI / 180
        [far * Math.sin(way), -far * Math.cos(way)]
      end
    end
  end
end
