# frozen_string_literal: true

module Vestry
  module Records
    # How often each table of an orchard was written: the number of statements that changed it and were
    # committed. Triggers count, so that it does not matter who wrote or how. Each area (a table) has a few slots,
    # and a transaction raises one that nobody else holds: writers never wait for each other's, and the sum over
    # the slots is the number.
    module Revisions
      module_function

      # @return [Hash{String=>Integer}] by table, those alone that were ever written
      def of(orchard)
        DB[:revisions].where(orchard_id: orchard.id).group(:area).order(:area)
          .select_hash(:area, Sequel.cast(Sequel.function(:sum, :number), :bigint).as(:number)).freeze
      end
    end
  end
end
