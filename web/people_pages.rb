# frozen_string_literal: true

module Vestry
  module Web
    # The pages rodauth asks for, in our frame. Reached only from within.
    class PeoplePages < Base
      TEMPLATES = { "login" => "sign_in", "logout" => "sign_out", "reset-password-request" => "forgotten",
                    "reset-password" => "new_password",
                    "change-password" => "change_password", "unlock-account-request" => "locked",
                    "unlock-account" => "unlock",
                    "confirm-password" => "password_again", "change-login" => "address",
                    "verify-login-change" => "new_address", "close-account" => "close_account",
                    "two-factor-manage" => "second_step", "two-factor-auth" => "second_step_now",
                    "two-factor-disable" => "second_step_off",
                    "otp-setup" => "code_setup", "otp-auth" => "code", "otp-disable" => "code_off",
                    "recovery-codes" => "recovery_codes", "add-recovery-codes" => "recovery_codes",
                    "recovery-auth" => "recovery", "webauthn-setup" => "key_setup", "webauthn-auth" => "key",
                    "webauthn-remove" => "key_off" }.freeze

      helpers do
        # For an app that makes sign-in codes.
        def code_square(text)
          Drawings::SquareCode.new(text, label: "A square code that an app for sign-in codes reads").svg
        end
      end

      get "/" do
        template = TEMPLATES[env["vestry.people_page"]] or halt 404
        erb :"people/#{template}", locals: { rodauth: env["rodauth"] }
      end
    end
  end
end
