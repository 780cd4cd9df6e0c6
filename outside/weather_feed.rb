# frozen_string_literal: true

require "date"

module Vestry
  module Outside
    # Asks the weather service. Which address answers is a setting; where there is none, a station's
    # files are brought in by hand.
    module WeatherFeed
      Silent = Asking::Silent

      module_function

      def address = Settings.standins && "#{Settings.standins}/weather"

      # What was measured, day by day; days that came late are not there yet.
      def observed(place, from, to) = days(place, from: from.iso8601, to: to.iso8601)

      # The ten days from +made_on+ on.
      def forecast(place, made_on) = days("#{place}/forecast", made_on: made_on.iso8601)

      def days(path, query)
        Asking.json("The weather service", "#{address}/#{path}", query).map do |each|
          { day: Date.iso8601(each.fetch("day")), min_c: Float(each.fetch("min_c")), max_c: Float(each.fetch("max_c")), rain_mm: each["rain_mm"]&.to_f, gust_ms: each["gust_ms"]&.to_f }
        end
      rescue KeyError, ArgumentError, TypeError, NoMethodError
        raise Silent, "What the weather service says cannot be read."
      end
      private_class_method :days
    end
  end
end
