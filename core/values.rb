# frozen_string_literal: true

require "date"

module Vestry
  module Core
    # The one door for values: numbers, days and moments as text, whoever sends them. What is not plainly one of
    # these is none: no NaN, no Infinity, no "now", no day in the order of some country.
    module Values
      # The same as patterns, for a database to read by. Each is anchored and knows no groups.
      NUMBER = '^\s*[+-]?([0-9]+(\.[0-9]*)?|\.[0-9]+)([eE][+-]?[0-9]{1,2})?\s*$'
      WHOLE = '^\s*[+-]?[0-9]{1,10}\s*$'
      DAY = '^\s*[0-9]{4}-[0-9]{2}-[0-9]{2}\s*$'
      MOMENT = '^\s*[0-9]{4}-[0-9]{2}-[0-9]{2}[T ][0-9]{2}:[0-9]{2}(:[0-9]{2}(\.[0-9]+)?)?' \
               '( ?(Z|[+-][0-9]{2}(:?[0-9]{2})?|UTC))?\s*$'
      FURTHEST = Contract::FURTHEST_NUMBER
      # For Ruby, whose ^ and $ are those of a line.
      WHOLE_TEXT = [NUMBER, WHOLE, DAY, MOMENT].to_h do |pattern|
        [pattern, Regexp.new("\\A#{pattern[1..-2]}\\z")]
      end.freeze
      private_constant :WHOLE_TEXT

      module_function

      # @param text [Object] a decimal comma is a point
      # @return [Float, nil] nil where it is no number, or past all measure
      def number(text)
        plain = text.to_s.scrub("?").tr(",", ".").tr("−", "-")
        return nil unless plain.match?(WHOLE_TEXT[NUMBER])

        value = Float(plain.strip.sub(/\A([+-]?)\./, '\10.').sub(/\.(?=[eE]|\z)/, ""))
        value if value.abs <= FURTHEST
      end

      # @return [Integer, nil]
      def whole(text)
        plain = text.to_s.scrub("?")
        Integer(plain.strip, 10).then { |value| value if value.abs <= FURTHEST } if plain.match?(WHOLE_TEXT[WHOLE])
      end

      # @return [Date, nil] a day written as 2026-05-18, from 1700 to 2200
      def day(text)
        return text if text.instance_of?(Date)

        plain = text.to_s.scrub("?")
        date = plain.match?(WHOLE_TEXT[DAY]) ? Date.iso8601(plain.strip) : nil
        date if date && Contract::DAYS.cover?(date)
      rescue Date::Error
        nil
      end

      # The pound of 1959.
      POUND_KG = 0.45359237
      OUNCE_G = POUND_KG * 1000 / 16

      # A weight as people write it: 3.5, 3,5 kg, 12 lb.
      #
      # @return [Float, nil] kg, to the gram
      def kilograms(text)
        number, unit = text.to_s.scrub("?").strip.match(/\A(.*?)\s*(kg|lbs?)?\.?\z/im).captures
        number(number)&.then { |weight| (weight * (unit.to_s.match?(/\Al/i) ? POUND_KG : 1)).round(3) }
      end

      # A light weight as people write it: 455, 455 g, 1.2 kg, 12.5 oz.
      #
      # @param units [String] of a bare number: g (metric) or oz (imperial)
      # @return [Float, nil] g, to the tenth
      def grams(text, units: "metric")
        number, unit = text.to_s.scrub("?").strip.match(/\A(.*?)\s*(g|kg|oz|lbs?)?\.?\z/im).captures
        bare = units == "imperial" ? OUNCE_G : 1
        worth = { "g" => 1, "kg" => 1000.0, "oz" => OUNCE_G, "lb" => POUND_KG * 1000, "lbs" => POUND_KG * 1000 }
        number(number)&.then { |weight| (weight * worth.fetch(unit.to_s.downcase, bare)).round(1) }
      end

      # A time written as 2026-05-18 09:30, with or without its zone.
      #
      # @return [Array(Time, Boolean), nil] the time as if it were UTC where it names no zone, and whether it names one
      def moment(text)
        plain = text.to_s.scrub("?").strip
        return nil unless plain.match?(WHOLE_TEXT[MOMENT]) && day(plain[0, 10])

        zone = plain[/(Z|UTC|[+-]\d\d(:?\d\d)?)\z/, 1] if plain.match?(/:\d\d.*(Z|UTC|[+-]\d\d(:?\d\d)?)\z/)
        clock = plain[11..].delete_suffix(zone.to_s).strip
        hour, minute, second = clock.split(":").map(&:to_f)
        return nil unless hour < 24 && minute < 60 && (second || 0) < 60

        date = Date.iso8601(plain[0, 10])
        [Time.utc(date.year, date.month, date.day, hour.to_i, minute.to_i, second || 0) - offset(zone), !zone.nil?]
      end

      # Seconds that a zone is ahead of UTC.
      def offset(zone)
        sign, hours, minutes = zone.to_s.match(/\A([+-])(\d\d):?(\d\d)?\z/)&.captures
        sign ? (hours.to_i * 3600 + minutes.to_i * 60) * (sign == "-" ? -1 : 1) : 0
      end
      private_class_method :offset
    end
  end
end
