# frozen_string_literal: true

require "csv"
require "json"

module Vestry
  module Records
    module Archive
      # Reads an orchard's files into a new orchard. Each is laid beside first, where the database reads its
      # cells and names the line and column of one that it cannot; then over at once.
      class Reader
        # What a cell is laid beside as; the rest as text.
        TYPES = { "whole" => "integer", "number" => "numeric", "json" => "jsonb", "yes or no" => "boolean" }.freeze
        ALLOWED = { "whole" => "a whole number", "number" => "a number", "day" => "a day as 2026-05-18",
                    "moment" => "a moment as 2026-05-18T09:30:00Z", "json" => "JSON",
                    "list" => "numbers apart by spaces", "yes or no" => "yes or no" }.freeze

        LONGEST_STATEMENT = "15min"
        LONGEST_LINE = 256 * 1024

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
            Places.settle(@orchard)
          end
          unless @files.has?("history.csv")
            DB[:history].insert(orchard_id: @orchard.id, table_name: "orchards", row_id: @orchard.id, action: "add",
                                who: "import", after: Sequel.pg_jsonb({ "name" => @orchard.name }))
          end
          @orchard
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

        # A file into a table of its own: a line number, the id its row will have, its cells.
        def stage(table)
          @files.open("#{table.name}.csv") do |io|
            first = io.gets("\n", LONGEST_LINE).to_s.dup.force_encoding("UTF-8").delete_prefix("\uFEFF").scrub("?")
            separator = FileText.delimiter(first)
            headers = CSV.parse_line(first.chomp, col_sep: separator).to_a.map { |name| name.to_s.strip }
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

        # Cells that are not plainly of their kind, though the database would read them: its own now and infinity,
        # a day in some other order.
        #
        # @param name [String] SQL of a cell laid beside as text
        # @return [String, nil] SQL that tells such a cell
        def not_plain(kind, name)
          test = ->(pattern) { "#{name} !~ #{DB.literal(pattern)}" }
          case kind
          when "whole" then test[Core::Values::WHOLE]
          when "number" then test[Core::Values::NUMBER]
          when "day" then "CASE WHEN #{test[Core::Values::DAY]} THEN true ELSE #{no_day(name)} END"
          when "moment"
            "CASE WHEN #{test[Core::Values::MOMENT]} THEN true ELSE #{no_day(name)} OR substr(trim(#{name}), 12, 2) " \
            "> '23' OR substr(trim(#{name}), 15, 2) > '59' END"
          when "list" then "#{name} ~ '[^0-9 .eE+-]'"
          end
        end

        # Whether what is written like a day is none in the calendar, or lies past all measure.
        def no_day(name)
          year, month, day = [[1, 4], [6, 2], [9, 2]].map { |from, size| "substr(trim(#{name}), #{from}, #{size})" }
          days = Core::Contract::DAYS
          # Every month has 28 days; only of a later one the calendar has to be asked.
          "CASE WHEN #{month} NOT BETWEEN '01' AND '12' OR #{year} NOT BETWEEN '#{days.begin.year}' AND " \
          "'#{days.end.year}' THEN true " \
            "WHEN #{day} BETWEEN '01' AND '28' THEN false " \
            "ELSE #{day}::integer NOT BETWEEN 1 AND extract(day FROM make_date(#{year}::integer, #{month}::integer, " \
            "1) + interval '1 month' - interval '1 day') END"
        end

        # What cells of a kind are laid beside as.
        def type(kind) = TYPES.fetch(kind, 'text COLLATE "C"')

        # Where the database could not read on, and what may stand there. It does not count the heading.
        def misread(error, file, kinds)
          line = error.message[/^CONTEXT:.*line (\d+)/, 1].to_i + 1
          column, cell = error.message.match(/^CONTEXT:.*line \d+, column ([^:]+): "(.*)"$/)&.captures
          if column && ALLOWED[kinds[column]]
            return "#{file} line #{line}, column “#{column}”: “#{cell[0, 60]}” is not #{ALLOWED[kinds[column]]}"
          end

          "#{file} line #{line}: #{error.message.lines.first.sub(/\APG::\w+: ERROR:\s*/, '').strip}"
        end

        # An IO in pieces, for COPY. A line without an end is not read to its end.
        class Chunks
          # @param name [String] of the file
          # @yield [Integer] bytes of each piece that went by
          def initialize(io, name, &on_read)
            @io = io
            @name = name
            @on_read = on_read
            @since = 0
            @line = 2
          end

          def each
            while (piece = @io.read(65_536))
              measure(piece)
              @on_read.call(piece.bytesize)
              yield piece
            end
          end

          private

          def measure(piece)
            ends = piece.count("\n")
            @since = ends.zero? ? @since + piece.bytesize : piece.bytesize - piece.rindex("\n") - 1
            @line += ends
            if @since > LONGEST_LINE
              raise Unreadable, "#{@name} line #{@line}: is longer than #{LONGEST_LINE / 1024} kB"
            end
          end
        end

        def check_headers(table, headers)
          unknown = headers.reject { |name| table.headers.include?(name) }
          if unknown.any?
            raise Unreadable, "#{table.name}.csv line 1, column “#{unknown.first}”: is not one " \
                              "of #{table.headers.join(', ')}"
          end
          raise Unreadable, "#{table.name}.csv line 1: names a column twice" if headers.uniq.size < headers.size
          raise Unreadable, "#{table.name}.csv line 1: has no column “key”" if table.key && !headers.include?("key")
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

        # Every row is called something, and no two the same. What comes next looks rows up by that, so
        # the database is told how they lie.
        def check_keys_of(table)
          DB.run("ANALYZE in_#{table.name} (key)")
          # A number for each tells in one look whether any is empty or stands twice, sooner than the words do.
          lines, called, different = DB["SELECT count(*) AS lines, count(key) AS called, count(DISTINCT " \
                                        "hashtextextended(key, 0)) AS different FROM in_#{table.name}"].first.values
          return if lines == called && called == different

          empty = DB["SELECT line FROM in_#{table.name} WHERE key IS NULL ORDER BY line LIMIT 1"].get
          raise Unreadable, "#{table.name}.csv line #{empty}, column “key”: is empty" if empty

          twice = DB["SELECT key FROM in_#{table.name} GROUP BY key HAVING count(*) > 1 LIMIT 1"].get or return
          line = DB["SELECT line FROM in_#{table.name} WHERE key = ? ORDER BY line OFFSET 1 LIMIT 1", twice].get
          raise Unreadable, "#{table.name}.csv line #{line}, column “key”: “#{twice}” stands twice"
        end

        # Cells that the database would read as something else than what is written there, with their place.
        def check_plain(table, headers)
          kinds = table.columns.to_h { |column, kind| [table.header(column), kind] }
          looked_at = kinds.slice(*headers).select { |_, kind| %w[day moment list number].include?(kind) }
          strange = looked_at.to_h { |name, kind| [name, strange(kind, "t.\"#{name}\"")] }
          return if strange.empty?

          # All columns are gone through at once; which of them it was is asked only when there is one.
          rows = DB.from(Sequel.lit("in_#{table.name} t"))
          line = rows.where(Sequel.lit(strange.values.map { |test| "(#{test})" }.join(" OR "))).min(:line) or return
          name = strange.keys.find { |each| rows.where(line: line).where(Sequel.lit(strange[each])).any? }
          cell = rows.where(line: line).get(Sequel.cast(Sequel[:t][name.to_sym], String))
          raise Unreadable, "#{table.name}.csv line #{line}, column “#{name}”: “#{cell[0, 60]}” is " \
                            "not #{ALLOWED[looked_at[name]]}"
        end

        def strange(kind, cell)
          return not_plain(kind, cell) unless kind == "number"

          "NOT #{cell} BETWEEN -#{Core::Values::FURTHEST} AND #{Core::Values::FURTHEST}"
        end

        # The names among which a column's references are looked up.
        def names_for(table, column) = "in_#{table.refs[column]}"

        # A reference that leads nowhere leaves its column empty; where that may be, it has to be looked for.
        def optional?(table, column) = DB.schema(table.table).to_h[column][:allow_null]

        # References that lead nowhere, with their place.
        def check(table, columns)
          columns.each do |column, kind|
            next unless kind == "key"

            file, name = table.refs[column], table.header(column)
            unless @files.has?("#{file}.csv")
              raise Unreadable, "#{table.name}.csv line 1, column “#{name}”: there is no #{file}.csv"
            end

            lost = DB["SELECT t.line, t.\"#{name}\" AS cell FROM in_#{table.name} t WHERE t.\"#{name}\" IS NOT NULL " \
                      "AND NOT EXISTS (SELECT 1 FROM in_#{file} r WHERE r.key = t.\"#{name}\") ORDER BY t.line LIMIT 1"]
                        .first
            if lost
              raise Unreadable, "#{table.name}.csv line #{lost[:line]}, column “#{name}”: “#{lost[:cell][0, 60]}” " \
                                "is not in #{file}.csv"
            end
          end
        end

        # Words that are not among those a column may say.
        def check_choices(table, columns)
          choices = Choices.of(table).slice(*columns.keys).transform_keys { |column| table.header(column) }
          return if choices.empty?

          strange = Sequel.|(*choices.map { |name, words| Sequel.~(Sequel[name.to_sym] => words) })
          row = DB[:"in_#{table.name}"].where(strange).order(:line).first or return
          name, words = choices.find { |each, allowed| row[each.to_sym] && !allowed.include?(row[each.to_sym]) }
          raise Unreadable, "#{table.name}.csv line #{row[:line]}, column “#{name}”: “#{row[name.to_sym][0, 60]}” " \
                            "is not one of #{words.join(', ')}"
        end

        # Cells that the database would refuse by a rule about their column alone, with their place.
        def check_limits(table, columns)
          all = limits(table, columns)
          # All rules are gone through at once; which of them it was is asked only when there is one.
          return if all.empty? ||
            DB["SELECT 1 FROM #{within(table, all)} WHERE NOT " \
               "(#{all.map { |limit, _| "coalesce(#{limit.rule}, true)" }.join(' AND ')}) LIMIT 1"].first.nil?

          all.each do |limit, cell|
            row = DB["SELECT line, \"as_#{limit.column}\" AS cell FROM #{within(table, [[limit, cell]])} WHERE NOT " \
                     "(#{limit.rule}) ORDER BY line LIMIT 1"].first or next
            raise Unreadable, "#{table.name}.csv line #{row[:line]}, column “#{table.header(limit.column)}”: " \
                              "“#{row[:cell].to_s[0, 60]}” is not #{limit.allowed}"
          end
        end

        # @return [Array<Array(Limits::Limit, String)>] each with the SQL of the cell as its column takes it
        def limits(table, columns)
          kinds = DB.schema(table.table).to_h
          Limits.of(table.table).filter_map do |limit|
            kind = columns[limit.column]
            unless kind.nil? || kind == "key"
              [limit, read_as(kind, "t.\"#{table.header(limit.column)}\"", kinds.fetch(limit.column)[:db_type])]
            end
          end
        end

        # The lines with these cells under their columns' names, and each as it was written.
        def within(table, limits)
          cells = limits.flat_map do |limit, cell|
            ["#{cell} AS \"#{limit.column}\"", "t.\"#{table.header(limit.column)}\"::text AS \"as_#{limit.column}\""]
          end
          "(SELECT t.line, #{cells.uniq.join(', ')} FROM in_#{table.name} t) s"
        end

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

        # A cell laid beside, as its column takes it.
        def read_as(kind, cell, type)
          case kind
          when "list" then "(string_to_array(#{cell}, ' ')::numeric[])"
          when "moment" then type == "timestamp with time zone" ? "#{cell}::timestamptz" :
            "(#{cell}::timestamptz AT TIME ZONE 'UTC')"
          when "text", "number", "day" then "#{cell}::#{type}"
          else cell
          end
        end

        def read_history
          @files.open("history.csv") do |io|
            raise Unreadable, "history.csv line 1: is not file,key,action,before,after,who,why,at" unless io
              .gets("\n", LONGEST_LINE).to_s.strip == "file,key,action,before,after,who,why,at"

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
