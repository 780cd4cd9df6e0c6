# frozen_string_literal: true

module Vestry
  module Records
    # A cold place where wood is kept, and what its thermometer said.
    class Store < Sequel::Model(DB[:stores])
      include Row
      many_to_one :orchard

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
