# frozen_string_literal: true

module Vestry
  module Drawings
    # A person's tries at one exercise in order: each as high as its score, filled where it passed.
    class PracticeRecord
      STEP, HIGH = 14, 30
      private_constant :STEP, :HIGH

      # @param tries [Array<Records::PracticeTry>]
      def initialize(tries)
        @tries = tries
      end

      def svg = Template.render("practice_record", self)
      def width = [@tries.size * STEP + 8, 60].max
      def height = HIGH + 8

      def marks
        @tries.each_with_index.map do |try, i|
          { x: 8 + i * STEP, y: Stroke.round(4 + HIGH - try.score * HIGH), passed: try.passed }
        end
      end

      def spoken
        "#{@tries.size} #{@tries.size == 1 ? 'try' : 'tries'}, #{@tries.count(&:passed)} right; the last " \
          "#{format('%.2f', @tries.last.score)}"
      end
    end
  end
end
