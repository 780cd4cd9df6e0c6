# frozen_string_literal: true

require "date"

module Vestry
  module Outside
    # Asks the weather service: the one that an orchard names, else the installation's. Where there is none, a station's
    # record is brought in by hand.
    module WeatherFeed
      Silent = HttpAnswer::Silent

      module_function

      def address = Settings.standins && "#{Settings.standins}/weather"

      # Whether there is anyone to ask about an orchard.
      def asked?(orchard) = !orchard.weather_url.nil? || !(orchard.weather_place.nil? || address.nil?)

      # What was measured, day by day; days that came late are not there yet.
      def observed(place, from, to) = days(place, from: from.iso8601, to: to.iso8601)

      # What an orchard's own service says of a span: days, where it speaks as ours does, else the table that it sent.
      #
      # @param url [String] with {place}, {from} and {to} where those belong
      # @return [Array<Hash>, String]
      # @raise [Silent]
      def at(url, place, from, to)
        filled = { "{place}" => place.to_s, "{from}" => from.iso8601, "{to}" => to.iso8601 }
          .reduce(url) { |text, (name, said)| text.gsub(name, URI.encode_www_form_component(said)) }
        text = HttpAnswer.text(NAME, filled)
        text.lstrip.start_with?("[", "{") ? read(HttpAnswer.parsed(NAME, text)) : text
      end
      NAME = "The weather service"

      # The ten days from +made_on+ on.
      def forecast(place, made_on) = days("#{place}/forecast", made_on: made_on.iso8601)

      def days(path, query) = read(HttpAnswer.json(NAME, "#{address}/#{path}", query))

      def read(said)
        said.map do |each|
          day = { day: Core::Values.day(each.fetch("day")),
                  **%w[min_c max_c rain_mm gust_ms].to_h { |name| [name.to_sym,
                      each[name] && Core::Values.number(each[name])] } }
          whole = day.values_at(:day, :min_c, :max_c).all?
          whole && !Core::Slip::DayOfWeather.fault(day) ? day : raise(ArgumentError)
        end
      rescue KeyError, ArgumentError, TypeError, NoMethodError
        raise Silent, "What the weather service says cannot be read."
      end
      private_class_method :days, :read
    end
  end
end
