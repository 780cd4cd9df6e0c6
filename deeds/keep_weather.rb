# frozen_string_literal: true

require "csv"

module Vestry
  module Deeds
    # Daily weather: from the service, or from a station's file.
    module KeepWeather
      MOST_ROWS = 100_000

      # A column's name, what it is worth, and what is believable.
      COLUMNS = {
        min_c: { names: { /\Amin(_c|\b.*c)?\z/ => ->(v) { v }, /\Amin_f\z/ => ->(v) { (v - 32) / 1.8 } },
                 range: -60..50, unit: "°C" },
        max_c: { names: { /\Amax(_c|\b.*c)?\z/ => ->(v) { v }, /\Amax_f\z/ => ->(v) { (v - 32) / 1.8 } },
                 range: -60..60, unit: "°C" },
        rain_mm: { names: { /\Arain(_mm)?\z/ => ->(v) { v }, /\Arain_in\z/ => ->(v) { v * 25.4 } }, range: 0..1000,
                   unit: "mm" },
        gust_ms: { names: { /\Agust(_ms)?\z/ => ->(v) { v }, /\Agust_kmh\z/ => ->(v) { v / 3.6 },
                            /\Agust_mph\z/ => ->(v) { v * 0.44704 }, /\Agust_kn\z/ => ->(v) { v * 0.514444 } },
                   range: 0..120, unit: "m/s" }
      }.freeze

      module_function

      # @return [Hash] +read+ and +gap_days+: days missing between the first and the last
      # @raise [Refused] naming line and column; then nothing is kept
      def read_file(orchard, text, by:)
        rows = parse(text.to_s)
        raise Refused, file: ["holds no day"] if rows.empty?

        DB.transaction do
          keep(orchard, rows)
          Ledger.event(orchard, { "weather" => rows.size }, by: by)
        end
        days = rows.map { |row| row[:day] }
        { read: rows.size, gap_days: (days.max - days.min).to_i + 1 - days.uniq.size }
      end

      # @param rows [Array<Hash>] +day+, +min_c+, +max_c+, +rain_mm+, +gust_ms+, and +forecast+
      def keep(orchard, rows) = Records::SiteWeather.keep(orchard, rows)

      def parse(text)
        lines = text.dup.force_encoding("UTF-8").delete_prefix("\uFEFF").scrub("?")
        table = CSV.parse(lines, headers: true, field_size_limit: Records::FileText::LONGEST_CELL,
                          col_sep: Records::FileText.heading(lines).include?(";") ? ";" : ",")
        raise Refused, file: ["has more than #{MOST_ROWS} lines; bring it in in parts"] if table.size > MOST_ROWS

        day = table.headers.find { |header| header.to_s.strip.downcase.match?(/\A(day|date)\z/) }
        found = COLUMNS.to_h { |name, facts| [name, column(table.headers, facts)] }
        unless day && found[:min_c] && found[:max_c]
          raise Refused, file: ["needs columns day, min_c and max_c (or min_f and max_f); it " \
                                "has #{table.headers.compact.join(', ')}"]
        end

        table.each_with_index.reject { |row, _| row.to_h.values.compact.empty? }.map do |row, i|
          read_row(row, i + 2, day, found)
        end
      rescue CSV::MalformedCSVError => e
        raise Refused, file: ["cannot be read as CSV: #{e.message}"]
      end

      # The header that holds a figure, and how it is turned into ours.
      def column(headers, facts)
        facts[:names].each do |pattern, turn|
          header = headers.find { |each| each.to_s.strip.downcase.match?(pattern) } and return [header, turn]
        end
        nil
      end

      def read_row(row, line, day, found)
        date = Core::Values.day(row[day]) or raise Refused,
                                                   file: ["line #{line}, column “#{day}”: “#{row[day].to_s[0, 30]}” " \
                                                       "is not a day such as 2026-02-14"]
        values = found.compact.to_h do |name, (header, turn)|
          [name, read_figure(row[header], line, header, turn, COLUMNS.dig(name, :range), COLUMNS.dig(name, :unit),
                             needed: %i[min_c max_c].include?(name))]
        end
        if values[:min_c] > values[:max_c]
          raise Refused, file: ["line #{line}: the least temperature, #{values[:min_c].round(1)} °C, is above the " \
                                "greatest, #{values[:max_c].round(1)} °C"]
        end

        { day: date, **values }
      end

      def read_figure(text, line, header, turn, range, unit, needed:)
        return nil if text.to_s.strip.empty? && !needed

        number = Core::Values.number(text) or raise Refused,
                                                    file: ["line #{line}, column “#{header}”: “#{text.to_s[0, 30]}” " \
                                                        "is not a number"]

        value = turn.call(number)
        range.cover?(value) ? value :
          raise(Refused, file: ["line #{line}, column “#{header}”: #{number} is not believable; #{range.first} " \
                                "to #{range.last} #{unit} is. Check the unit."])
      end
    end
  end
end
