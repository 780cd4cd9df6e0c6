# frozen_string_literal: true

module Vestry
  module Drawings
    # Kinds of tree through the months: from when to when their bark slips in most years.
    class BarkYear < YearRows
      # @param spans [Array<Array(String, Date, Date)>] a kind, the day its bark opens and the day it closes
      # @param season [Core::Season] where the drawn year begins
      def initialize(spans, season, width: WIDE)
        super(season.first_month, width: width)
        @spans = spans
      end

      def kind = "bark-year"
      def title = "When bark slips in most years"

      def rows
        @rows ||= @spans.each_with_index.map do |(name, from, to), i|
          days = [from, to].map { |day| day.strftime("%m-%d") }
          YearRow.new(name: short(name), href: nil, y: top(i), bars: bars("slips", i, *days, y: 9, height: 16),
                      spoken: "#{name}: bark slips #{[from, to].map { |day| day.strftime('%-d %B') }.join(' to ')}")
        end
      end
    end
  end
end
