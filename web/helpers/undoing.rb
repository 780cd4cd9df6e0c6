# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # What was done last, and the way to undo it, on the page that follows; what was changed, by name.
      module Undoing
        def names = @names ||= Records::RowNames.new(orchard)

        # What was changed: "limb A3 B".
        def changed_row(line)
          called = names.of(line[:table_name], [line[:row_id]])[line[:row_id]]
          "#{row_words(line[:table_name])} #{called}".strip
        end

        # What a deed did, by what it wrote first: "limb A3 B, changed"; several of one table are counted.
        #
        # @param lines [Array<Hash>] of history, in order
        def deed_words(lines)
          return "#{deed_rows(lines)}, as before" if Deeds::UndoDeed.undone?(lines)

          action = lines.any? { |line| line[:action] == "add" } ? "add" : lines.first[:action]
          "#{deed_rows(lines)}, #{Sentences::Changes::HOW.fetch(action)}"
        end

        # The rows that a deed is about: what it added, else what it wrote first.
        def deed_rows(lines)
          added = lines.select { |line| line[:action] == "add" }
          main = added.empty? ? lines : added
          one = added.last || lines.first
          rows = main.select { |line| line[:table_name] == one[:table_name] }.uniq { |line| line[:row_id] }
          rows.size == 1 ? changed_row(one) : rows_words(one[:table_name], rows.size)
        end
      end
    end
  end
end
