# frozen_string_literal: true

require "csv"
require "json"

module Vestry
  module Records
    module Archive
      # Reads an orchard's files into a new orchard. Each is laid beside first, where the database reads its
      # cells and names the line and column of one that it cannot; then over at once.
      class Reader
        include Cells
        include TableChecks

        LONGEST_STATEMENT = "15min"

        # @param far [Proc, nil] told what share of the files is through
        def initialize(files, slug: nil, trial: false, far: nil)
          @files = files
          @slug = slug
          @trial = trial
          @pictures = []
          @far = far
          @through = 0
        end

        # Pictures lie outside the database: where the rows cannot stand, they go again.
        def read
          read_files
        rescue StandardError
          @pictures.each { |image| Outside::PhotoStore.delete(image) }
          raise
        end

        private

        def read_files
          @orchard = begun(facts)
          @bytes = [*Tables.all.map { |table| "#{table.name}.csv" }, "history.csv"].sum { |name| @files.size(name) }
          at_once do
            Tables.all.each { |table| read_table(table) if @files.has?("#{table.name}.csv") }
            read_history if @files.has?("history.csv")
            read_photos
            settle
          end
          unless @files.has?("history.csv")
            DB[:history].insert(orchard_id: @orchard.id, table_name: "orchards", row_id: @orchard.id, action: "add",
                                who: "import", after: Sequel.pg_jsonb({ "name" => @orchard.name }))
          end
          @orchard
        end

        # What was read, in the words and places of now.
        def settle
          TaskDone.rename(DB[:tasks_done].where(orchard_id: @orchard.id))
          Places.settle(@orchard)
        end

        # Two that come at once under one name: the second is refused.
        def begun(facts)
          DB.transaction(savepoint: true) { Orchard.create(facts) }
        rescue Sequel::UniqueConstraintViolation
          raise Unreadable, "orchard.json: an orchard called #{facts[:slug]} is here already"
        rescue Sequel::ConstraintViolation => e
          raise Unreadable, "orchard.json: #{Limits.words(e)&.join(' ') || e.message.lines.first.strip}"
        end

        # Much is written in one transaction, of an orchard that nobody else sees yet. It holds nothing that others
        # wait for, and may take its time.
        def at_once
          DB.run("SET LOCAL synchronous_commit = off; SET LOCAL work_mem = '64MB'; SET LOCAL maintenance_work_mem = " \
                 "'128MB'; " \
                 "SET LOCAL statement_timeout = '#{LONGEST_STATEMENT}'; SET LOCAL " \
                 "idle_in_transaction_session_timeout = '15min'; SET LOCAL vestry.new_orchard " \
                 "= #{DB.literal(@orchard.id.to_s)}")
          yield
        end

        def facts
          facts = JSON.parse(@files.open("orchard.json",
                                        most: OrchardFacts::MOST_BYTES) { |io| io.read.to_s.dup
                                          .force_encoding("UTF-8") }, max_nesting: 12)
          slug = @slug || (facts.is_a?(Hash) && facts["slug"])
          OrchardFacts.check(facts, slug)
          raise Unreadable, "orchard.json: an orchard called #{slug} is here already" if Orchard.where(slug: slug).any?

          facts.except("schema").transform_keys(&:to_sym)
            .merge(slug: slug, overrides: Sequel.pg_jsonb(facts["overrides"] || {}))
        rescue JSON::ParserError, EncodingError => e
          raise Unreadable, "orchard.json: #{e.message.lines.first.to_s.scrub('?').strip[0, 120]}"
        rescue NoMethodError, Errno::ENOENT
          raise Unreadable, "there is no orchard.json"
        end

        # Half of a file's bytes are through when they are laid beside, half when their rows stand.
        def through(bytes)
          @through += bytes
          @far&.call([@through.fdiv(@bytes), 1.0].min) if @bytes.to_i.positive?
        end

        # What stands between the cells, and the names of the columns.
        def heading(io)
          first = io.gets("\n", Chunks::LONGEST_LINE).to_s.dup
                    .force_encoding("UTF-8").delete_prefix("\uFEFF").scrub("?")
          separator = FileText.delimiter(first)
          [separator, CSV.parse_line(first.chomp, col_sep: separator).to_a.map { |name| name.to_s.strip }]
        end

        # A file into a table of its own: a line number, the id its row will have, its cells.
        def stage(table)
          @files.open("#{table.name}.csv") do |io|
            separator, headers = heading(io)
            check_headers(table, headers)
            # The counter by its name: looked up for each line, it takes longer than all the rest.
            id = table.id? ? ", id integer DEFAULT " \
                             "nextval('#{DB.get(Sequel.function(:pg_get_serial_sequence, table.table.to_s, 'id'))}')" :
                             ""
            kinds = table.columns.to_h { |column, kind| [table.header(column), kind] }
            DB.run("CREATE TEMP TABLE in_#{table.name} (line integer GENERATED ALWAYS AS IDENTITY (START WITH 2 " \
                   "CACHE 1000)#{id}, #{headers.map { |name| "\"#{name}\" #{type(kinds[name])}" }.join(', ')}) ON " \
                   "COMMIT DROP")
            DB.copy_into(:"in_#{table.name}", format: :csv, columns: headers.map(&:to_sym),
                         options: "DELIMITER #{DB.literal(separator)}",
                         data: Chunks.new(io, "#{table.name}.csv") { |bytes| through(bytes / 2) })
            headers
          end
        rescue Sequel::DatabaseError => e
          raise Unreadable, misread(e, "#{table.name}.csv",
                                    table.columns.to_h { |column, kind| [table.header(column), kind] })
        rescue CSV::MalformedCSVError => e
          raise Unreadable, "#{table.name}.csv line 1: #{e.message}"
        end

        def read_table(table)
          headers = stage(table)
          return if DB[:"in_#{table.name}"].empty?

          check_keys_of(table) if table.key
          check_plain(table, headers)
          columns = table.columns.select { |column, _| headers.include?(table.header(column)) }
          check(table, columns.select { |column, _| optional?(table, column) })
          check_choices(table, columns)
          check_limits(table, columns)
          @metres = (%w[x_m y_m] - headers).empty?
          write(table, columns)
          through(@files.size("#{table.name}.csv") / 2)
          # What comes next asks for these rows, which the database has not counted yet.
          DB.run("ANALYZE #{table.table}")
        end

        # The names among which a column's references are looked up.
        def names_for(table, column) = "in_#{table.refs[column]}"

        def write(table, columns)
          DB.transaction(savepoint: true) { DB.run(insertion(table, columns)) }
        rescue Sequel::DatabaseError => e
          check(table, columns)
          raise Unreadable, "#{table.name}.csv: #{together(e, table) || said(e)}"
        end

        # A refusal of the database without what is its own.
        def said(error)
          error.message.lines.first(2).map { |line| line.sub(/\A(PG::\w+: ERROR:|DETAIL:)\s*/, "").strip }.join(" ")
        end

        # Each of them is there, but not on one tree: a limb's parent stands on its own.
        def together(error, table)
          return unless error.is_a?(Sequel::ForeignKeyConstraintViolation)

          columns = error.message[/Key \(([^)]+)\)=/, 1].to_s.split(", ").map(&:to_sym) - [:orchard_id]
          if columns.any?
            "a line's #{columns.map { |column| table.header(column) }.join(' and ')} do not belong together"
          end
        end

        # Everything over at once, or the lines that are asked for. The rows have their ids already, in the
        # order of the lines, so it does not matter which comes first.
        def insertion(table, columns, where = "")
          names = columns.keys.map { |column| "\"#{column}\"" }
          joins = columns.select { |_, kind| kind == "key" }.map do |column, _|
            "LEFT JOIN #{names_for(table, column)} r_#{column} ON r_#{column}.key = t.\"#{table.header(column)}\""
          end
          more = extra(table, columns)
          cells = columns.map { |column, kind| cast(table, column, kind) }
          values = [@orchard.id, *(["t.id"] if table.id?), *more.values, *cells]
          "INSERT INTO #{table.table} (#{['orchard_id', *(['id'] if table.id?), *more.keys, *names].join(', ')}) " \
            "SELECT #{values.join(', ')} FROM in_#{table.name} t #{joins.join(' ')} #{where}"
        end

        # A photo's picture is filled in when its file is read; a tree that was surveyed in metres is drawn there.
        def extra(table, columns)
          case table.name
          when "photos" then { "image" => "'{}'::jsonb" }
          # In the order of the lines, after those there are.
          when "bundles"
            columns.key?(:number) ? {} :
              { "number" => "(SELECT coalesce(max(number), 0) FROM bundles WHERE orchard_id = #{@orchard.id}) + " \
                            "row_number() OVER (ORDER BY t.line)" }
          when "trees" then @metres ? %w[x y].to_h { |side| ["map_#{side}",
              "CASE WHEN t.x_m IS NOT NULL AND t.y_m IS NOT NULL " \
                  "THEN t.#{side}_m::double precision ELSE 0 END"] } : {}
          else {}
          end
        end

        def cast(table, column, kind)
          return "r_#{column}.id" if kind == "key"

          facts = DB.schema(table.table).to_h[column]
          read = read_as(kind, "t.\"#{table.header(column)}\"", facts[:db_type])
          default = facts[:default] unless facts[:allow_null]
          default ? "COALESCE(#{read}, #{default})" : read
        end

        def read_history
          @files.open("history.csv") do |io|
            raise Unreadable, "history.csv line 1: is not file,key,action,before,after,who,why,at" unless io
              .gets("\n", Chunks::LONGEST_LINE).to_s.strip == "file,key,action,before,after,who,why,at"

            DB.run("CREATE TEMP TABLE in_history (line integer GENERATED ALWAYS AS IDENTITY, file text, key text, " \
                   "action text, before jsonb, after jsonb, who text, why text, at timestamptz) ON COMMIT DROP")
            DB.copy_into(:in_history, format: :csv, columns: %i[file key action before after who why at],
                                      data: Chunks.new(io, "history.csv") { |bytes| through(bytes / 2) })
          end
          kept = Tables.all.select { |table| table.key && @files.has?("#{table.name}.csv") }
          parts = kept.map do |table|
            "SELECT h.line, '#{table.table}' AS table_name, r.id AS row_id FROM in_history h JOIN in_#{table.name} " \
            "r ON r.key = h.key WHERE h.file = '#{table.name}'"
          end
          parts << "SELECT h.line, 'orchards', #{@orchard.id} FROM in_history h WHERE h.file = 'orchard'"
          DB.run("INSERT INTO history (orchard_id, table_name, row_id, action, before, after, who, why, at) " \
                 "SELECT #{@orchard.id}, told.table_name, told.row_id, h.action, h.before, h.after, h.who, h.why, " \
                 "h.at AT TIME ZONE 'UTC' " \
                 "FROM (#{parts.join(' UNION ALL ')}) told JOIN in_history h USING (line) ORDER BY h.line")
        rescue Sequel::DatabaseError => e
          raise Unreadable, misread(e, "history.csv", { "before" => "json", "after" => "json", "at" => "moment" })
        end

        def read_photos
          return unless @files.has?("photos.csv")

          DB[:in_photos].order(:line).select_map(%i[id key]).each do |id, key|
            pictures = Outside::PhotoStore::SIDES.to_h { |size, side| [size,
                                                                       picture("photos/#{key}-#{size}.jpg", side)] }
            next if @trial

            @pictures << Outside::PhotoStore.take_back(pictures)
            DB[:photos].where(id: id).update(image: Sequel.pg_jsonb(@pictures.last))
          end
        rescue Outside::PhotoStore::NotAPicture => e
          raise Unreadable, "photos: one #{e.message}"
        end

        # @return [String] its bytes
        def picture(name, side)
          raise Unreadable, "photos.csv: there is no #{name[0, 80]}" unless @files.has?(name)

          @files.open(name, most: Outside::PhotoStore::MOST_BYTES, &:read).tap do |bytes|
            Outside::PhotoStore.check(bytes, side)
          end
        rescue Outside::PhotoStore::NotAPicture => e
          raise Unreadable, "#{name}: #{e.message}"
        end
      end
      private_constant :Reader
    end
  end
end
