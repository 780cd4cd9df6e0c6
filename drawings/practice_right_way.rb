# frozen_string_literal: true

module Vestry
  module Drawings
    # A row of cut sticks, some of them upside down; each is pressed to be turned round.
    class PracticeRightWay
      COLUMNS, WIDE, HIGH = 10, 46, 134
      private_constant :COLUMNS, :WIDE, :HIGH

      # @param exercise [Hash] as Core::Practice::RightWay shows it
      # @param turned [Array<Integer>]
      # @param result [Hash, nil] what that came to
      def initialize(exercise, turned: [], result: nil, **)
        @exercise = exercise
        @turned = turned
        @result = result
      end

      def svg = Template.render("practice_right_way", self)
      def judged? = !@result.nil?
      def width = COLUMNS * WIDE
      def height = (@exercise[:sticks].size / COLUMNS.to_f).ceil * HIGH

      def sticks
        @exercise[:sticks].each_with_index.map do |stick, i|
          { id: stick[:id], x: (i % COLUMNS + 0.5) * WIDE, y: (i / COLUMNS + 0.5) * HIGH - 6, **shape(stick),
            turned: @turned.include?(stick[:id]), state: state(stick[:id]) }
        end
      end

      def spoken = "#{@exercise[:sticks].size} sticks, some of them upside down."

      private

      # About its middle, which it is turned round.
      def shape(stick)
        half, wide = stick[:long_mm] / 2.0, stick[:wide_mm] / 2.0
        bend = stick[:bend] * 5
        left, right = [-wide, wide].map { |side| Stroke.round(side + bend) }
        { body: "M#{-wide} #{half}Q#{left} 0 #{-wide} #{-half}H#{wide}Q#{right} 0 #{wide} #{half}Z",
          buds: stick[:buds].map { |bud| bud(bud, half, wide, bend) } }
      end

      def bud(bud, half, wide, bend)
        y = half - bud[:at] * half * 2
        x = bud[:side] * wide + bend * (1 - (y / half)**2) / 2
        { at: [x, y], turn: bud[:side] * (90 - bud[:lean_deg]), scar: y - bud[:scar] * 5 }
      end

      def state(id)
        return nil unless judged?

        wrong = @result[:feedback].find { |each| each[:code] == "practice_upside_down" }
        wrong && wrong[:sticks].include?(id) ? "killed" : nil
      end
    end
  end
end
