# frozen_string_literal: true

module Vestry
  module Deeds
    module Jobs
      # Throws away, once a day, what has been kept for its time.
      class Purges < Recurring
        EVERY = 86_400
        PARTS = {
          "letters" => -> { Purge.letters }, "sign-in" => -> { Purge.sign_in }, "requests" => -> { Purge.requests },
          "derived" => -> { Purge.derived }, "files" => -> { Purge.files },
          "photos" => -> { Purge.photos }
        }.freeze
      end
    end
  end
end
