# frozen_string_literal: true

module Vestry
  module Records
    module Archive
      # How the cells of an orchard's files are read: what the database may take for each kind, and what is said
      # of one that it may not.
      module Cells
        # What a cell is laid beside as; the rest as text.
        TYPES = { "whole" => "integer", "number" => "numeric", "json" => "jsonb", "yes or no" => "boolean" }.freeze
        ALLOWED = { "whole" => "a whole number", "number" => "a number", "day" => "a day as 2026-05-18",
                    "moment" => "a moment as 2026-05-18T09:30:00Z", "json" => "JSON",
                    "list" => "numbers apart by spaces", "yes or no" => "yes or no" }.freeze

        private

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

        def strange(kind, cell)
          return not_plain(kind, cell) unless kind == "number"

          "NOT #{cell} BETWEEN -#{Core::Values::FURTHEST} AND #{Core::Values::FURTHEST}"
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
      end
    end
  end
end
