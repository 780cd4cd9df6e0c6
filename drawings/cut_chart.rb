# frozen_string_literal: true

module Vestry
  module Drawings
    # Cuts in order, each at its length between the lines it should keep to; one that rocks or shows daylight is
    # crossed.
    class CutChart
      WIDTH, HEIGHT, LEFT, STEP = 620, 220, 86, 26
      private_constant :LEFT, :STEP

      # @param log [Hash] as Core::Practice::CutLog answers
      def initialize(log, units: "metric")
        @log = log
        @units = units
      end

      attr_reader :log

      def svg = Template.render("cut_chart", self)
      def width = WIDTH
      def height = HEIGHT

      def marks
        @log[:cuts].each_with_index.map do |cut, i|
          { x: LEFT + 14 + i * STEP, y: y(cut[:length_mm]), inside: cut[:inside],
            crossed: cut[:rocks] || cut[:daylight] }
        end
      end

      def say(mm) = Core::Measure.say_about(mm, @units)
      def low = y(@log[:from_mm])
      def high = y(@log[:to_mm])

      # Room above and below the lines; what lies further out stands at the edge.
      def y(mm)
        from, to = @log.values_at(:from_mm, :to_mm)
        share = (mm - from) / (to - from).to_f
        (150 - share * 90).clamp(12, HEIGHT - 14)
      end

      def spoken
        return "No cuts are measured yet." if @log[:cuts].empty?

        "#{Spoken.counted(@log[:cuts].size, 'cut')}, #{@log[:inside]} of them between #{say(@log[:from_mm])} and " \
          "#{say(@log[:to_mm])}, steady and without daylight."
      end
    end
  end
end
