# frozen_string_literal: true

module Vestry
  module Records
    # The springs of past years at one orchard: how warmth gathered in each.
    class PastSprings
      # Degree-days gathered by each day of a year, in order.
      def self.running(base_c, year)
        return [] if year.empty?

        sum = 0.0
        Core::Slip::DegreeDays.call(days: year, base_c: base_c)[:daily].map { |each| sum += each }
      end

      # Each year's days from the biofix on, oldest first.
      attr_reader :years

      # @param years [Array<Array<Hash>>] +date+, +min_c+, +max_c+
      def initialize(years)
        @years = years.each(&:freeze).freeze
        @running = {}
      end

      # Degree-days from the biofix to a calendar day, the mean over the years; nil without any.
      def usual_dd(base_c, month_day)
        sums = years.zip(sums(base_c)).filter_map do |year, running|
          index = year.index { |each| each[:date].strftime("%m-%d") == month_day }
          running[index] if index
        end
        sums.empty? ? nil : sums.sum / sums.size
      end

      # The day of each spring on which so many degree-days had gathered.
      #
      # @return [Array<Date>] a year that never got there is left out
      def reached(base_c, degree_days)
        years.zip(sums(base_c)).filter_map do |year, running|
          index = running.index { |sum| Core::Near.at_least?(sum, degree_days) }
          year[index][:date] if index
        end
      end

      private

      def sums(base_c) = @running[base_c] ||= years.map { |year| self.class.running(base_c, year) }
    end
  end
end
