# frozen_string_literal: true

module Vestry
  module Deeds
    # Measures a wound: its girth, its margins all the way round, and how it lies. Scions that were
    # placed by hand keep their places; their lengths follow the new margins.
    module MeasureWound
      # @param values [Hash] columns of a wound
      # @param readings [Array<Hash>, nil] margins; nil leaves them
      # @param today [Date, nil] then what is asked before it can be measured is done with it
      # @raise [Refused, Conflict]
      def self.call(wound, values, readings, by:, version: nil, today: nil)
        DB.transaction do
          # As it is while nobody else sets, places or measures there.
          wound = wound.locked
          check(wound, readings) if readings
          was = [wound.buried, wound.root_bark]
          row = Ledger.change(wound, values, by: by, version: version)
          fresh = !readings.nil? && changed?(wound, readings)
          replace(wound, readings, by) if fresh
          row.refresh
          found_sound(row, by, today) if today && (fresh || was != [row.buried, row.root_bark])
          row
        end
      end

      def self.replace(wound, readings, by)
        before = facts(wound.margins)
        wound.replace_margins(readings)
        Ledger.event(wound, facts(readings), before: before, by: by)
      end

      # Whoever measured down to sound bark, above the soil or dug out, has found where it begins.
      def self.found_sound(wound, by, today)
        return if wound.buried || !wound.root_bark || wound.margins.empty?

        asked = Records::WoundReport.new(wound, today).mending[:tasks]
          .find { |task| task[:key] == "dig" && %w[open late].include?(task[:status]) }
        SettleTask.call(wound, "dig", "done", by: by, today: today) if asked
      end

      # As they are called out, and as they are kept.
      def self.facts(margins)
        { "margins" => Core::Repair::MarginRun.say(margins).tr("\n", ","),
          "readings" => Records::Wound.plain_margins(margins) }
      end

      def self.check(wound, readings)
        bridged = wound.seated.map(&:set_on).min
        return unless bridged && changed?(wound, readings)

        raise Refused, margins: ["were bridged on #{SaidDay.of(bridged)}: a new wound is another one"]
      end

      def self.changed?(wound, readings)
        wound.margins.map(&:values) != readings.map { |each| each.values_at(:bearing_deg, :low_mm, :high_mm) }
      end
      private_class_method :replace, :found_sound, :facts, :check, :changed?
    end
  end
end
