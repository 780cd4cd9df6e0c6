# frozen_string_literal: true

module Vestry
  module Web
    module Api
      class Writes
        # Out of sight, and back.
        class HistoryWrites < Writes
          page "history"
          WHY = body { optional(:why).filled(:string, max_size?: 500) }

          post "deeds/{id}/undo", "Undoes whole what one request did: for a day, and for who did it; that is a " \
                                  "deed of its own, and undone in turn does it again",
               page: "history/deeds/1/undo" do |on, _|
            deed = on.id.to_s[Helpers::Undoing::UUID] || raise(Records::Missing)
            { undone: Deeds::UndoDeed.call(on.orchard, deed, member: on.member).size }
          end

          Deeds::Hide::KINDS.each_key do |kind|
            name = Records::Archive::Tables.of(kind).name
            page = "history/#{kind}/1/hide"

            delete "#{name}/{id}", "Takes one of #{name} out of sight, with what hangs on it", page: page,
                   form: WHY do |on, v|
              row = Deeds::Hide.find!(on.orchard, kind, on.id)
              reach = row.hidden? ? {} : Deeds::Hide.reach(row)
              Deeds::Hide.call(row, by: on.by, why: v[:why]) unless row.hidden?
              { hidden: reach }
            end

            post "#{name}/{id}/restore", "Brings one of #{name} back into sight, with what was taken with it",
                 page: page, answers: name do |on, _|
              row = Deeds::Hide.find!(on.orchard, kind, on.id)
              row.hidden? ? Deeds::Hide.undo(row, by: on.by).refresh : row
            end
          end
        end
      end
    end
  end
end
