# frozen_string_literal: true

module Vestry
  module Drawings
    # A limb laid straight, from its fork on the left: forks, sick wood, how high it is, and the saw.
    class PracticeWhereToCut
      LEFT, AXIS, LONG, HEIGHT = 54.0, 170.0, 840.0, 372
      private_constant :LEFT, :AXIS, :LONG

      # @param exercise [Hash] as Core::Practice::WhereToCut shows it
      # @param at_mm [Float] of the saw
      # @param result [Hash, nil] what that came to
      # @param units [String] metric or imperial, for its heights
      def initialize(exercise, at_mm: 100.0, result: nil, units: "metric", **)
        @limb = exercise
        @units = units
        @at = at_mm
        @result = result
      end

      attr_reader :at

      def svg = Template.render("practice_where_to_cut", self)
      def judged? = !@result.nil?
      def width = (LONG + LEFT * 2).round
      def height = HEIGHT
      def scale = LONG / @limb[:length_mm]
      def left = LEFT
      def axis = AXIS
      def most = @limb[:length_mm]
      def x(mm) = LEFT + mm * scale

      def limb = outline(0, @limb[:length_mm])
      def unsound = @limb[:unsound].map { |each| outline(*each.values_at(:from_mm, :to_mm)) }

      # Each fork with its branch, as thick as it is; a nurse is told.
      def branches
        @limb[:branches].each_with_index.map do |branch, i|
          side = i.even? ? -1 : 1
          from, half = x(branch[:fork_at_mm]), branch[:diameter_mm] * scale * THICKER / 2
          axis = [[from, AXIS], [from + 22, AXIS + side * 70], [from + 40, AXIS + side * 112]]
          { nurse: branch[:nurse], at: from, tip: AXIS + side * 122,
            path: Stroke.branch(axis, [half * 2, half * 1.6, half]) }
        end
      end

      # Every half metre along it: how high that is above the ground.
      def heights
        (0..@limb[:length_mm]).step(500).map do |mm|
          { x: x(mm), said: Core::Measure.say_mark(height_mm(mm), @units, most: height_mm(@limb[:length_mm])) }
        end
      end

      def best = judged? ? x(@result[:best][:at_mm]) : nil
      def spoken
        forks = @limb[:branches].size
        "A limb #{Core::Measure.say(@limb[:length_mm], @units)} long with " \
          "#{forks.zero? ? 'no forks' : Spoken.counted(forks, 'fork')}, laid straight from its fork."
      end

      private

      # Across it is drawn so many times as thick.
      THICKER = 2.4
      private_constant :THICKER

      def height_mm(mm) = @limb[:fork_height_mm] + mm * Math.sin(@limb[:rise_deg] * Math::PI / 180)

      def half(mm) = [(@limb[:base_diameter_mm] * (1 - mm / @limb[:length_mm].to_f) + 12), 14].max * scale * THICKER / 2

      def outline(from, to)
        thick, thin = half(from), half(to)
        "#{Stroke.straight([[x(from), AXIS - thick], [x(to), AXIS - thin], [x(to), AXIS + thin],
                            [x(from), AXIS + thick]])}Z"
      end
    end
  end
end
