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
      def of(*facts)
        asked(*facts) do
          DB.select(*yield.map.with_index { |(set, tables), i| set.unordered.naked.select(told(*tables)).as(:"m#{i}") })
        end
      end

      # The same for a question with words of its own.
      #
      # @yieldreturn [Sequel::Dataset] of one row
      def asked(*facts, &question) = Worded.ask(:mark, *facts, &question).first.values.join("/")

      # What each of many things is known by, with all that belongs to it.
      #
      # @param facts [Array] everything the question is worded from
      # @yieldreturn [Hash{Array(Symbol, Object)=>Sequel::Dataset}] sets of rows, by the table that is looked at and the
      #   column that names whose they are
      # @return [Hash{Integer=>String}]
      def of_each(*facts)
        Worded.ask(:marks, *facts) do
          parts = yield.each_with_index.map do |((table, owner), set), seed|
            set.unordered.naked.select(owner.as(:owner), known_by(table, seed: seed).as(:known))
          end
          parts.reduce { |all, part| all.union(part, all: true, from_self: false) }.from_self.group(:owner)
            .order(:owner).select(:owner, summed(:known).as(:mark))
        end.to_h { |row| row.values_at(:owner, :mark) }
      end

      # How many rows, and a sum over what each is known by: the order in which they are met does not matter.
      def told(*tables) = summed(known_by(*tables))
      def summed(known) = Sequel.function(:concat, Sequel.function(:count, known), ":", Sequel.function(:sum, known))

      # @param seed [Integer] another for rows of another kind, where they are summed together
      def known_by(*tables, seed: 0)
        Sequel.function(:hash_record_extended, Sequel.function(:row,
                                                               *tables.flat_map { |table| [Sequel[table][:ctid],
                                                                 Sequel[table][:xmin]] }), seed)
      end
    end
  end
end
