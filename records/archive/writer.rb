# frozen_string_literal: true

require "json"

module Vestry
  module Records
    module Archive
      # Writes an orchard's files, each straight from the database.
      class Writer
        # @param far [Proc, nil] told how many rows are through
        def initialize(orchard, far: nil)
          @orchard = orchard
          @far = far
          @through = 0
        end

        # Everything in one look: what changes meanwhile is not in it.
        #
        # @yield [String, Proc] a file's name, and what writes its content into an IO
        def each
          DB.transaction(isolation: :repeatable) do
            DB.run("SET LOCAL statement_timeout = '15min'; SET LOCAL idle_in_transaction_session_timeout = '15min'")
            name_rows
            yield "orchard.json", ->(io) { io << JSON.pretty_generate(facts) << "\n" }
            Tables.all.each { |table| yield "#{table.name}.csv", ->(io) { copy(table, io) } }
            yield "history.csv", ->(io) { copy_history(io) }
            photos { |name, content| yield name, content }
          end
        ensure
          DB.run("DROP TABLE IF EXISTS #{names.join(', ')}")
        end

        # One table's file alone.
        #
        # @param safe [Boolean] cells that a spreadsheet would run as a formula are disarmed
        def table(name, io, safe: false)
          DB.transaction(isolation: :repeatable) do
            table = Tables.named(name)
            named = [*table.refs.values.map { |file| Tables.named(file) }, (table if table.key)].compact
              .flat_map { |each| naming(each) }.uniq
            named.each { |each| name(each) }
            copy(table, io, safe: safe)
            named.each { |each| DB.run("DROP TABLE names_#{each.name}") }
          end
        end

        # What the rows of one file are called, as a temporary table of id and key.
        def keys(file, into)
          wanted = naming(Tables.named(file))
          wanted.each { |table| name(table) }
          DB.run("ALTER TABLE names_#{file} RENAME TO #{into}")
          others = wanted.map { |table| "names_#{table.name}" } - ["names_#{file}"]
          DB.run("DROP TABLE #{others.join(', ')}") if others.any?
        end

        private

        def copy_history(io)
          DB.copy_table(DB["SELECT * FROM (#{history}) h"], format: :csv, options: "HEADER") { |line| io << line }
        end

        # A table after those by which its rows are called.
        def naming(table) = [*named_by(table).flat_map { |_, file| naming(Tables.named(file)) }, table].uniq
        def named_by(table)
          table.refs.select { |column, _| table.key.include?("r_#{column.to_s.delete_suffix('_id')}.") }
        end

        def facts
          { "schema" => SCHEMA }.merge(Tables::ORCHARD.keys.to_h { |name| [name, plain(@orchard[name.to_sym])] })
        end

        def plain(value)
          case value
          when BigDecimal then value == value.to_i ? value.to_i : value.to_f
          when Hash, Sequel::Postgres::JSONBHash then value.to_h.sort.to_h.transform_values { |each| plain(each) }
          else value
          end
        end

        def names = Tables.all.select(&:key).map { |table| "names_#{table.name}" }

        # What each row is called: kept for this look, so that a reference is one join. Where two would
        # be called the same, the later ones are numbered.
        def name_rows
          Tables.all.select(&:key).each { |table| name(table) }
        end

        def name(table)
          joins = named_by(table).map { |column, file| join(column, file) }.join(" ")
          DB.run("CREATE TEMP TABLE names_#{table.name} ON COMMIT DROP AS SELECT id, key || CASE WHEN n > 1 THEN ' " \
                 "#' || n ELSE '' END AS key FROM " \
                 "(SELECT t.id, k.key, row_number() OVER (PARTITION BY k.key ORDER BY t.id) AS n " \
                 "FROM #{table.table} t JOIN (SELECT t.id, (#{table.key})::text COLLATE \"C\" AS key " \
                 "FROM #{table.table} t #{joins} WHERE t.orchard_id = #{@orchard.id}) k ON k.id = t.id) named")
          DB.run("CREATE UNIQUE INDEX ON names_#{table.name} (id)")
          DB.run("ANALYZE names_#{table.name}")
        end

        def join(column, file, kind = "JOIN")
          "#{kind} names_#{file} r_#{column.to_s.delete_suffix('_id')} ON r_#{column.to_s.delete_suffix('_id')}.id " \
          "= t.#{column}"
        end

        def copy(table, io, safe: false)
          DB.copy_table(DB[select(table, safe)], format: :csv, options: "HEADER") { |line| io << line; through }
        end

        # Told now and then, so that telling costs nothing.
        def through
          @through += 1
          @far&.call(@through) if (@through % 2000).zero?
        end

        def select(table, safe)
          cells = table.columns.map { |column, kind| "#{cell(column, kind, safe)} AS \"#{table.header(column)}\"" }
          cells.unshift("#{disarmed('own.key', safe)} AS key") if table.key
          joins = table.refs.map { |column, file| join(column, file, "LEFT JOIN") }
          joins << "JOIN names_#{table.name} own ON own.id = t.id" if table.key
          "SELECT #{cells.join(', ')} FROM #{table.table} t #{joins.join(' ')} WHERE t.orchard_id = #{@orchard.id} " \
          "ORDER BY #{table.order}"
        end

        def cell(column, kind, safe)
          name = "t.\"#{column}\""
          case kind
          when "key" then disarmed("r_#{column.to_s.delete_suffix('_id')}.key", safe)
          when "yes or no" then "CASE WHEN #{name} THEN 'yes' WHEN NOT #{name} THEN 'no' END"
          when "number" then number(name)
          when "moment" then "to_char(#{name}#{"::timestamptz AT TIME ZONE 'UTC'" if zoned?(column)}, " \
                             "'YYYY-MM-DD\"T\"HH24:MI:SS.US\"Z\"')"
          when "list" then "array_to_string(#{name}, ' ')"
          when "text", "json" then disarmed("#{name}::text", safe)
          else "#{name}::text"
          end
        end

        # What begins like a formula gets a mark before it, so that a spreadsheet shows it and does not run it.
        def disarmed(cell, safe)
          safe ? "CASE WHEN #{cell} ~ '#{Archive::FORMULA}' THEN '''' || #{cell} ELSE #{cell} END" : cell
        end

        # 55 and 55.000 are the same figure, and are written alike.
        def number(name)
          "CASE WHEN pg_typeof(#{name}) = 'numeric'::regtype THEN trim_scale(#{name}::numeric)::text " \
          "ELSE #{name}::text END"
        end
        def zoned?(column) = %i[at since].include?(column)

        # Changes to facts, each with the key of the row it changed; those of rows that are not in these
        # files stay behind.
        def history
          parts = Tables.all.select(&:key).map do |table|
            "SELECT '#{table.name}' AS file, h.id, own.key AS row_key FROM history h JOIN names_#{table.name} own " \
            "ON own.id = h.row_id WHERE h.orchard_id = #{@orchard.id} AND h.table_name = '#{table.table}'"
          end
          parts << "SELECT 'orchard' AS file, h.id, NULL AS row_key FROM history h WHERE h.orchard_id " \
                   "= #{@orchard.id} AND h.table_name = 'orchards'"
          "SELECT told.file, told.row_key AS key, h.action, h.before::text AS before, h.after::text AS after, " \
          "h.who, h.why, to_char(h.at, 'YYYY-MM-DD\"T\"HH24:MI:SS.US\"Z\"') AS at FROM " \
          "(#{parts.join(' UNION ALL ')}) told JOIN history h ON h.id = told.id ORDER BY h.id"
        end

        def photos
          DB[:photos].where(orchard_id: @orchard.id).order(:id).select_map(%i[id image])
            .each_with_index do |(_, image), i|
            %w[large small].each { |size| yield "photos/P#{i + 1}-#{size}.jpg",
                                   ->(io) { io << Outside::PhotoStore.read(image[size].to_h) } }
          end
        end
      end
      private_constant :Writer
    end
  end
end
