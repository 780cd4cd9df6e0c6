# frozen_string_literal: true

module Vestry
  module Records
    # A weather station's record on its way in: days, each measured as a whole or put together from what was measured
    # through it. A day that is here already is measured anew; what stood there is kept until the file is taken back.
    class StationFile
      # What is believable of each figure, and its unit.
      RANGES = { min_c: [-60..50, "°C"], max_c: [-60..60, "°C"], rain_mm: [0..1000, "mm"], 
gust_ms: [0..120, "m/s"] }.freeze
      KEPT = %i[day min_c max_c rain_mm gust_ms].freeze
      LineFate = Struct.new(:line, :label, :fault, :values, :left_out, keyword_init: true)
      Unreadable = FileText::Unreadable
      private_constant :RANGES, :KEPT

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
        lines = DB[:import_lines].where(import_id: import.id).select_map(:row).map(&:to_h)
        days = DB[:weather_days].where(orchard_id: import.orchard_id, day: lines.map { |line| line["day"] })
        standing = days.select_map(%i[day min_c max_c rain_mm gust_ms forecast]).map { |row| known(row) }
        return unless lines.map { |line| line["after"] }.sort_by(&:to_s) == standing.sort_by(&:to_s)

        days.delete
        before = lines.filter_map { |line| line["before"] }
        DB[:weather_days].multi_insert(before.map { |row| { orchard_id: import.orchard_id, **columns(row) } })
        lines.size
      end

      def self.known(row) = [row.first.iso8601, *row.drop(1)]
      def self.columns(row) = %i[day min_c max_c rain_mm gust_ms forecast].zip(row).to_h
      private_class_method :known, :columns

      private

      def note(days)
        stood = DB[:weather_days].where(orchard_id: @orchard.id, day: days.map { |day| day[:day] }).for_update
          .select_map(%i[day min_c max_c rain_mm gust_ms forecast]).to_h { |row| [row.first, row] }
        rows = days.map do |day|
          after = [day[:day].iso8601, *day.values_at(:min_c, :max_c, :rain_mm, :gust_ms), false]
          before = stood[day[:day]]&.then { |row| [row.first.iso8601, *row.drop(1)] }
          [@import.id, Sequel.pg_jsonb({ "day" => day[:day].iso8601, "before" => before, "after" => after })]
        end
        rows.each_slice(1000) { |some| DB[:import_lines].import(%i[import_id row], some) }
      end

      def fault(day)
        return nil if day[:left_out]
        return "has no day" unless day[:day]

        missing = %i[min_c max_c].find { |name| day[name].nil? }
        return "column #{missing}: no figure stands there" if missing

        unlikely(day) || ("the least temperature, #{day[:min_c].round(1)} °C, is above the greatest, " \
                          "#{day[:max_c].round(1)} °C" if day[:min_c] > day[:max_c])
      end

      def unlikely(day)
        name, (range, unit) = RANGES.find { |each, (believable, _)| day[each] && !believable.cover?(day[each]) }
        return unless name

        "#{day[name].round(1)} #{unit} is not believable; #{range.first} to #{range.last} #{unit} is. Check the unit."
      end
    end
  end
end
