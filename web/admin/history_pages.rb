# frozen_string_literal: true

module Vestry
  module Web
    module Admin
      # Every change to a fact, and the way to bring back what was taken out of sight.
      class HistoryPages < Base
        PAGE = 50

        # Facts that only the machine needs.
        MACHINES = %w[id orchard_id import_id map_x map_y client_key version check stay readings part image marks
                      area_mm2].freeze
        private_constant :MACHINES

        helpers do
          # Whether a deed merged two varieties: to bring back the one that is hidden undoes half of it.
          def merged?(lines) = lines.any? { |line| line[:after].to_h.key?("same_as_id") }

          # Deeds of these lines that their reader is offered to undo, by the line that ends each here.
          #
          # @return [Hash{Integer=>Array<Hash>}]
          def undo_of(rows)
            deeds = Records::HistoryQueries.of_deeds(orchard, rows.filter_map { |row| row[:deed] }.uniq)
              .select { |_, lines| Deeds::UndoDeed.offered?(lines, account) }
            Records::HistoryQueries.untouched(orchard, deeds)
              .to_h { |deed, lines| [rows.find { |row| row[:deed] == deed }[:id], lines] }
          end

          # The facts that a change tells of, but for those that only the machine needs.
          def changed_facts(row)
            facts = (row[:before] || {}).keys | (row[:after] || {}).keys
            filled = facts.select { |name| [row[:before], row[:after]].any? { |side| !side.to_h[name].nil? } }
            filled - MACHINES
          end
        end

        get "/" do
          before = query[:before]
          rows = Records::HistoryQueries.history(orchard, kind: params["kind"],
                                          row: Integer(params["row"].to_s, 10, exception: false), before: before,
                                          limit: PAGE + 1)
          rows.first(PAGE).group_by { |row| row[:table_name] }
            .each { |table, all| names.of(table, all.map { |row| row[:row_id] }) }
          erb :"history/list", locals: { rows: rows.first(PAGE), more: rows.size > PAGE && rows[PAGE - 1][:id],
                                         undo: undo_of(rows.first(PAGE)),
                                         asked: params.slice("kind", "row").select { |_, said| said.is_a?(String) }
                                           .transform_keys(&:to_sym) }
        end

        # What a person did, put back as it was before; and on to where it was done.
        post "/deeds/:id/undo" do
          page = params["back"].to_s
          back = page.match?(%r{\A/o/#{Regexp.escape(orchard.slug)}(/|\?|\z)}) ? page : to("history")
          attempt(->(e) { redirect_with("It was not undone: #{e.words}.", back) }) do
            undone = Deeds::UndoDeed.call(orchard, params["id"].to_s[Helpers::Undoing::UUID] || raise(Records::Missing),
                                          member: Records::Membership.between(account, orchard))
            # Where it cannot be done again, that it is undone is said in words.
            notice "Undone: #{deed_rows(undone)}." unless undo_offered?
            redirect page_left(back, undone)
          end
        end

        get "/:kind/:id/hide" do
          row = Deeds::Hide.find!(orchard, params["kind"], params["id"])
          erb :"history/hide", locals: { row: row, kind: params["kind"], reach: Deeds::Hide.reach(row) }
        end

        post "/:kind/:id/hide" do
          row = Deeds::Hide.find!(orchard, params["kind"], params["id"])
          unless row.hidden?
            Deeds::Hide.call(row, by: actor, why: params["why"].to_s.strip[0,
              500].then { |why| why.empty? ? nil : why })
          end
          notice "Taken out of sight. It can be brought back here."
          redirect to("history")
        end

        post "/:kind/:id/restore" do
          attempt(->(e) { redirect_with("It was not brought back: #{e.words}.", to("history")) }) do
            row = Deeds::Hide.find!(orchard, params["kind"], params["id"])
            Deeds::Hide.undo(row, by: actor) if row.hidden?
            notice "It is back."
            redirect to("history")
          end
        end
      end
    end
  end
end
