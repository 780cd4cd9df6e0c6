# frozen_string_literal: true

require "digest"
require "time"

module Standins
  module Thermometer
    # A fridge's thermometer, made up from a seed: a reading every three hours, just above
    # freezing, with one week in which the door was not shut.
    class Seeded
      EVERY = 3 * 3600
      WARM_WEEK = (Time.utc(2026, 3, 3)..Time.utc(2026, 3, 9, 12))

      def initialize(name) = @name = name

      # @param from [Time]
      # @param to [Time]
      # @return [Array<Hash>] +at+ and +celsius+
      def readings(from, to)
        first = Time.at((from.to_i / EVERY.to_f).ceil * EVERY).utc
        (0..((to - first) / EVERY).floor).map { |i| first + i * EVERY }.map { |at| { at: at, celsius: celsius(at) } }
      end

      private

      def celsius(at)
        hum = 0.6 * Math.sin(at.hour / 24.0 * 2 * Math::PI) + 0.5 * chance(at, "noise")
        WARM_WEEK.cover?(at) ? (8.2 + hum * 1.6).round(1) : (1.6 + hum).round(1)
      end

      # Between -1 and 1.
      def chance(at, what) = Digest::SHA256.digest("#{@name}/#{what}/#{at.to_i}")[0, 4].unpack1("N") / (2.0**31) - 1
    end
  end
end
