# frozen_string_literal: true

module Vestry
  module Records
    module Archive
      # What is looked at in a file that lies beside, before its rows stand: its headings, keys, references,
      # choices and limits. Each refusal says the line and column.
      module TableChecks
        private

        def check_headers(table, headers)
          unknown = headers.reject { |name| table.headers.include?(name) }
          if unknown.any?
            raise Unreadable, "#{table.name}.csv line 1, column “#{unknown.first}”: is not one " \
                              "of #{table.headers.join(', ')}"
          end
          raise Unreadable, "#{table.name}.csv line 1: names a column twice" if headers.uniq.size < headers.size
          raise Unreadable, "#{table.name}.csv line 1: has no column “key”" if table.key && !headers.include?("key")
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
                            "not #{Cells::ALLOWED[looked_at[name]]}"
        end

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
      end
    end
  end
end
