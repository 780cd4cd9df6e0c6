# frozen_string_literal: true

module Vestry
  module Web
    # The pages rodauth asks for, in our frame. Reached only from within.
    class PeoplePages < Base
      TEMPLATES = { "login" => "sign_in", "logout" => "sign_out", "reset-password-request" => "forgotten", "reset-password" => "new_password",
                    "change-password" => "change_password", "unlock-account-request" => "locked", "unlock-account" => "unlock" }.freeze

      get "/" do
        template = TEMPLATES[env["vestry.people_page"]] or halt 404
        erb :"people/#{template}", locals: { rodauth: env["rodauth"] }
      end
    end
  end
end
