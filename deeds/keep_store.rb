# frozen_string_literal: true

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

      # What it is called, and by what its thermometer is asked; none where its readings are brought in.
      #
      # @param values [Hash] +name+ and +thermometer+, those that were changed
      # @raise [Refused] where another is called so; Conflict when someone else changed it
      def correct(store, values, by:, version: nil)
        values.empty? ? store : Ledger.change(store, values, by: by, version: version)
      rescue Sequel::UniqueConstraintViolation
        raise Refused, name: ["#{values[:name]} is a store already"]
      end

      # Readings from a file: time and temperature, in any order. All of it, or none.
      #
      # @return [Hash] +read+, +new+ and +gaps+ (hours, longest first)
      # @raise [Refused] naming line and column
      def read_file(store, text, unit: "celsius", by:)
        raise Refused, unit: ["is celsius or fahrenheit"] unless UNITS.include?(unit)

        rows = parse(store, text.to_s, unit)
        raise Refused, file: ["holds no reading"] if rows.empty?

        fresh = DB.transaction do
          keep(store, rows).tap { Ledger.event(store, { "readings" => rows.size }, by: by) }
        end
        gap = rows.map(&:first).sort.each_cons(2).map { |one, after| (after - one) / 3600.0 }.max || 0
        { read: rows.size, new: fresh, longest_gap_hours: gap }
      end

      # Readings as [time, celsius]; one at the same time is replaced.
      #
      # @return [Integer] how many were new
      def keep(store, rows) = store.keep(rows)

      def parse(store, text, unit)
        rows = matched(store, text.b, unit).lines.reject { |_, found| found["celsius"].nil? }
        raise Refused, file: ["has more than #{MOST_ROWS} lines; bring it in in parts"] if rows.size > MOST_ROWS

        rows.map { |line, found| [moment(line, found["at"]), warmth(line, found["celsius"].to_f, unit)] }
      rescue Records::FileText::Unreadable => e
        raise Refused, file: [e.message]
      end

      # Read as any table from elsewhere; where it does not say in what its temperatures are, +unit+ does.
      def matched(store, bytes, unit)
        table = Records::ForeignTable.new(bytes)
        facts = Records::TableLayout.guess("store_readings", table).facts
        columns = facts["columns"].map do |column|
          column && column["field"] == "celsius" && column["unit"].nil? ? column.merge("unit" => unit[0]) : column
        end
        facts = facts.merge("columns" => columns, "constants" => { "store" => store.name })
        open = Records::TableLayout.new("store_readings", facts).open_questions(table) - [Records::TableLayout::ORDER]
        raise Refused, file: [[*open, "It has #{table.headings.join(', ')}."].join(" ")] if open.any?

        Records::MatchedFile.new(store.orchard, "store_readings", bytes, facts, today: nil)
      end

      def moment(line, text)
        Core::Values.moment(text)&.first || raise(Refused, file: ["line #{line}: has no time such as 2026-02-14 08:30"])
      end

      def warmth(line, celsius, unit)
        return celsius if PLAUSIBLE.cover?(celsius)

        raise Refused, file: ["line #{line}: #{celsius.round(1)} °C is not likely in a store; is the file in " \
                              "#{unit == 'celsius' ? 'Fahrenheit' : 'Celsius'}?"]
      end
      private_class_method :parse, :matched, :moment, :warmth
    end
  end
end
