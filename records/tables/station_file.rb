# frozen_string_literal: true

module Vestry
  module Records
    # A weather station's record on its way in: days, each measured as a whole or put together from what was measured
    # through it. A day that is here already is measured anew; what stood there is kept until the file is taken back.
    class StationFile
      KEPT = %i[day min_c max_c rain_mm gust_ms].freeze
      LineFate = Struct.new(:line, :label, :fault, :values, :left_out, keyword_init: true)
      Unreadable = FileText::Unreadable
      private_constant :KEPT

      # @param readings [Array<Hash>] as Core::Slip::StationDays takes them, each with its +line+
      def initialize(orchard, readings, import: nil)
        @orchard = orchard
        @readings = readings
        @import = import
      end

      # @return [Array<LineFate>] one for each day, at its first line
      def fates
        @fates ||= Core::Slip::StationDays.call(@readings, rulebook: @orchard.rulebook).map do |day|
          fault = fault(day)
          LineFate.new(line: day[:line], label: day[:day]&.iso8601.to_s, fault: fault, left_out: day[:left_out],
                       values: day.slice(*KEPT))
        end
      end

      def faults = fates.select(&:fault)
      def kept = fates.reject(&:left_out)

      # @yield [Integer] how many days are through
      def write
        raise Unreadable, "line #{faults.first.line}: #{faults.first.fault}" if faults.any?

        days = kept.map(&:values)
        note(days) if @import
        SiteWeather.keep(@orchard, days.map { |day| day.merge(forecast: false) })
        yield fates.size if block_given?
      end

      # What a file of an import wrote is as it was before.
      #
      # @return [Integer, nil] how many days; nil where some were measured anew since
      def self.take_back(import)
        lines = DB[:import_lines].where(import_id: import.id).select_map(:row)
        day, before, after = %w[day before after].map { |name| lines.map { |line| line[name] } }
        standing = DB[:weather_days].where(orchard_id: import.orchard_id, day: day)
        return unless after.sort_by(&:first) == rows(standing.for_update).sort_by(&:first)

        standing.delete
        DB[:weather_days].multi_insert(before.compact.map { |row| { orchard_id: import.orchard_id, **facts(row) } })
        lines.size
      end

      def self.facts(row) = COLUMNS.zip(row).to_h
      private_class_method :facts

      # @param days [Sequel::Dataset]
      # @return [Array<Array>] each day's row as JSON holds it
      def self.rows(days) = days.select_map(COLUMNS).map { |row| [row.first.iso8601, *row.drop(1)] }
      COLUMNS = %i[day min_c max_c rain_mm gust_ms forecast].freeze
      private_constant :COLUMNS

      private

      # What each day was before, and what it is now.
      def note(days)
        stood = stood(days.map { |day| day[:day] })
        rows = days.map do |day|
          after = [day[:day].iso8601, *day.values_at(:min_c, :max_c, :rain_mm, :gust_ms), false]
          line = { "day" => after.first, "before" => stood[after.first], "after" => after }
          [@import.id, Sequel.pg_jsonb(line)]
        end
        rows.each_slice(1000) { |some| DB[:import_lines].import(%i[import_id row], some) }
      end

      def stood(days)
        rows = DB[:weather_days].where(orchard_id: @orchard.id, day: days).for_update
        self.class.rows(rows).to_h { |row| [row.first, row] }
      end

      def fault(day)
        return nil if day[:left_out]
        return "has no day" unless day[:day]

        missing = %i[min_c max_c].find { |name| day[name].nil? }
        return "column #{missing}: no figure stands there" if missing

        case name = Core::Slip::DayOfWeather.fault(day)
        when nil then nil
        when :order then "the least temperature, #{day[:min_c].round(1)} °C, is above the greatest, " \
                         "#{day[:max_c].round(1)} °C"
        else unlikely(name, day[name])
        end
      end

      def unlikely(name, figure)
        range, unit = Core::Slip::DayOfWeather::RANGES[name], Core::Slip::DayOfWeather::UNITS[name]
        "#{figure.round(1)} #{unit} is not believable; #{range.first} to #{range.last} #{unit} is. Check the unit."
      end
    end
  end
end
