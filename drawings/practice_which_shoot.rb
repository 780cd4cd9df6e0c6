# frozen_string_literal: true

module Vestry
  module Drawings
    # A worked stub in its first June, whose shoots are traced down and pressed to be cut.
    class PracticeWhichShoot
      SCALE, LEFT, TOP, WIDTH, HEIGHT = 1.5, 210.0, 390.0, 470, 640
      LEAF = "q13 -4 19 -19q-16 0 -22 10q-1 6 3 9z"
      # Where a number may stand beside its tip, the nearest first.
      SPOTS = [[0, 14], [22, 8], [-22, 8], [14, 32], [-14, 32], [40, 20], [-40, 20], [0, 52], [30, 48],
               [-30, 48]].freeze
      private_constant :SCALE, :LEFT, :TOP, :SPOTS

      # @param exercise [Hash] as Core::Practice::WhichShoot shows it
      # @param cuts [Array<Hash>] +shoot+ and +up_mm+
      # @param result [Hash, nil] what they came to
      def initialize(exercise, cuts: [], result: nil)
        @exercise = exercise
        @cuts = cuts.to_h { |cut| [cut[:shoot], cut[:up_mm]] }
        @result = result
      end

      def svg = Template.render("practice_which_shoot", self)
      def judged? = !@result.nil?
      def width = WIDTH
      def height = HEIGHT
      def scale = SCALE

      def stub
        half, deep = @exercise.values_at(:half_mm, :deep_mm)
        Stroke.straight([at(-half, -deep), at(-half, 0), at(half, 0), at(half, -deep)])
      end

      def wax = Stroke.straight([at(-@exercise[:half_mm] - 3, -5), at(-@exercise[:half_mm] - 2, 4),
                                 at(@exercise[:half_mm] + 2, 4), at(@exercise[:half_mm] + 3, -5)])

      def sticks
        @exercise[:sticks].map do |stick|
          x, long = stick.values_at(:x_mm, :long_mm)
          "#{Stroke.straight([at(x - 4, -22), at(x - 4, long), at(x + 4, long), at(x + 4, -22)])}Z"
        end
      end

      # The limb beside it that feeds the roots.
      def nurse
        return nil unless @exercise[:nurse]

        x = @exercise[:half_mm] + 92
        Stroke.branch([at(x + 6, -@exercise[:deep_mm]), at(x, -60), at(x - 2, 30), at(x + 8, 90)], [26, 22, 17, 10])
      end

      # Each with its line, its leaves, its number, how it was cut, and what it was once that is told.
      def shoots
        labels = labels(@exercise[:shoots].map { |shoot| at(*shoot[:points].last) })
        @exercise[:shoots].zip(labels).map do |shoot, label|
          points = shoot[:points].map { |x, y| at(x, y) }
          { id: shoot[:id], path: Stroke.smooth(points), tip: points.last, label: label, leaves: leaves(points),
            cut: @cuts[shoot[:id]], state: state(shoot[:id]), foot: points.first, of: of(shoot[:id]) }
        end
      end

      # Leaves that lie over feet.
      def over
        @exercise[:leaves].map do |leaf|
          x, y = at(leaf[:x_mm], leaf[:y_mm])
          "translate(#{Stroke.round(x)} #{Stroke.round(y)}) rotate(#{leaf[:turn_deg]})"
        end
      end

      def spoken
        "A stub with #{Spoken.counted(@exercise[:sticks].size, 'stick')} and " \
          "#{Spoken.counted(@exercise[:shoots].size, 'shoot')}" \
          "#{', a nurse beside it' if @exercise[:nurse]}."
      end

      private

      def of(id) = judged? ? @result[:best][:of][id] : nil

      # Numbers stand above the tips, each clear of those that stand already.
      def labels(tips)
        tips.each_with_object([]) do |(x, y), placed|
          spot = SPOTS.map { |right, up| [x + right, y - up] }.find do |place|
            placed.none? { |other| Math.hypot(other[0] - place[0], other[1] - place[1]) < 26 }
          end
          placed << (spot || [x, y - 14])
        end
      end

      def at(x, y) = [LEFT + x * SCALE, TOP - y * SCALE]

      def leaves(points)
        points.each_cons(2).drop(1).flat_map { |(ax, ay), (bx, by)| [[(ax + bx) / 2, (ay + by) / 2], [bx, by]] }
          .each_with_index.map do |(x, y), i|
          "translate(#{Stroke.round(x)} #{Stroke.round(y)}) rotate(#{i.even? ? 0 : -100})"
        end
      end

      def state(id)
        return nil unless judged?

        codes = @result[:feedback].select { |each| each[:shoot] == id }.map { |each| each[:code] }
        return "killed" if codes.any? { |code| code.start_with?("practice_cut_") || code == "practice_overrun" }

        codes.include?("practice_missed") ? "missed" : "right"
      end
    end
  end
end
