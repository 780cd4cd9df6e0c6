# frozen_string_literal: true

module Vestry
  module Records
    # The distinct values of an indexed column, found by stepping from each value to the next along the index
    # (a loose index scan): as many steps as there are values, however many rows there are.
    module LooseIndexScan
      module_function

      # @param dataset [Sequel::Dataset] with an index that leads to the column
      # @param column [Symbol]
      # @return [Array] in order, without NULL
      def values(dataset, column, most: 10_000)
        rows = dataset.unordered.exclude(column => nil).order(column).limit(1).naked
        following = rows.where(Sequel[column] > Sequel[:steps][:value]).select(column)
        DB[:steps].with_recursive(:steps, DB.from(rows.select(column).as(:first, [:value])).select(:value),
                                  DB[:steps].exclude(Sequel[:steps][:value] => nil).select(following.as(:value)),
                                  args: [:value])
                  .exclude(value: nil).limit(most).map(:value)
      end
    end
  end
end
