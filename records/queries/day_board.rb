# frozen_string_literal: true

module Vestry
  module Records
    # The coming days for each species that has stubs waiting, for methods that need slipping bark, for those that do
    # not, and for buds.
    class DayBoard
      # +kind+ is one of Core::Slip::Window::KINDS.
      Line = Struct.new(:species, :kind, :days, keyword_init: true)

      # @param windows [StubWindows]
      def initialize(orchard, today, windows)
        @orchard = orchard
        @today = today
        @windows = windows
      end

      def dates = forecast.map { |day| day[:date] }
      def any? = forecast.any?

      # @return [Array<Line>]
      def lines
        @lines ||= kinds.map do |species, kind|
          answer = Core::Slip::GraftDay.call(species: species, needs_slip: kind == "slip", ladder: true, days: forecast,
                                             slip: @windows.bark(species), season: @windows.span(species, kind),
                                             rulebook: @orchard.rulebook)
          Line.new(species: species, kind: kind, days: answer[:days])
        end
      end

      # What a day is for each kind, for planning a crew.
      #
      # @return [Array<Hash>] +kind+ (see DayBoard.kind) and +verdict+
      def verdicts(date)
        lines.filter_map do |line|
          day = line.days.find { |each| each[:date] == date }
          day && { kind: DayBoard.kind(line.species, line.kind), verdict: day[:verdict] }
        end
      end

      # One name for a kind of stock and of method.
      def self.kind(species, kind) = "#{species}, #{kind}"

      # The best that a day is for any kind: it has to wait when it has to for all.
      def verdict(date)
        found = verdicts(date).map { |each| each[:verdict] }
        Core::Slip::Crew::VERDICTS.find { |each| found.include?(each) } || "good"
      end

      private

      def forecast = @forecast ||= @windows.spring.weather.forecast

      def kinds
        return @windows.kinds if @windows.kinds.any?

        @windows.spring.species.flat_map { |species| [[species, "slip"], [species, "no-slip"]] }
      end
    end
  end
end
