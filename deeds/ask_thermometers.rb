# frozen_string_literal: true

module Vestry
  module Deeds
    # Asks every store's thermometer for what it measured since it was last asked.
    module AskThermometers
      # How far back a thermometer that was never asked is asked.
      BACK = 30 * 86_400

      def self.call(now: nil)
        return unless Outside::Thermometer.address

        Outside::FailureLog.each_alone(Records::Store.with_thermometer, "asking a thermometer") do |store|
          ask(store, now || moment(store))
        end
      end

      # The end of the day that is taken to be today, or now.
      def self.moment(store)
        Settings.today ? (Outside::Clock.today(store.orchard.time_zone) + 1).to_time - 1 : Time.now.utc
      end

      def self.ask(store, now)
        last = store.last_reading_at
        from = last ? last + 1 : now - BACK
        return if from >= now

        rows = Outside::Thermometer.readings(store.thermometer, [from, now - 300 * 86_400].max, now)
          .select do |_, celsius|
          KeepStore::PLAUSIBLE.cover?(celsius)
        end
        KeepStore.keep(store, rows)
        store.heard(at: Outside::Clock.now)
      rescue Outside::Thermometer::Silent => e
        store.heard(trouble: e.message)
      end
      private_class_method :ask, :moment
    end
  end
end
