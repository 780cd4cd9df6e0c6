# frozen_string_literal: true

module Vestry
  module Records
    # How often each table of an orchard was written: the number of statements that changed it and were
    # committed. Triggers count, so that it does not matter who wrote or how. Each connection counts in a slot of its
    # own: writers never wait for each other's, and the sum over the slots is the number.
    module Revisions
      # The slot into which those of connections that are gone are gathered; no connection has it.
      GATHERED = 0

      module_function

      # @return [Hash{String=>Integer}] by table, those alone that were ever written
      def of(orchard)
        DB[:revisions].where(orchard_id: orchard.id).group(:area).order(:area)
          .select_hash(:area, Sequel.cast(Sequel.function(:sum, :number), :bigint).as(:number)).freeze
      end

      # Gathers the slots of connections that are gone; every number stays what it is.
      def gather
        here = DB[:pg_stat_activity].select(:pid)
        DB.transaction do
          DB[:revisions].exclude(orchard_id: DB[:orchards].select(:id)).delete
          gone = DB[:revisions].exclude(slot: GATHERED).exclude(slot: here).returning.delete
          gone.group_by { |row| row.values_at(:orchard_id, :area) }.sort.each do |(orchard_id, area), rows|
            DB[:revisions].insert_conflict(target: %i[orchard_id area slot],
                                           update: { number: Sequel[:revisions][:number] + Sequel[:excluded][:number] })
                          .insert(orchard_id: orchard_id, area: area, slot: GATHERED,
                                  number: rows.sum { |row| row[:number] })
          end
        end
      end
    end
  end
end
