# frozen_string_literal: true

module Vestry
  module Deeds
    module Jobs
      # Once a day: throws away what has been kept for its time, and learns from the seasons that are over.
      class Purges < Recurring
        EVERY = 86_400
        PARTS = {
          "letters" => -> { Purge.letters }, "sign-in" => -> { Purge.sign_in }, "requests" => -> { Purge.requests },
          "imports" => -> { Purge.imports }, "jobs" => -> { Purge.jobs },
          "derived" => -> { Purge.derived }, "files" => -> { Purge.files },
          "photos" => -> { Purge.photos }, "figures" => -> { LearnFigures.all }
        }.freeze
      end
    end
  end
end
