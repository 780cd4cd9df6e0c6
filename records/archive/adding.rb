# frozen_string_literal: true

require "csv"
require "stringio"

module Vestry
  module Records
    module Archive
      # One table's file laid beside an orchard's rows: what its lines point at, what of them cannot be
      # read, and the writing of them.
      class Adding < Reader
        # The one file there is; whatever it points at stands in the orchard already.
        class One
          def initialize(text) = @text = text
          def has?(_name) = true
          def open(_name, **, &block) = block.call(StringIO.new(@text))
        end

        MOST_FAULTS = 500
        # What a cell must be readable as.
        CASTS = { "whole" => "integer", "number" => "double precision", "day" => "date", "moment" => "timestamptz",
                  "json" => "jsonb", "list" => "numeric[]", "yes or no" => "boolean" }.freeze
        # Whether it is.
        READS = "CREATE OR REPLACE FUNCTION pg_temp.reads(cell text, kind text) RETURNS boolean LANGUAGE plpgsql AS " \
                "$$ BEGIN EXECUTE format('SELECT $1::%s', kind) USING cell; RETURN true; EXCEPTION WHEN others THEN " \
                "RETURN false; END $$"

        # Who looked, counted or did: never whoever a file names.
        AUTHORS = %i[seen_by tallied_by done_by headed_by by].freeze

        # @param by [String] who brings it in
        def initialize(orchard, table, text, by: "a file")
          super(One.new(text))
          @by = by
          @commas = FileText.delimiter(text) != ","
          @orchard = orchard
          @table = table
        end

        # Into a table of plain text, with the names of all that it may point at beside it.
        #
        # @raise [Unreadable]
        def stage
          headers = super(@table)
          @columns = @table.columns.select { |column, _| headers.include?(@table.header(column)) }
          DB.run(READS)
          rearm(headers)
          point if @commas
          @keyed = !@table.key.nil? && headers.include?("key")
          (@table.refs.values.uniq - [@table.name]).each { |file| Writer.new(@orchard).keys(file, "in_#{file}") }
          name_own if @table.refs.value?(@table.name)
        end

        # Line => what it is called: its key, or what it points at.
        def labels
          named = @columns.first(2).reject { |_, kind| kind == "number" }.map(&:first)
          cells = @keyed ? ['"key"'] : named.map { |column| "\"#{@table.header(column)}\"" }
          DB["SELECT line, concat_ws(' ', #{cells.join(', ')}) AS label FROM in_#{@table.name} ORDER BY line"]
            .map do |row|
            row.values_at(:line, :label)
          end
        end

        # Line => what is wrong with it, as far as that can be read off its cells.
        def faults
          @faults ||= [*missing, *lost, *unread, *unknown, *unlimited, *here_already].sort_by(&:first)
            .first(MOST_FAULTS).reverse.to_h.sort.to_h
        end

        # Line => why the database refuses it, each tried by itself after those before it.
        def refused(most:)
          return {} if whole?

          lines = DB[:"in_#{@table.name}"].order(:line).limit(most).select_map(:line)
          lines.each_with_object({}) do |line, found|
            break found if found.size >= 50

            insert("WHERE t.line = #{line}")
          rescue Sequel::DatabaseError => e
            found[line] = self.class.plain(e)
          end
        end

        # @return [Array<Integer>, Array<String>] ids; of a table whose rows have no number, each as JSON
        def write = insert("")

        # Drops what was laid beside.
        def clear
          staged = ["in_#{@table.name}", "own_#{@table.name}", *@table.refs.values.map { |file| "in_#{file}" }].uniq
          DB.run("DROP TABLE IF EXISTS #{staged.join(', ')}")
        rescue Sequel::DatabaseError
          nil
        end

        # A refusal of the database, for people.
        def self.plain(error)
          said = error.message.lines.map(&:strip)
          detail = said.find { |line| line.start_with?("DETAIL:") }&.delete_prefix("DETAIL:")&.strip
          case error
          when Sequel::UniqueConstraintViolation then "is here already, or stands twice in the file"
          when Sequel::NotNullConstraintViolation then "column #{said.first[/column "([^"]+)"/, 1]}: is empty"
          when Sequel::CheckConstraintViolation
            rule = said.first[/constraint "([^"]+)"/, 1].to_s.tr("_", " ")
            "a figure is out of its range, or a word is not one that is known (#{rule})"
          else [said.first.to_s.sub(/\A(PG::\w+: )?ERROR:\s*/, ""), detail].compact.join(" ")
          end
        end

        private

        # Looked at cell by cell with all else that is wrong.
        def check_plain(*) = nil

        # Every cell as text, so that all that cannot be read are told, and not the first alone.
        def type(_kind) = 'text COLLATE "C"'

        def read_as(kind, cell, type)
          case kind
          when "yes or no" then "(CASE lower(#{cell}) WHEN 'yes' THEN true WHEN 'no' THEN false " \
                                "ELSE #{cell}::boolean END)"
          when "moment" then super
          when "list" then super
          else "#{cell}::#{type}"
          end
        end

        # A row may point at one of the same file, or at one that stands already.
        def name_own
          Writer.new(@orchard).keys(@table.name, "own_#{@table.name}")
          if @keyed
            DB.run("INSERT INTO own_#{@table.name} (id, key) SELECT id, key FROM in_#{@table.name} WHERE key IS NOT " \
                   "NULL")
          end
        end

        def names_for(table, column) = table.refs[column] == @table.name ? "own_#{@table.name}" : super

        def whole?
          DB.transaction(savepoint: true) { insert("") }
          true
        rescue Sequel::DatabaseError
          false
        end

        def insert(where)
          DB.transaction(savepoint: true) do
            DB.fetch("#{insertion(@table, @columns, where)} " \
                     "RETURNING #{@table.id? ? 'id' : "to_jsonb(#{@table.table})::text"} AS written")
                       .select_map(:written)
          end
        end

        def cast(table, column, kind)
          return super unless AUTHORS.include?(column)

          "CASE WHEN t.\"#{column}\" IS NOT NULL THEN #{DB.literal(@by)} END"
        end

        # What was disarmed for a spreadsheet on the way out is as it was.
        def rearm(headers)
          headers.each do |name|
            DB.run("UPDATE in_#{@table.name} SET \"#{name}\" = substr(\"#{name}\", 2) WHERE \"#{name}\" ~ " \
                   "'^''#{Archive::FORMULA[1..]}'")
          end
        end

        # Where cells are not parted by commas, a comma in a number is its point.
        def point
          numbers = @columns.select { |_, kind| kind == "number" }.map { |column, _| "\"#{@table.header(column)}\"" }
          if numbers.any?
            DB.run("UPDATE in_#{@table.name} SET #{numbers.map { |name| "#{name} = #{pointed(name)}" }.join(', ')}")
          end
        end

        def pointed(name) = "regexp_replace(#{name}, '^(\\s*[+-]?\\d+),(\\d+\\s*)$', '\\1.\\2')"

        # A row that nothing in the file points at need not be called anything.
        def check_headers(table, headers)
          super(table, table.key && !headers.include?("key") ? [*headers, "key"] : headers)
        end

        def each_cell(where, column)
          name = @table.header(column)
          DB["SELECT t.line, t.\"#{name}\" AS cell FROM in_#{@table.name} t WHERE #{where} ORDER BY t.line " \
             "LIMIT #{MOST_FAULTS}"].map do |row|
            [row[:line], "column #{name}: #{yield row[:cell].to_s[0, 60]}"]
          end
        end

        def missing
          needed = Tables.schema(@table)["required"] - ["key"]
          absent = needed - @columns.keys.map { |column| @table.header(column) }
          raise Unreadable, "The heading lacks #{absent.join(', ')}." if absent.any?

          @columns.keys.select { |column| needed.include?(@table.header(column)) }.flat_map do |column|
            each_cell("t.\"#{@table.header(column)}\" IS NULL", column) { "is empty" }
          end
        end

        def lost
          @columns.select { |_, kind| kind == "key" }.keys.flat_map do |column|
            file, name = @table.refs[column], @table.header(column)
            each_cell("t.\"#{name}\" IS NOT NULL AND NOT EXISTS (SELECT 1 FROM #{names_for(@table, column)} r WHERE " \
                      "r.key = t.\"#{name}\")", column) do |cell|
              "“#{cell}” is not among the #{file.tr('_', ' ')} here"
            end
          end
        end

        def unread
          @unread ||= @columns.select { |_, kind| CASTS[kind] }.flat_map do |column, kind|
            name = "t.\"#{@table.header(column)}\""
            plain = not_plain(kind, name)
            test = { "list" => "NOT pg_temp.reads('{' || replace(#{name}, ' ', ',') || '}', 'numeric[]')",
                     "yes or no" => "lower(#{name}) NOT IN ('yes', 'no', 'true', 'false')" }[kind] ||
                     "NOT pg_temp.reads(#{name}, '#{CASTS[kind]}')"
            each_cell("#{name} IS NOT NULL AND (#{[plain, test].compact.join(' OR ')})", column) do |cell|
              "“#{cell}” is not #{ALLOWED[kind]}"
            end
          end
        end

        def unknown
          Choices.of(@table).slice(*@columns.keys).flat_map do |column, names|
            cell = "t.\"#{@table.header(column)}\""
            each_cell("#{cell} IS NOT NULL AND #{cell} NOT IN (#{names.map { |name| DB.literal(name) }.join(', ')})",
                      column) do |said|
              "“#{said}” is not one of #{names.join(', ')}"
            end
          end
        end

        # Cells that the database refuses by a rule about their column. Only where every cell can be read.
        def unlimited
          return [] if unread.any?

          limits(@table, @columns).flat_map do |limit, cell|
            DB["SELECT line, \"as_#{limit.column}\" AS cell FROM #{within(@table, [[limit, cell]])} WHERE NOT " \
               "(#{limit.rule}) ORDER BY line LIMIT #{MOST_FAULTS}"]
                 .map do |row|
                   [row[:line], "column #{@table.header(limit.column)}: “#{row[:cell].to_s[0, 60]}” is " \
                                "not #{limit.allowed}"]
                 end
          end
        end

        # Rows that have a name are known by it.
        def here_already
          return [] unless @keyed

          Writer.new(@orchard).keys(@table.name, "here_#{@table.name}")
          found = DB["SELECT t.line, t.key FROM in_#{@table.name} t JOIN here_#{@table.name} h ON h.key = t.key " \
                     "ORDER BY t.line LIMIT #{MOST_FAULTS}"].map do |row|
            [row[:line], "column key: #{row[:key]} is here already"]
          end
          DB.run("DROP TABLE here_#{@table.name}")
          found
        end
      end
    end
  end
end
