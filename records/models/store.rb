# frozen_string_literal: true

module Vestry
  module Records
    # A cold place where wood is kept, and what its thermometer said.
    class Store < Sequel::Model(DB[:stores])
      include Row
      many_to_one :orchard

      # Keeps readings as [time, celsius]; one at the same time is replaced.
      #
      # @return [Integer] how many were new
      def keep(rows)
        mine = DB[:store_readings].where(store_id: id)
        before = mine.count
        rows.to_h.each_slice(1000) do |slice|
          DB[:store_readings].insert_conflict(target: %i[store_id at], update: { celsius: Sequel[:excluded][:celsius] })
            .multi_insert(slice.map { |at, celsius| { orchard_id: orchard_id, store_id: id, at: at,
                                                      celsius: celsius } })
        end
        mine.count - before
      end

      # When its thermometer was last read.
      def last_reading_at = DB[:store_readings].where(store_id: id).max(:at)

      # Stores that a thermometer tells of.
      def self.with_thermometer = in_sight.exclude(thermometer: nil).all

      # What the thermometer answered, or why it did not: nobody changed the store by it.
      def heard(at: answered_at, trouble: nil) = Store.where(id: id).update(answered_at: at, trouble: trouble)

      # @return [Array<Hash>] +at+ (Time) and +celsius+, in order, none after the end of +until_day+
      def readings(until_day, from: nil)
        rows = DB[:store_readings].where(orchard_id: orchard_id, store_id: id)
          .where(Sequel[:at] < (until_day + 1).to_time)
        rows = rows.where(Sequel[:at] >= from) if from
        rows.order(:at).select_map(%i[at celsius]).map { |at, celsius| { at: at, celsius: celsius } }
      end
    end
  end
end
