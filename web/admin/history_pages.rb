# frozen_string_literal: true

module Vestry
  module Web
    module Admin
      # Every change to a fact, and the way to bring back what was taken out of sight.
      class HistoryPages < Base
        PAGE = 50

        get "/" do
          before = query[:before]
          rows = Records::HistoryQueries.history(orchard, kind: params["kind"],
                                          row: Integer(params["row"].to_s, 10, exception: false), before: before,
                                          limit: PAGE + 1)
          erb :"history/list", locals: { rows: rows.first(PAGE), more: rows.size > PAGE && rows[PAGE - 1][:id] }
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
