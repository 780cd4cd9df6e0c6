# frozen_string_literal: true

module Vestry
  module Records
    # The different values of a column, found by stepping from each to the next along an index: as many
    # steps as there are values, however many rows there are.
    module Distinct
      module_function

      # @param column [Symbol]
      # @param facts [Array] everything the dataset is worded from
      # @yieldreturn [Sequel::Dataset] with an index that leads to the column
      # @return [Array] in order, without NULL
      def values(column, *facts, most: 10_000, &dataset)
        Worded.ask(:distinct, column, most, *facts) { stepping(dataset.call, column).limit(most) }.map(:value)
      end

      def stepping(dataset, column)
        rows = dataset.unordered.exclude(column => nil).order(column).limit(1).naked
        following = rows.where(Sequel[column] > Sequel[:steps][:value]).select(column)
        DB[:steps].with_recursive(:steps, DB.from(rows.select(column).as(:first, [:value])).select(:value),
                                  DB[:steps].exclude(Sequel[:steps][:value] => nil).select(following.as(:value)),
                                  args: [:value])
                  .exclude(value: nil)
      end
      private_class_method :stepping
    end
  end
end
