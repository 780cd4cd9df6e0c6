# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # What was done last, and the way to undo it, on the page that follows; what was changed, by name.
      module Undoing
        UUID = /\A[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}\z/
        # Words and offers that the next page carries, once.
        ONCE = %w[notice undo].freeze

        # A page that has its own way to take back what was done on it offers no other.
        def own_way_back! = env["vestry.deed"] = nil

        # Whether what this request did can be undone.
        def undo_offered?
          Deeds::UndoDeed.offered?(Records::HistoryQueries.of_deed(orchard, env["vestry.deed"]), account)
        end

        # The next page offers to undo what this request did.
        def carry_undo
          return unless env["vestry.deed"] && account && undo_offered?

          response.set_cookie("undo", value: env["vestry.deed"], path: "/", httponly: true, same_site: :lax)
        end

        # What was done last, where it can be undone: lines of history.
        def undo_lines
          deed = request.cookies["undo"]
          response.delete_cookie("undo", path: "/") if deed
          return [] unless orchard && deed.to_s.match?(UUID)

          lines = Records::HistoryQueries.of_deed(orchard, deed)
          Deeds::UndoDeed.offered?(lines, account) ? lines : []
        end

        def names = @names ||= Records::RowNames.new(orchard)

        # What was changed: "limb A3 B".
        def changed_row(line)
          called = names.of(line[:table_name], [line[:row_id]])[line[:row_id]]
          "#{row_words(line[:table_name])} #{called}".strip
        end

        # Where the page of what a deed added stands in an address: its table, by the last word before its number.
        PAGES = { "grafts" => "grafts", "trees" => "trees", "bundles" => "bundles", "varieties" => "varieties",
                  "repair" => "wounds" }.freeze
        private_constant :PAGES

        # Where to go on when a deed is undone: back, unless that is the page of what it added, which is none now; then
        # to where it is added.
        #
        # @param lines [Array<Hash>] those that were undone
        def page_left(back, lines)
          kind, id = back.match(%r{/([a-z]+)/(\d+)(?:\?.*)?\z})&.captures
          gone = lines.any? do |line|
            line[:action] == "add" && line[:table_name] == PAGES[kind] && line[:row_id] == id.to_i
          end
          return back unless gone
          return back.sub(%r{\A(/o/[^/]+/[a-z]+).*}m, '\1') unless kind == "grafts"

          limb = Records::Graft[id.to_i].limb
          limb.hidden? || limb.gone_on ? to("graft") : to("graft", "/limbs/#{limb.id}")
        end

        # What a deed did, by what it wrote first: "limb A3 B, changed"; several of one table are counted.
        #
        # @param lines [Array<Hash>] of history, in order
        def deed_words(lines)
          if Deeds::UndoDeed.undone?(lines)
            return "#{deed_rows(lines)}, #{lines.first[:action] == 'hide' ? 'taken back' : 'as before'}"
          end

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
