# frozen_string_literal: true

module Vestry
  module Records
    module Archive
      # What the database allows in each column, for telling the line and the place of a cell that it would refuse.
      module Limits
        # +column+; +rule+ SQL over the column's name; +allowed+ in words.
        Limit = Struct.new(:column, :rule, :allowed, keyword_init: true)

        module_function

        # @param table [Symbol]
        # @return [Array<Limit>]
        def of(table)
          @of ||= {}
          @of[table] ||= DB[<<~SQL, table.to_s].map { |row| Limit.new(**row.merge(column: row[:column].to_sym)) }.freeze
            SELECT a.attname AS column, pg_get_expr(c.conbin, c.conrelid) AS rule, obj_description(c.oid,
              'pg_constraint') AS allowed
            FROM pg_constraint c JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
            WHERE c.conrelid = ?::regclass AND c.contype = 'c' AND array_length(c.conkey, 1) = 1
              AND obj_description(c.oid, 'pg_constraint') IS NOT NULL
            ORDER BY a.attnum
          SQL
        end

        # A refusal of the database by one of these rules, in words; nil where it was another.
        def words(error)
          found = error.message.match(/relation "(\w+)" violates check constraint "(\w+)"/) or return nil
          name = found[2]
          limit = of(found[1].to_sym).find do |each|
            name == "sane_#{each.column}" || (name == "few_sticks" && each.column == :sticks)
          end
          limit && [limit.column, "is not #{limit.allowed}".sub("is not from", "is not")]
        end
      end
    end
  end
end
