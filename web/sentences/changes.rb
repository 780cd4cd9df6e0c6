# frozen_string_literal: true

module Vestry
  module Web
    module Sentences
      # What was changed, as people say it: which row, which of its facts, from what to what.
      module Changes
        # What rows are called, one and many; others by their table.
        ROWS = { "observations" => %w[visit visits], "tallies" => %w[count counts], "tasks_done" => %w[task tasks],
                 "plan_limbs" => ["planned limb", "planned limbs"], "sites" => ["bare stretch", "bare stretches"],
                 "plan_sites" => ["planned stretch", "planned stretches"],
                 "limb_events" => ["what happened to limb", "things that happened to limbs"],
                 "picture_measures" => ["measure in a picture", "measures in pictures"],
                 "wound_visits" => ["look at a trunk", "looks at trunks"],
                 "wounds" => ["stripped trunk", "stripped trunks"],
                 "phenology_seen" => ["look at bark", "looks at bark"], "memberships" => %w[person people],
                 "wood_promises" => ["promise of wood", "promises of wood"],
                 "varieties" => %w[variety varieties], "bundles" => %w[bundle bundles] }.freeze
        HOW = { "add" => "new", "change" => "changed", "hide" => "taken away", "restore" => "brought back" }.freeze
        # What a fact is called, where its column says it otherwise.
        FACTS = { "seen_on" => "day", "done_on" => "day", "tallied_on" => "day", "cut_mm" => "cut at",
                  "rise_deg" => "rise", "technique" => "method", "bark_slip" => "how the bark lifted",
                  "straight" => "straight wood", "stock_mm" => "stub", "scion_mm" => "stick",
                  "lost_on" => "lost", "after_graft_on" => "since the graft of", "gone_on" => "gone since",
                  "known_as" => "name", "key" => "task" }.freeze
        UNITS = /_(mm|deg|on|id|c|m|ms)\z/.freeze
        private_constant :UNITS

        # How often something was done to what: "3 visits new".
        def change_words(what, count)
          table, action = what
          "#{rows_words(table, count)} #{HOW.fetch(action, action)}"
        end

        # So many rows of a table: "3 visits".
        def rows_words(table, count)
          counted(count, *ROWS.fetch(table) { row_words(table).then { |words| [words, "#{words}s"] } })
        end

        def row_words(table) = ROWS.fetch(table) { [table.tr("_", " ").sub(/ies\z/, "y").chomp("s")] }.first
        def fact_words(column) = FACTS.fetch(column) { column.sub(UNITS, "").tr("_", " ") }

        # A fact's value in the words of this orchard.
        #
        # @param names [Records::RowNames]
        def fact_value(table, column, value, names)
          case value
          when nil, "", [] then "–"
          when true, false then value ? "yes" : "no"
          when Array then value.map { |each| fact_value(table, column, each, names) }.join(", ")
          when Hash then value.map { |key, each| "#{key} #{fact_value(table, key, each, names)}" }.join(", ")
          else plain_value(table, column, value, names)
          end
        end

        private

        # A word of the rulebook as it is said; a task by its rule, whatever number stands behind that.
        def worded(column, word)
          case column
          when "technique" then method_name(word)
          when "wrap", "seal", "cover" then choice_name(column, word)
          when "lost_cause" then loss_name(word)&.downcase
          when "species" then species_name(word)
          when "school" then school_name(word)
          when "key" then task_title(word)
          end
        end

        def task_title(key)
          orchard.rulebook.task(key[/\A[^:]+/])["title"]
        rescue KeyError
          key
        end

        def plain_value(table, column, value, names)
          to = names.table_of(table, column)
          return names.of(to, [value])[value] || "no longer here" if to && value.is_a?(Integer)
          said = worded(column, value) if value.is_a?(String)
          return said if said

          case column
          when /_mm\z/ then length(value.to_f)
          when /_deg\z/ then "#{value.to_f.round}°"
          when /_on\z/ then Core::Values.day(value)&.then { |date| day(date) } || value
          else value.is_a?(Float) ? value.round(3).to_s.delete_suffix(".0") : value
          end
        end
      end
    end
  end
end
