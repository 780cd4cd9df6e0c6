# frozen_string_literal: true

require "date"
require "digest"

module Standins
  module Weather
    # Weather made up from a seed: the same place, seed and day give the same figures always,
    # whichever day is asked for first.
    class Seeded
      # How a place's year goes: mean and swing in °C, half the span from night to day, the
      # warmest day of the year, and how often it rains.
      CLIMATES = {
        "maunder-hill" => { mean: 10.8, swing: 6.6, half: 4.4, warmest: 205, wet: 0.42, gust: 6.2 },
        "tern-flat" => { mean: 11.6, swing: 5.4, half: 4.9, warmest: 22, wet: 0.3, gust: 7.5 }
      }.freeze
      MEMORY = 8

      def initialize(place, seed: 1)
        @climate = CLIMATES.fetch(place) { { mean: 11.0, swing: 6.0, half: 4.5, warmest: 205, wet: 0.38, gust: 8.5 } }
        @name = "#{place}/#{seed}"
      end

      # @return [Hash] +date+, +min_c+, +max_c+, +rain_mm+, +gust_ms+
      def day(date)
        round = Math.cos(2 * Math::PI * (date.yday - @climate[:warmest]) / 365.25)
        wet = chance(date, "wet") < @climate[:wet] * (1 - 0.25 * round)
        { date: date, **temperatures(date, round, wet), rain_mm: rain(date, wet), gust_ms: gust(date, round, wet) }
      end

      def days(from, to) = (from..to).map { |date| day(date) }

      # What a forecast made on +made_on+ says of +date+: less right the further ahead.
      def forecast(date, made_on)
        true_day = day(date)
        ahead = (date - made_on).to_i
        off = bell("#{made_on}#{date}", "forecast") * 0.32 * ahead
        true_day.merge(min_c: (true_day[:min_c] + off).round(1), max_c: (true_day[:max_c] + off).round(1),
                       rain_mm: chance("#{made_on}#{date}", "wetter") < 0.05 * ahead ?
                       (true_day[:rain_mm].zero? ? 3.0 : 0.0) : true_day[:rain_mm],
                       gust_ms: [true_day[:gust_ms] + bell("#{made_on}#{date}", "gust") * 0.3 * ahead, 0.0].max
                         .round(1))
      end

      private

      def temperatures(date, round, wet)
        mean = @climate[:mean] + @climate[:swing] * round + 2.6 * spell(date, "warm") + 0.7 * bell(date.year, "year")
        snap = snap?(date)
        mean -= 2.2 if snap
        half = [@climate[:half] * (wet ? 0.65 : 1.12) + 0.7 * bell(date, "span"), 0.8].max
        { min_c: (mean - half - (snap ? 3.2 : 0)).round(1), max_c: (mean + half).round(1) }
      end

      def rain(date, wet) = wet ? (-4.2 * Math.log(1 - chance(date, "rain"))).round(1) : 0.0

      def gust(date, round, wet)
        ordinary = @climate[:gust] * (1 - 0.18 * round) + 3.2 * spell(date, "wind")
        [ordinary + (wet ? 2.0 : 0.0), 1.0].max.round(1)
      end

      # A share from 0 up to 1.
      def chance(key, what)
        Digest::SHA256.digest("#{@name}/#{what}/#{key}")[0, 7].unpack("C7")
          .inject(0) { |sum, byte| sum * 256 + byte } / (256.0**7)
      end

      def bell(key, what)
        Math.sqrt(-2 * Math.log(1 - chance(key, "#{what}a"))) * Math.cos(2 * Math::PI * chance(key, "#{what}b"))
      end

      # A clear cold spell of three nights in spring, some years.
      def snap?(date)
        spring = (date.yday - (@climate[:warmest] - 80)) % 365
        spring < 45 && date.cwday < 4 && chance("#{date.cwyear}-#{date.cweek}", "snap") < 0.14
      end

      # Days resemble those before them.
      def spell(date, what)
        weights = (0...MEMORY).map { |back| 0.8**back }
        (0...MEMORY).sum { |back| weights[back] * bell(date - back, what) } / Math
          .sqrt(weights.sum { |each| each * each })
      end
    end
  end
end
