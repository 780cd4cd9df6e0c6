# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # Which of the coming days are good for grafting.
      module GraftDay
        extend Reckoning

        contract "graft-day", "Which of the coming days are good for grafting, and why" do
          name :species, -> { Rulebook.shipped.species_names }
          flag :needs_slip, help: "whether the method does"
          flag :ladder, default: false, help: "whether the work is done from one"
          list :days, longest: 400, help: "those to come, in order" do
            day_of_weather
            number :rain_mm, unit: "mm", least: 0, default: 0.0
            number :gust_ms, unit: "m/s", least: 0, default: 0.0
          end
          record :slip, optional: true, help: "as the slip reckoning answers" do
            date :reached_on, optional: true
            date :p10, optional: true
            date :p50, optional: true
            date :p90, optional: true
            rising :p10, :p50, :p90
          end
          record :season, optional: true, help: "between which days such methods make sense at all" do
            date :opens_on, optional: true
            date :closes_on, optional: true
          end
        end

        # A day waits when it lies outside the season, when bark is less likely than not to slip, when rain or gusts
        # are past what can be worked in, or when it is too hot, too cold or too dry for cut wood. It is marginal for
        # less of the same, and for bark that may not slip yet; and, for methods at slip, for frost within a week or
        # callus that would hardly grow. Three marginal reasons make it wait.
        #
        # @return [Hash] +days+, each +date+, +verdict+ (good, marginal, wait), +slip+ (likelihood, or nil) and
        #   +reasons+
        def self.call(species:, needs_slip:, days:, ladder: false, slip: nil, season: nil, rulebook: Rulebook.shipped)
          ordered = days.sort_by { |day| day[:date] }
          { days: ordered.each_with_index.map do |day, place|
            Day.new(day, ordered.drop(place + 1), species, needs_slip, ladder, slip, season.to_h, rulebook).judged
          end }
        end

        # One day, with all that speaks against it.
        class Day
          def initialize(day, later, species, needs_slip, ladder, slip, season, rulebook)
            @day = day
            @later = later
            @species = species
            @needs_slip = needs_slip
            @ladder = ladder
            @season = season
            @likely = needs_slip ? GraftDay.likelihood(slip, day[:date], rulebook) : nil
            @rulebook = rulebook
            @marginal = []
            @wait = []
          end

          # @return [Hash] +date+, +verdict+, +slip+ and +reasons+, those to wait first
          def judged
            in_season
            ready if @likely
            limit(@day[:rain_mm], "rain", "day_rain", :mm)
            limit(@day[:gust_ms], "gust", "day_gust", :ms) if @ladder
            limit(@day[:max_c], "heat", "day_heat", :celsius)
            limit(deficit, "dry_air", "day_dry_air", :kpa)
            evergreen if @rulebook.evergreen?(@species)
            @needs_slip ? at_slip : asleep
            { date: @day[:date], verdict: verdict, slip: @likely, reasons: @wait + @marginal }
          end

          private

          def book(key) = @rulebook.value("reckoning.graft_day.#{key}")

          def verdict
            return "wait" if @wait.any? || @marginal.size >= book("marginal_most")

            @marginal.any? ? "marginal" : "good"
          end

          def in_season
            opens, closes = @season.values_at(:opens_on, :closes_on)
            @wait << { code: "day_too_early", on: opens } if opens && @day[:date] < opens
            @wait << { code: "day_too_late", on: closes } if closes && @day[:date] > closes
          end

          def ready
            if @likely < book("slip_even") - Near::TOLERANCE then @wait << { code: "day_slip", likely: @likely }
            elsif @likely < book("slip_sure") - Near::TOLERANCE then @marginal << { code: "day_slip", likely: @likely }
            end
          end

          # Kinds that never sleep stand still in cool nights.
          def evergreen
            least = book("evergreen_night")
            @wait << { code: "day_cool_night", celsius: @day[:min_c] } if @day[:min_c] < least - Near::TOLERANCE
          end

          # What callus and bark in sap do not bear.
          def at_slip
            last = @day[:date] + book("frost_days")
            frost = @later.take_while { |each| each[:date] <= last }
              .find { |each| each[:date] > @day[:date] && each[:min_c] < 0 }
            @marginal << { code: "day_frost", on: frost[:date], celsius: frost[:min_c] } if frost
            slow
          end

          # Where callus would hardly grow.
          def slow
            rate = Callus.call(species: @species, days: [@day], rulebook: @rulebook)[:daily].first
            least = book("callus_kinds").fetch(@species, book("callus_least"))
            @marginal << { code: "day_callus", rate: rate } if rate < least - Near::TOLERANCE
          end

          # What fingers, blades and sleeping wood do not bear; and what knits in warmth alone does not begin in cold.
          def asleep
            slow if Callus.warm?(@species, @rulebook)
            night, most = book("cold")
            @wait << { code: "day_cold", celsius: @day[:max_c] } if Near.at_most?(@day[:max_c], most)
            return unless @day[:min_c] < night - Near::TOLERANCE

            @marginal << { code: "day_cold_night", celsius: @day[:min_c] }
          end

          # By how much the air is short of all the water it could hold, in kPa, with the night's least as dew point
          # (Tetens' formula).
          def deficit
            low, high = [@day[:min_c], @day[:max_c]].map { |celsius| GraftDay.vapour(celsius) }
            (high + low) / 2 - low
          end

          def limit(value, bounds, code, unit)
            value ||= 0.0
            some, most = book(bounds)
            return if Near.at_most?(value, some)

            (value > most + Near::TOLERANCE ? @wait : @marginal) << { code: code, unit => value }
          end
        end
        private_constant :Day

        # How much vapour air can hold, in kPa.
        def self.vapour(celsius) = 0.6108 * Math.exp(17.27 * celsius / (celsius + 237.3))

        # Between the dates the forecast gives, evenly; before and after them, by the rulebook's slopes.
        #
        # @return [Float] 0..1
        def self.likelihood(slip, date, rulebook)
          return 0.0 if slip.nil?
          return date >= slip[:reached_on] ? 1.0 : 0.0 if slip[:reached_on]

          points = [[slip[:p10], 0.1], [slip[:p50], 0.5], [slip[:p90], 0.9]].select(&:first)
          return 0.0 if points.empty?

          between(points, date) || beyond(points, date, rulebook)
        end

        def self.between(points, date)
          (one, low), (other, high) = points.each_cons(2).find { |(from, _), (to, _)| date >= from && date < to }
          low + (high - low) * (date - one) / (other - one).to_f if one
        end

        # Sure some days after the last of the points, and less likely with each day before the first.
        def self.beyond(points, date, rulebook)
          (first, least), (last, most) = points.first, points.last
          certain, less = %w[slip_certain_after slip_less_before]
            .map { |key| rulebook.value("reckoning.graft_day.#{key}") }
          return most + (1 - most) * [(date - last) / certain.to_f, 1.0].min if date >= last

          [least - (first - date) * less, 0.0].max
        end
        private_class_method :between, :beyond
      end
    end
  end
end
