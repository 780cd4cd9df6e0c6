# frozen_string_literal: true

module Vestry
  module Deeds
    # Asks the weather service for the days since it was last heard, and for the days to come.
    module AskWeather
      BACK = 400

      # @param today [Date, nil] the day taken to be today, where one is set
      def self.all(today: nil)
        return unless Outside::WeatherFeed.address

        Outside::FailureLog.each_alone(Records::Orchard.with_weather, "asking the weather service") do |orchard|
          call(orchard, today: today || Outside::Clock.today(orchard.time_zone))
        end
      end

      # @return [Boolean] whether it answered
      def self.call(orchard, today:)
        last = Records::SiteWeather.last_measured(orchard, before: today)
        from = [last ? last + 1 : today - BACK, today - BACK].max
        seen = from < today ? Outside::WeatherFeed.observed(orchard.weather_place, from, today - 1) : []
        ahead = Outside::WeatherFeed.forecast(orchard.weather_place, today)
        DB.transaction do
          # What was forecast and is past is replaced by what was measured; what is measured is never
          # replaced by a forecast.
          KeepWeather.keep(orchard, seen.map { |day| day.merge(forecast: false) } +
                           ahead.map { |day| day.merge(forecast: true) })
          orchard.heard_weather(at: Outside::Clock.now)
        end
        true
      rescue Outside::WeatherFeed::Silent => e
        orchard.heard_weather(trouble: e.message)
        false
      end
    end
  end
end
