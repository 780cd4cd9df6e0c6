# frozen_string_literal: true

module Vestry
  module Web
    module Api
      class Writes
        # The autumn's count.
        class TallyWrites < Writes
          page "tally"

          post "grafts/{id}/tallies", "Records an autumn's count; a second one of the same season corrects the first",
               form: Contracts::TallyForm, answers: "tallies" do |on, v|
            Deeds::RecordTally.call(on.graft, Contracts::TallyForm.to_row(v, by: on.by), version: v[:version], **on.who)
          end
        end
      end
    end
  end
end
