# frozen_string_literal: true

module Vestry
  module Records
    # What people call single rows of any table: a tree by its row and number, a limb by its tree and tag, whatever
    # hangs on a limb, a graft or a trunk by that.
    class RowNames
      # What a row hangs on is looked for in this order.
      HANGS_ON = %w[photo_id graft_id limb_id wound_id plan_limb_id site_id bundle_id visit_id tree_id plan_id
                    variety_id store_id].freeze
      # What events that are told of a row name by number.
      EVENTS = { "bundles" => { "graft" => "grafts", "wound" => "wounds", "moved" => "stores" } }.freeze
      private_constant :HANGS_ON, :EVENTS

      def initialize(orchard)
        @orchard = orchard
        @names = Hash.new { |names, table| names[table] = {} }
      end

      # @param table [String] of the database
      # @param ids [Array<Integer>]
      # @return [Hash{Integer=>String}] of those that have a name
      def of(table, ids)
        known = @names[table]
        known.update(read(table, ids - known.keys)) unless (ids - known.keys).empty?
        known.slice(*ids).compact
      end

      # The row that a column of a table points at.
      #
      # @return [String, nil] its table
      def table_of(table, column)
        file = Archive::Tables.of(table)&.refs&.fetch(column.to_sym, nil)
        file ? Archive::Tables.named(file).table.to_s : EVENTS.dig(table, column)
      end

      private

      def read(table, ids)
        case table
        when "orchards" then { @orchard.id => @orchard.name }
        when "memberships" then rows(table, ids, :known_as)
        when "trees" then rows(table, ids, :row, :number)
        when "varieties", "stores" then rows(table, ids, :name)
        when "bundles" then rows(table, ids, :number).transform_values { |number| "Wood #{number}" }
        when "limbs", "sites" then tagged(table, ids)
        else hanging(table, ids)
        end
      end

      def rows(table, ids, *columns)
        DB[table.to_sym].where(orchard_id: @orchard.id, id: ids).select_map([:id, *columns])
          .to_h { |id, *words| [id, words.join] }
      end

      def tagged(table, ids)
        rows = DB[table.to_sym].where(orchard_id: @orchard.id, id: ids).select_map(%i[id tree_id tag])
        trees = of("trees", rows.map { |row| row[1] }.uniq)
        rows.to_h { |id, tree, tag| [id, "#{trees[tree]} #{tag}"] }
      end

      # By what it hangs on, as far as a row says that.
      def hanging(table, ids)
        columns = HANGS_ON.select { |column| table_of(table, column) }
        return {} if columns.empty?

        rows = DB[table.to_sym].where(orchard_id: @orchard.id, id: ids).select_map([:id, *columns.map(&:to_sym)])
        columns.each_with_index.reverse_each.with_object({}) do |(column, place), names|
          names.update(above(table_of(table, column), rows.to_h { |row| [row[0], row[place + 1]] }.compact))
        end
      end

      # The names of what rows hang on.
      #
      # @param held [Hash{Integer=>Integer}] by row, the id it points at
      def above(table, held)
        known = of(table, held.values.uniq)
        held.transform_values { |id| known[id] }.compact
      end
    end
  end
end
