# frozen_string_literal: true

module Vestry
  module Records
    # Whether rows are still what they were: by where each lies in its table and which change put it
    # there. A row that comes, goes or is written makes another mark, by whatever way it was written.
    # What is kept under a mark is read after it was taken: a change between the two is read, and the
    # next mark is another.
    module Mark
      module_function

      # Told in one question, however many sets of rows.
      #
      # @param facts [Array] everything the question is worded from
      # @yieldreturn [Hash{Sequel::Dataset=>Array<Symbol>}] sets of rows, with the tables of each that are looked at
      # @return [String]
      def of(*facts) = asked(*facts) { DB.select(*yield.map.with_index { |(set, tables), i| set.unordered.naked.select(told(*tables)).as(:"m#{i}") }) }

      # The same for a question with words of its own.
      #
      # @yieldreturn [Sequel::Dataset] of one row
      def asked(*facts, &question) = Worded.ask(:mark, *facts, &question).first.values.join("/")

      # How many rows, and a sum over what each is known by: the order in which they are met does not matter.
      def told(*tables) = summed(known_by(*tables))
      def summed(known) = Sequel.function(:concat, Sequel.function(:count, known), ":", Sequel.function(:sum, known))
      
      # @param seed [Integer] another for rows of another kind, where they are summed together
      def known_by(*tables, seed: 0) = Sequel.function(:hash_record_extended, Sequel.function(:row, *tables.flat_map { |table| [Sequel[table][:ctid], Sequel[table][:xmin]] }), seed)
    end
  end
end
