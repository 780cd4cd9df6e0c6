# frozen_string_literal: true

module Vestry
  module Deeds
    # Asks the weather service for the days since it was last heard, and for the days to come.
    module AskWeather
      BACK = 400

      # @param today [Date, nil] the day taken to be today, where one is set
      def self.all(today: nil)
        orchards = Records::Orchard.with_weather.select { |orchard| Outside::WeatherFeed.asked?(orchard) }
        Outside::FailureLog.each_alone(orchards, "asking the weather service") do |orchard|
          call(orchard, today: today || Outside::Clock.today(orchard.time_zone))
        end
      end

      # Asks, unless somebody asks about that orchard just now.
      #
      # @return [Boolean] whether it answered
      def self.call(orchard, today:)
        DB.transaction { Records::AdvisoryLock.free?(:weather, orchard.id) ? ask(orchard, today) : true }
      end

      def self.ask(orchard, today)
        last = Records::SiteWeather.last_measured(orchard, before: today)
        from = [last ? last + 1 : today - BACK, today - BACK].max
        seen = from < today ? seen(orchard, from, today - 1) : []
        # One of an orchard's own tells what was measured alone.
        ahead = orchard.weather_url ? [] : Outside::WeatherFeed.forecast(orchard.weather_place, today)
        # What was forecast and is past is replaced by what was measured; what is measured is never replaced by a
        # forecast.
        KeepWeather.keep(orchard, seen.map { |day| day.merge(forecast: false) } +
                         ahead.map { |day| day.merge(forecast: true) })
        orchard.heard_weather(at: Outside::Clock.now)
        true
      rescue Outside::WeatherFeed::Silent => e
        orchard.heard_weather(trouble: e.message)
        false
      end

      # Days of a span, and none beyond it whatever a service says.
      def self.seen(orchard, from, to)
        return Outside::WeatherFeed.observed(orchard.weather_place, from, to) unless orchard.weather_url

        told = Outside::WeatherFeed.at(orchard.weather_url, orchard.weather_place, from, to)
        days = told.is_a?(String) ? KeepWeather.days_of(orchard, told) : told
        days.select { |day| day[:day].between?(from, to) }
      rescue Refused => e
        raise Outside::WeatherFeed::Silent, "What the weather service says cannot be read: #{e.words}"
      end
      private_class_method :ask, :seen
    end
  end
end
