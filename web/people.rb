# frozen_string_literal: true

require "roda"
require "rodauth"
require "bcrypt"

module Vestry
  module Web
    # Sign-in, by rodauth. It answers its own addresses, and tells everything below who is there.
    class People < Roda
      # Read once: every process is begun anew after they were changed.
      SECRETS = Settings.hmac_secrets.freeze
      private_constant :SECRETS
      HASH_COST = Settings.test? ? BCrypt::Engine::MIN_COST : BCrypt::Engine::DEFAULT_COST

      plugin :middleware
      plugin :head
      plugin :rodauth, csrf: false, flash: false, render: false do
        db DB
        enable :login, :logout, :lockout, :reset_password, :change_password, :active_sessions, :confirm_password,
               :password_grace_period,
               :verify_login_change, :close_account, :otp, :recovery_codes, :webauthn
        hmac_secret SECRETS[0]
        hmac_old_secret SECRETS[1]
        check_csrf? { false }
        skip_status_checks? true
        accounts_table :accounts
        account_password_hash_column :password_hash
        password_hash_cost HASH_COST
        password_minimum_length Deeds::PasswordRule::LEAST
        password_maximum_bytes Deeds::PasswordRule::MOST_BYTES
        set_deadline_values? true
        require_login_confirmation? false
        account_from_login { |login| super(login.to_s.strip.downcase[0, 255]) }
        max_invalid_logins 50
        account_lockouts_deadline_interval(hours: 1)
        unlock_account_autologin? false
        reset_password_autologin? false

        login_route "sign-in"
        logout_route "sign-out"
        change_password_route "password"
        confirm_password_route "password-again"
        reset_password_request_route "forgotten"
        reset_password_route "new-password"
        unlock_account_request_route "locked"
        unlock_account_route "unlock"
        change_login_route "address"
        verify_login_change_route "new-address"
        close_account_route "close-account"
        two_factor_manage_route "second-step"
        two_factor_auth_route "second-step-now"
        two_factor_disable_route "second-step-off"
        otp_setup_route "code-setup"
        otp_auth_route "code"
        otp_disable_route "code-off"
        recovery_codes_route "recovery-codes"
        recovery_auth_route "recovery"
        webauthn_setup_route "security-key-setup"
        webauthn_auth_route "security-key"
        webauthn_remove_route "security-key-off"

        login_redirect "/"
        login_return_to_requested_location? true
        login_redirect_session_key "wanted"
        # Links in letters name the host that the installation says it has, and never the one a request claims.
        base_url { Settings.address || raise("no address is set") }
        domain { URI(Settings.address || "http://127.0.0.1").host }
        before_reset_password_request { no_letters unless Settings.address }
        before_unlock_account_request { no_letters unless Settings.address }
        before_verify_login_change_email { no_letters("/you") unless Settings.address }
        logout_redirect "/sign-in"
        require_login_redirect "/sign-in"
        active_sessions_redirect "/sign-in"
        change_password_redirect "/you"
        change_login_redirect "/you"
        verify_login_change_redirect "/"
        close_account_redirect "/sign-in"
        reset_password_redirect "/sign-in"
        reset_password_email_sent_redirect "/sign-in"
        reset_password_email_recently_sent_redirect "/sign-in"
        unlock_account_redirect "/sign-in"
        unlock_account_request_redirect "/sign-in"
        two_factor_auth_redirect { remove_session_value("wanted") || "/" }
        two_factor_already_authenticated_redirect "/you"
        two_factor_disable_redirect "/you"
        otp_setup_redirect "/recovery-codes"
        otp_disable_redirect "/you"
        webauthn_setup_redirect "/recovery-codes"
        webauthn_remove_redirect "/you"
        confirm_password_redirect { remove_session_value(confirm_password_redirect_session_key) || "/you" }
        already_logged_in { redirect("/") }

        Words.set(self)

        session_inactivity_deadline { Sessions::STAYS }
        session_lifetime_deadline { Sessions::LONGEST }
        password_grace_period 600
        auto_add_recovery_codes? true
        otp_issuer "Vestry"
        otp_drift 30
        webauthn_rp_name "Vestry"
        webauthn_user_verification "preferred"

        # Letters go to the outbox.
        require_mail? { false }
        send_email { |letter| Deeds::PostLetter.call(letter) }

        before_login_route { take_a_try if request.post? }
        before_reset_password_request_route { same_answer if request.post? }
        before_unlock_account_request_route { same_unlock_answer if request.post? }
        after_no_matching_login { as_long_as_for_anyone }
        after_login_failure { noted("refused") }
        after_login { came_in }
        after_logout { went_out }
        after_account_lockout { locked }
        after_unlock_account { noted("unlocked") }
        after_change_password { password_changed }
        after_reset_password { password_changed }
        after_verify_login_change { noted("address", about: account[login_column]) }
        after_otp_setup { second_step("second-factor-on", "a code from an app") }
        after_otp_disable { second_step("second-factor-off", "a code from an app") }
        after_webauthn_setup { second_step("second-factor-on", "a security key") }
        after_webauthn_remove { second_step("second-factor-off", "a security key") }
        before_close_account { may_close }
        close_account { Deeds::CloseAccount.call(Records::Account[account_id]) }
        delete_account_on_close? false

        auth_class_eval do
          include Sessions
          include Tries
          include Pages
        end
      end

      route do |r|
        rodauth.check_active_session if rodauth.logged_in?
        r.rodauth
        if rodauth.logged_in? && rodauth.two_factor_partially_authenticated? && !OrchardRouter.open?(r.path)
          r.redirect "/second-step-now"
        end
        rodauth.keep_cookie if rodauth.logged_in? && session["stays"]
        env["rodauth"] = rodauth
        nil
      end
    end
  end
end
