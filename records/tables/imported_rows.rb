# frozen_string_literal: true

module Vestry
  module Records
    # The rows of a table that a file brought in, for taking them back.
    class ImportedRows
      def initialize(import)
        @import = import
        @table = Archive::Tables.named(import.kind)
      end

      # Whether they have numbers of their own; else they are known by all they say.
      def numbered? = @table.id?

      # Whether what was written is still known.
      def known? = numbered? || !lines.empty?

      # Whether any was changed since.
      def changed?
        !DB[:history].where(orchard_id: @import.orchard_id, table_name: @table.table.to_s, row_id: ids)
          .exclude(action: "add").empty?
      end

      # Whether other rows point at any of them.
      def pointed_at?
        Archive::Tables.all.any? do |other|
          other.refs.select { |_, file| file == @table.name }.keys.any? { |column| points?(other, column) }
        end
      end

      # Takes them out of sight where they can be, else away, with a line of history for each.
      #
      # @return [Integer] how many
      def hide(by:, why:)
        rows = DB[@table.table].where(orchard_id: @import.orchard_id, id: ids)
        hides?(@table) ? rows.update(hidden_at: Time.now.utc) : rows.delete
        HistoryLog.add_all(ids.to_h { |id| [id, nil] }, orchard_id: @import.orchard_id, table: @table.table,
                           action: "hide",
                           who: by, why: why)
        ids.size
      end

      # Takes away those that are known by all they say.
      #
      # @return [Integer, nil] how many; nil where some are no longer what they were
      def remove
        # What lies there has just changed much: how the rows are best found is looked up anew.
        DB.run("ANALYZE import_lines, #{@table.table}")
        same = DB[@table.table].where(orchard_id: @import.orchard_id,
                                      Sequel.function(:to_jsonb, Sequel[@table.table]) => lines.select(:row))
        same.delete == lines.count ? lines.count : nil
      end

      private

      def ids = @ids ||= DB[:import_rows].where(import_id: @import.id).select_map(:row_id)
      def lines = DB[:import_lines].where(import_id: @import.id)
      def hides?(table) = DB[table.table].columns.include?(:hidden_at)

      def points?(other, column)
        rows = DB[other.table].where(column => ids)
        # One of the same file goes with it.
        rows = rows.exclude(id: ids) if other == @table
        !(hides?(other) ? rows.where(hidden_at: nil) : rows).empty?
      end
    end
  end
end
