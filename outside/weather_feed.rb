# frozen_string_literal: true

require "date"

module Vestry
  module Outside
    # Asks the weather service. Which address answers is a setting; where there is none, a station's
    # files are brought in by hand.
    module WeatherFeed
      Silent = HttpJson::Silent

      module_function

      def address = Settings.standins && "#{Settings.standins}/weather"

      # What was measured, day by day; days that came late are not there yet.
      def observed(place, from, to) = days(place, from: from.iso8601, to: to.iso8601)

      # The ten days from +made_on+ on.
      def forecast(place, made_on) = days("#{place}/forecast", made_on: made_on.iso8601)

      def days(path, query)
        HttpJson.json("The weather service", "#{address}/#{path}", query).map do |each|
          day = { day: Core::Values.day(each.fetch("day")),
                  **%w[min_c max_c rain_mm gust_ms].to_h { |name| [name.to_sym,
                      each[name] && Core::Values.number(each[name])] } }
          plausible?(day) ? day : raise(ArgumentError)
        end
      rescue KeyError, ArgumentError, TypeError, NoMethodError
        raise Silent, "What the weather service says cannot be read."
      end

      # Degrees, millimetres and metres a second that a station can have measured.
      def plausible?(day)
        day[:day] && day[:min_c] && day[:max_c] && day[:min_c] <= day[:max_c] &&
          day.values_at(:min_c, :max_c).all? { |celsius| celsius.between?(-90, 70) } &&
          (day[:rain_mm] || 0).between?(0, 2000) && (day[:gust_ms] || 0).between?(0, 150)
      end
      private_class_method :days, :plausible?
    end
  end
end
