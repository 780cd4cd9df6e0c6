# frozen_string_literal: true

module Vestry
  module Drawings
    # The coming days in a row: a full block where one can graft, a half one where that is doubtful, a line where it
    # waits.
    class DayStrip
      CELL = 30
      HEIGHT = 58
      RISE = { "good" => 26, "marginal" => 12, "wait" => 0 }.freeze
      WORDS = { "good" => "good", "marginal" => "doubtful", "wait" => "wait" }.freeze

      # @param days [Array<Hash>] +date+ and +verdict+
      def initialize(days, today:)
        @days = days
        @today = today
      end

      def svg = Template.render("day_strip", self)
      def width = [@days.size, 1].max * CELL
      def height = HEIGHT
      def label = "The next days: #{cells.map { |cell| cell[:spoken] }.join('; ')}"

      def cells
        @days.each_with_index.map do |day, i|
          rise = RISE.fetch(day[:verdict])
          { x: i * CELL, rise: rise, letter: day[:date].strftime("%a")[0, 2], number: day[:date].day,
            today: day[:date] == @today, spoken: "#{day[:date].strftime('%a %-d %b')} #{WORDS.fetch(day[:verdict])}" }
        end
      end
    end
  end
end
