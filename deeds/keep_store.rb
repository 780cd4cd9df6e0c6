# frozen_string_literal: true

require "csv"
require "time"
require "tzinfo"

module Vestry
  module Deeds
    # A store, what its thermometer says, and what is found at a bundle's check.
    module KeepStore
      MOST_ROWS = 200_000

      UNITS = %w[celsius fahrenheit].freeze
      # What a fridge or a cellar could be; the rest is a slipped digit or the wrong unit.
      PLAUSIBLE = (-30.0..45.0)

      module_function

      def open(orchard, name, thermometer: nil, by:)
        raise Refused, name: ["is wanted"] if name.to_s.strip.empty?

        Ledger.add(Records::Store, { orchard_id: orchard.id, name: name.strip[0, 80], thermometer: thermometer },
                   by: by)
      rescue Sequel::UniqueConstraintViolation
        raise Refused, name: ["#{name.strip} is a store already"]
      end

      # Readings from a file: time and temperature, in any order. All of it, or none.
      #
      # @return [Hash] +read+, +new+ and +gaps+ (hours, longest first)
      # @raise [Refused] naming line and column
      def read_file(store, text, unit: "celsius", by:)
        raise Refused, unit: ["is celsius or fahrenheit"] unless UNITS.include?(unit)

        rows = parse(store, text.to_s, unit)
        raise Refused, file: ["holds no reading"] if rows.empty?

        fresh = 0
        DB.transaction do
          fresh = keep(store, rows)
          Ledger.event(store, { "readings" => rows.size }, by: by)
        end
        gap = rows.map(&:first).sort.each_cons(2).map { |one, after| (after - one) / 3600.0 }.max || 0
        { read: rows.size, new: fresh, longest_gap_hours: gap }
      end

      # Readings as [time, celsius]; one at the same time is replaced.
      #
      # @return [Integer] how many were new
      def keep(store, rows) = store.keep(rows)

      def parse(store, text, unit)
        lines = text.dup.force_encoding("UTF-8").delete_prefix("\uFEFF").scrub("?")
        table = CSV.parse(lines, headers: true, field_size_limit: Records::FileText::LONGEST_CELL,
                          col_sep: Records::FileText.heading(lines).include?(";") ? ";" : ",")
        raise Refused, file: ["has more than #{MOST_ROWS} lines; bring it in in parts"] if table.size > MOST_ROWS

        time, warmth = columns(table.headers)
        unit = warmth[/celsius|fahrenheit/i].downcase if warmth.match?(/celsius|fahrenheit/i)
        table.each.with_index(2) { |row, line| row.to_h.compact.empty? ? nil : row["line"] = line }
        table.reject { |row| row["line"].nil? }.map do |row|
          [read_time(store, row[time], row["line"], time), read_warmth(row[warmth], unit, row["line"], warmth)]
        end
      rescue CSV::MalformedCSVError => e
        raise Refused, file: ["cannot be read as CSV: #{e.message}"]
      end

      # The headings of the times and of the temperatures.
      def columns(headers)
        found = [/\A(at|time)/, /\A(celsius|fahrenheit|temp)/].map do |name|
          headers.find { |header| header.to_s.strip.downcase.match?(name) }
        end
        return found if found.all?

        raise Refused, file: ["needs a column “at” and a column “celsius” (or “temperature”); it " \
                              "has #{headers.compact.join(', ')}"]
      end

      def read_time(store, text, line, column)
        time, zoned = Core::Values.moment(text)
        raise ArgumentError unless time

        zoned ? time : Outside::Clock.moment(store.orchard.time_zone, time)
      rescue ArgumentError, TZInfo::PeriodNotFound
        raise Refused, file: ["line #{line}, column “#{column}”: “#{text.to_s[0, 30]}” is not a time such as " \
                              "2026-02-14 08:30"]
      end

      def read_warmth(text, unit, line, column)
        number = Core::Values.number(text) or raise Refused,
                                                    file: ["line #{line}, column “#{column}”: “#{text.to_s[0, 30]}” " \
                                                        "is not a temperature"]

        celsius = unit == "fahrenheit" ? (number - 32) * 5 / 9 : number
        return celsius if PLAUSIBLE.cover?(celsius)

        raise Refused, file: ["line #{line}, column “#{column}”: #{number} #{unit == 'fahrenheit' ? '°F' : '°C'} is " \
                              "not likely in a store; " \
                              "#{unit == 'celsius' ? 'is the file in Fahrenheit?' : 'is the file in Celsius?'}"]
      end
    end
  end
end
