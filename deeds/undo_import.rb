# frozen_string_literal: true

module Vestry
  module Deeds
    # Takes a file of a table back.
    module UndoImport
      # Takes back the rows a file brought, while nothing was done to them since and nothing else
      # points at them; out of sight where rows can be, else away.
      #
      # @raise [Refused]
      def self.call(import, by:)
        table = Records::Archive::Tables.named(import.kind)
        DB.transaction do
          count = table.id? ? hide(table, import, by) : remove(table, import)
          import.update(undone_at: Time.now.utc)
          DB[:history].insert(orchard_id: import.orchard_id, table_name: "imports", row_id: import.id, action: "hide",
                              who: by, before: Sequel.pg_jsonb({ "file" => import.file_name, "lines" => count }))
        end
      end

      CHANGED = "Some of its rows were changed since: they stay."

      # @return [Integer] how many rows
      def self.hide(table, import, by)
        ids = DB[:import_rows].where(import_id: import.id).select_map(:row_id)
        rows = DB[table.table].where(orchard_id: import.orchard_id, id: ids)
        if DB[:history].where(orchard_id: import.orchard_id, table_name: table.table.to_s, row_id: ids)
          .exclude(action: "add").any?
          raise Refused, file: [CHANGED]
        end
        raise Refused, file: ["Other rows point at some of these now: they stay."] if pointed_at?(table, ids)

        DB[table.table].columns.include?(:hidden_at) ? rows.update(hidden_at: Time.now.utc) : rows.delete
        ids.each_slice(1000) do |some|
          DB[:history].multi_insert(some.map { |id| { orchard_id: import.orchard_id, table_name: table.table.to_s,
                                                      row_id: id, action: "hide", who: by,
                                                      why: "#{import.file_name} was taken back" } })
        end
        ids.size
      end

      # Rows without a number are known by all they say.
      #
      # @return [Integer] how many
      def self.remove(table, import)
        kept = DB[:import_lines].where(import_id: import.id)
        raise Refused, file: ["What it wrote was not kept then, so it is not told from other rows now."] if kept.empty?

        # What lies there has just changed much: how the rows are best found is looked up anew.
        DB.run("ANALYZE import_lines, #{table.table}")
        same = DB[table.table].where(orchard_id: import.orchard_id,
                                     Sequel.function(:to_jsonb, Sequel[table.table]) => kept.select(:row))
        raise Refused, file: [CHANGED] unless same.delete == kept.count

        kept.count
      end

      def self.pointed_at?(table, ids)
        Records::Archive::Tables.all.any? do |other|
          other.refs.select { |_, file| file == table.name }.keys.any? do |column|
            rows = DB[other.table].where(column => ids)
            # One of the same file goes with it.
            rows = rows.exclude(id: ids) if other == table
            (DB[other.table].columns.include?(:hidden_at) ? rows.where(hidden_at: nil) : rows).any?
          end
        end
      end
      private_class_method :hide, :remove, :pointed_at?
    end
  end
end
