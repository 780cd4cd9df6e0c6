# frozen_string_literal: true

module Vestry
  module Deeds
    # Daily weather: from the service, or from a station's record that tells by itself how it is to be read.
    module KeepWeather
      module_function

      # @return [Hash] +read+ and +gap_days+: days missing between the first and the last
      # @raise [Refused] naming line and column; then nothing is kept
      def read_file(orchard, text, by:)
        rows = days_of(orchard, text.to_s)
        days = rows.map { |row| row[:day] }
        DB.transaction do
          keep(orchard, rows.map { |row| row.merge(forecast: false) })
          Ledger.event(orchard, { "weather" => days.size }, by: by)
        end
        { read: days.size, gap_days: (days.max - days.min).to_i + 1 - days.uniq.size }
      end

      # Days of a table that a service sent, read as one that looks like it was read here, else as it tells by itself.
      #
      # @return [Array<Hash>]
      # @raise [Refused]
      def days_of(orchard, text)
        file = matched(orchard, text.b)
        bad = file.faults.first
        raise Refused, file: [fault_words(bad)] if bad

        file.fates.reject(&:left_out).map(&:values)
      rescue Records::FileText::Unreadable => e
        raise Refused, file: [e.message]
      end

      # @param rows [Array<Hash>] +day+, +min_c+, +max_c+, +rain_mm+, +gust_ms+, and +forecast+
      def keep(orchard, rows) = Records::SiteWeather.keep(orchard, rows)

      def matched(orchard, bytes)
        table = Records::ForeignTable.new(bytes)
        known = Records::ImportLayouts.find(orchard.id, "station", table.fingerprint)
        layout = known ? Records::TableLayout.new("station", known) : Records::TableLayout.guess("station", table)
        # A day that can be two is told with its line.
        open = layout.open_questions(table) - [Records::TableLayout::ORDER]
        raise Refused, file: [[*open, "It has #{table.headings.join(', ')}."].join(" ")] if open.any?

        Records::MatchedFile.new(orchard, "station", bytes, layout.facts, today: nil)
      end

      def fault_words(fate) = "line #{fate.line}#{fate.fault.start_with?('column') ? ',' : ':'} #{fate.fault}"
      private_class_method :matched, :fault_words
    end
  end
end
