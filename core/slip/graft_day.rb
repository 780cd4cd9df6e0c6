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
        end

        # A day waits when bark is less likely than not to slip, or rain or gusts are past what can be
        # worked in. It is marginal for lesser rain, gusts on a ladder, and for bark that may not slip
        # yet; and, for methods at slip, for frost within a week or callus that would hardly grow.
        # Three marginal reasons make it wait.
        #
        # @return [Hash] +days+, each +date+, +verdict+ (good, marginal, wait), +slip+ (likelihood, or nil) and
        #   +reasons+
        def self.call(species:, needs_slip:, days:, ladder: false, slip: nil, rulebook: Rulebook.shipped)
          ordered = days.sort_by { |day| day[:date] }
          { days: ordered.map { |day| judge(day, ordered, species, needs_slip, ladder, slip, rulebook) } }
        end

        def self.judge(day, days, species, needs_slip, ladder, slip, rulebook)
          book = ->(key) { rulebook.value("reckoning.graft_day.#{key}") }
          likely = needs_slip ? likelihood(slip, day[:date]) : nil
          marginal = []
          wait = []
          ready(likely, book, marginal, wait) if likely
          limits(day[:rain_mm], book["rain"], "day_rain", :mm, marginal, wait)
          limits(day[:gust_ms], book["gust"], "day_gust", :ms, marginal, wait) if ladder
          if needs_slip
            marginal.concat([frost(day, days, book), callus(day, species, book, rulebook)].compact)
          end
          { date: day[:date], verdict: verdict(marginal, wait, book), slip: likely, reasons: wait + marginal }
        end

        def self.verdict(marginal, wait, book)
          return "wait" if wait.any? || marginal.size >= book["marginal_most"]

          marginal.any? ? "marginal" : "good"
        end

        def self.ready(likely, book, marginal, wait)
          if likely < book["slip_even"] - Near::TOLERANCE then wait << { code: "day_slip", likely: likely }
          elsif likely < book["slip_sure"] - Near::TOLERANCE then marginal << { code: "day_slip", likely: likely }
          end
        end

        def self.frost(day, days, book)
          found = days.find do |each|
            each[:date] > day[:date] && each[:date] <= day[:date] + book["frost_days"] && each[:min_c] < 0
          end
          found && { code: "day_frost", on: found[:date], celsius: found[:min_c] }
        end

        def self.callus(day, species, book, rulebook)
          rate = Callus.call(species: species, days: [day], rulebook: rulebook)[:daily].first
          { code: "day_callus", rate: rate } if rate < book["callus_least"]
        end

        def self.limits(value, bounds, code, unit, marginal, wait)
          value ||= 0.0
          some, most = bounds
          return if Near.at_most?(value, some)

          (value > most ? wait : marginal) << { code: code, unit => value }
        end

        # Between the dates the forecast gives, evenly; before and after them, by the same slope.
        #
        # @return [Float] 0..1
        def self.likelihood(slip, date)
          return 0.0 if slip.nil?
          return date >= slip[:reached_on] ? 1.0 : 0.0 if slip[:reached_on]

          points = [[slip[:p10], 0.1], [slip[:p50], 0.5], [slip[:p90], 0.9]].select(&:first)
          return 0.0 if points.empty?
          if date >= points.last[0]
            return points.last[1] + (1 - points.last[1]) * [(date - points.last[0]) / 7.0, 1.0].min
          end
          return [0.1 - (points.first[0] - date) * 0.02, 0.0].max if date < points.first[0]

          (one, low), (other, high) = points.each_cons(2).find { |(from, _), (to, _)| date >= from && date < to }
          low + (high - low) * (date - one) / (other - one).to_f
        end
        private_class_method :judge, :verdict, :ready, :frost, :callus, :limits
      end
    end
  end
end
