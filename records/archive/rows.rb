# frozen_string_literal: true

module Vestry
  module Records
    module Archive
      # Rows of an orchard's tables as plain values, a page at a time.
      module Rows
        MOST = 200
        # What a table's rows are asked for by; those without an id are read whole, in order.
        NAMES = Tables.all.map(&:name).freeze

        module_function

        # @return [Hash] +items+ and +next+ (what to ask for the page after with, or nil)
        def page(orchard, table, after:, limit:)
          rows = in_sight(table, DB[table.table].where(orchard_id: orchard.id))
          limit = (limit || 50).clamp(1, MOST)
          rows = table.id? ? rows.where(Sequel[table.table][:id] > after.to_i).order(:id) :
            rows.order(*order(table)).offset(after.to_i)
          found = rows.limit(limit + 1).all
          more = found.size > limit
          { items: found.first(limit).map { |row| row(table, row) },
            next: (table.id? ? found[limit - 1][:id] : after.to_i + limit if more) }
        end

        def one(orchard, table, id)
          number = Integer(id.to_s, 10, exception: false)
          found = table.id? && number&.between?(1, 2_147_483_647) &&
            in_sight(table, DB[table.table].where(orchard_id: orchard.id, id: number)).first
          found ? row(table, found) : raise(Missing)
        end

        # Holds a row while something is done with it as it is now.
        #
        # @yieldparam row [Hash] as {one} gives it
        # @raise [Missing]
        def holding(orchard, table, id)
          DB.transaction do
            one(orchard, table, id)
            DB[table.table].where(orchard_id: orchard.id, id: Integer(id, 10)).for_update.get(:id)
            yield one(orchard, table, id)
          end
        end

        # Those that are not hidden, nor stand on something that is.
        def in_sight(table, rows, name = table.table)
          rows = rows.where(Sequel[name][:hidden_at] => nil) if DB.schema(table.table).to_h.key?(:hidden_at)
          table.refs.except(:variety_id).reduce(rows) do |left, (column, file)|
            other = Tables.named(file)
            next left if other == table

            inside = :"#{name}_#{column}"
            standing = in_sight(other, DB.from(Sequel.as(other.table,
                inside)).where(Sequel[inside][:id] => Sequel[name][column]),
                                inside)
            left.where(Sequel.|({ Sequel[name][column] => nil }, standing.select(1).exists))
          end
        end

        def row(table, row)
          shown = row.slice(*([:id] if table.id?), *table.columns.keys).transform_values { |value| plain(value) }
          shown.except(:client_key, :hidden_at)
        end

        # Flat enough for JSON.
        def plain(value)
          case value
          when BigDecimal then value.to_f
          when Date, Time then value.iso8601
          when Sequel::Postgres::PGArray then value.map(&:to_f)
          when Sequel::Postgres::JSONBHash then value.to_h
          else value
          end
        end

        def order(table) = table.order.gsub("t.", "").split(",").map { |name| name.strip.to_sym }
        private_class_method :plain, :order, :in_sight
      end
    end
  end
end
