# frozen_string_literal: true

module Vestry
  module Web
    class People
      # What sign-in says: in its pages and in its letters.
      module Words
        NOT_IN = "Not signed in: the address and the password do not belong together."
        LETTER = "If someone is known by this address, a letter is on its way with a link for a new password."
        UNLOCK_LETTER = "If a sign-in by this address is locked, a letter is on its way with a link that unlocks it."

        SAID = {
          login_label: "Email", login_error_flash: NOT_IN, no_matching_login_message: "",
          invalid_password_message: "is not the password",
          login_notice_flash: nil, logout_notice_flash: "Signed out",
          active_sessions_error_flash: "You were signed out on this device. Sign in again.",
          reset_password_request_error_flash: "No letter was sent", reset_password_email_sent_notice_flash: LETTER,
          reset_password_notice_flash: "Your new password is kept; sign in with it",
          reset_password_error_flash: "The new password was not kept",
          no_matching_reset_password_key_error_flash: "This link has been used or is too old: ask for another letter.",
          change_password_notice_flash: "Your new password is kept. Keys for programs still open; revoke those you " \
                                        "no longer want.",
          change_password_error_flash: "The password was not changed",
          passwords_do_not_match_message: "is not the same as the password",
          same_as_existing_password_message: "is the one you have now",
          unlock_account_notice_flash: "Your sign-in is unlocked: sign in now",
          no_matching_unlock_account_key_error_flash: "This link has been used or is too old.",
          unlock_account_request_notice_flash: UNLOCK_LETTER,
          confirm_password_notice_flash: nil, confirm_password_error_flash: "That is not your password",
          change_login_needs_verification_notice_flash: "A letter is on its way to the new address. It is yours " \
                                                        "once its link is followed.",
          change_login_error_flash: "The address was not changed",
          verify_login_change_notice_flash: "Your address is changed; sign in with it from now on",
          verify_login_change_error_flash: "The address was not changed",
          verify_login_change_duplicate_account_error_flash: "The address was not changed",
          no_matching_verify_login_change_key_error_flash: "This link has been used or is too old.",
          already_an_account_with_this_login_message: "cannot be taken",
          login_not_valid_email_message: "is not an address for letters",
          same_as_current_login_message: "is the one you have now",
          close_account_notice_flash: "Your account is closed.",
          close_account_error_flash: "Your account was not closed", two_factor_auth_notice_flash: nil,
          two_factor_need_authentication_error_flash: "One more step before you are in.",
          two_factor_not_setup_error_flash: "You have no second step yet.",
          two_factor_already_authenticated_error_flash: "You are in already.",
          two_factor_disable_notice_flash: "Signing in takes the password alone again.",
          two_factor_disable_error_flash: "It was not removed",
          otp_setup_notice_flash: "Codes are asked for from now on. Keep the recovery codes below.",
          otp_setup_error_flash: "It was not added", otp_already_setup_error_flash: "Codes are asked for already.",
          otp_disable_notice_flash: "Codes are no longer asked for.", otp_disable_error_flash: "It was not removed",
          otp_auth_error_flash: "That code is not the one it shows now",
          otp_invalid_auth_code_message: "is not the code it shows now",
          otp_lockout_error_flash: "Too many wrong codes: use a recovery code.",
          otp_invalid_secret_message: "is not the secret shown; begin again",
          invalid_recovery_code_error_flash: "That is none of your recovery codes",
          invalid_recovery_code_message: "is none of your recovery codes",
          recovery_codes_added_notice_flash: "New recovery codes were made.",
          add_recovery_codes_error_flash: "No codes were made",
          view_recovery_codes_error_flash: "Type your password to see them",
          webauthn_setup_notice_flash: "The security key is asked for from now on. Keep the recovery codes below.",
          webauthn_setup_error_flash: "The security key was not added",
          webauthn_auth_error_flash: "The security key did not open",
          webauthn_remove_notice_flash: "The security key is no longer asked for.",
          webauthn_remove_error_flash: "It was not removed",
          webauthn_not_setup_error_flash: "You have no security key here.", require_login_error_flash: "Sign in first.",
          email_subject_prefix: "Vestry: ", reset_password_email_subject: "a new password",
          unlock_account_email_subject: "your sign-in was locked",
          verify_login_change_email_subject: "your new address"
        }.freeze

        LETTERS = {
          reset_password_email_body: ->(auth) { "Someone asked for a new password for you. If it was you, choose " \
                                                "one here:\n\n#{auth.reset_password_email_link}\n\nIf not, do " \
                                                "nothing." },
          unlock_account_email_body: ->(auth) { "After many wrong tries your sign-in was locked for an hour on " \
                                                "devices that you never used. Unlock it " \
                                                "here:\n\n#{auth.unlock_account_email_link}\n" },
          verify_login_change_email_body: ->(auth) { "This address is to be yours at sign-in. If you asked for it, " \
                                                     "follow this link:\n\n" \
                                                     "#{auth.verify_login_change_email_link}\n\nIf not, do nothing." }
        }.freeze

        # Sets them on a rodauth configuration.
        def self.set(configuration)
          SAID.each { |name, words| configuration.public_send(name, words) }
          LETTERS.each { |name, body| configuration.public_send(name) { body.call(self) } }
        end
      end
    end
  end
end
