# frozen_string_literal: true

module Vestry
  module Records
    # The different values of a column, found by stepping from each to the next along an index: as many
    # steps as there are values, however many rows there are.
    module Distinct
      module_function

      # @param dataset [Sequel::Dataset] with an index that leads to the column
      # @param column [Symbol]
      # @return [Array] in order, without NULL
      def values(dataset, column, most: 10_000)
        rows = dataset.unordered.exclude(column => nil).order(column).limit(1).naked
        following = rows.where(Sequel[column] > Sequel[:steps][:value]).select(column)
        DB[:steps].with_recursive(:steps, DB.from(rows.select(column).as(:first, [:value])).select(:value),
                                  DB[:steps].exclude(Sequel[:steps][:value] => nil).select(following.as(:value)), args: [:value])
                  .exclude(value: nil).limit(most).select_map(:value)
      end
    end
  end
end
