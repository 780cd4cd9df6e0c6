# frozen_string_literal: true

module Vestry
  module Records
    # Past years of one orchard as many futures draw them: what a crew could work in each while the bark of a kind
    # slipped, and how hard it blew; and what of a season goes to other trees first.
    class PastYears
      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @book = orchard.rulebook
      end

      # @return [Array<Hash>] +minutes+ and +gust+, see Core::Plan::Foresee; none where no spring is kept
      def of(species)
        from = %w[weather_days phenology_seen trees]
        Derived.fetch(@orchard, "past years #{species}", @today, from: from) do |orchard|
          PastYears.new(orchard, @today).reckoned(species)
        end
      end

      # Minutes of a season that go to stubs of trees that are walked to before this one, in whole hours: where bark
      # closes alike, the crew takes them in that order.
      #
      # @return [Float]
      def busy(tree, season)
        minutes = PlanQueries.walked_before(tree, season).sum(0.0) do |technique, sticks, count|
          next 0.0 unless Core::Slip::Window.kind(technique, @book) == "slip"

          Core::Plan::WorkTime.minutes(technique, sticks || 1, nil, @book) * count
        end
        Core::Plan::WorkTime.hours(minutes).round * Core::Plan::WorkTime::AN_HOUR
      end

      # What is stored of a kind, worked out.
      def reckoned(species)
        spring = @orchard.bark_forecast(@today)
        opened = spring.opened(species).to_h { |date| [@orchard.season.name_of(date), date] }
        springs(species).map do |year, dates, gust|
          opens = opened[year]
          open = opens ? dates.select { |date| date.between?(opens, spring.closed_in(species, opens)) } : []
          { minutes: Core::Slip::Crew.usual_minutes(open, @book), gust: gust }
        end
      end

      # The same of the weather alone: each past spring's name, the days on which it let one work, and its gusts.
      #
      # @return [Array<Array(Integer, Array<Date>, Float)>]
      def weather_of(species)
        weather = @orchard.weather(@today)
        weather.years.map do |days|
          [@orchard.season.name_of(days.first[:date]), Core::Slip::Crew.workable(species, days, @book),
           gust(days, weather.gust_to_expect)]
        end
      end

      private

      def springs(species)
        Derived.fetch(@orchard, "past springs #{species}", @today, from: %w[weather_days]) do |orchard|
          PastYears.new(orchard, @today).weather_of(species)
        end
      end

      # A gust loads a shoot by its square, beside that of the year for which the wind's figures are.
      def gust(days, usual)
        most = days.filter_map { |day| day[:gust_ms] }.max
        most ? ((most / usual)**2).clamp(*@book.value("reckoning.foresee.gust_between")) : 1.0
      end
    end
  end
end
