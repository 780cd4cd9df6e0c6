# frozen_string_literal: true

require "roda"
require "rodauth"

module Vestry
  module Web
    # Sign-in, by rodauth. It answers its own addresses, and tells everything below who is there.
    class People < Roda
      plugin :middleware
      plugin :rodauth, csrf: false, flash: false, render: false do
        db DB
        enable :login, :logout, :remember, :lockout, :reset_password, :change_password, :active_sessions
        hmac_secret { Settings.session_secret[0, 64] }
        check_csrf? { false }
        skip_status_checks? true
        accounts_table :accounts
        account_password_hash_column :password_hash
        password_hash_cost { Settings.test? ? BCrypt::Engine::MIN_COST : BCrypt::Engine::DEFAULT_COST }
        password_minimum_length Deeds::Invite::PASSWORD_LEAST
        set_deadline_values? true
        require_login_confirmation? false
        account_from_login { |login| super(login.to_s.strip.downcase) }
        max_invalid_logins 8

        login_route "sign-in"
        logout_route "sign-out"
        change_password_route "password"
        reset_password_request_route "forgotten"
        reset_password_route "new-password"
        unlock_account_request_route "locked"
        unlock_account_route "unlock"
        login_redirect "/"
        login_return_to_requested_location? true
        login_redirect_session_key "wanted"
        # Links in letters name the host that the installation says it has, and never the one a request claims.
        base_url { Settings.address || raise("no address is set") }
        domain { URI(Settings.address || "http://127.0.0.1").host }
        before_reset_password_request { no_letters unless Settings.address }
        before_unlock_account_request { no_letters unless Settings.address }
        logout_redirect "/sign-in"
        require_login_redirect "/sign-in"
        change_password_redirect "/you"
        reset_password_redirect "/sign-in"
        reset_password_email_sent_redirect "/sign-in"
        unlock_account_request_redirect "/sign-in"
        already_logged_in { redirect("/") }

        login_label "Email"
        login_error_flash "Not signed in"
        no_matching_login_message "no one is known by this address"
        invalid_password_message "is not the password"
        reset_password_request_error_flash "No letter was sent"
        reset_password_email_sent_notice_flash "A letter is on its way with a link for a new password"
        reset_password_notice_flash "Your new password is kept; sign in with it"
        change_password_notice_flash "Your new password is kept"
        login_notice_flash nil
        logout_notice_flash "Signed out"

        # Stay signed in on this device, when asked to.
        after_login { remember_login if param_or_nil("remember") == "yes" }
        extend_remember_deadline? true
        remember_cookie_options { { httponly: true, same_site: :lax, path: "/" } }
        session_inactivity_deadline 86_400 * 30
        session_lifetime_deadline 86_400 * 90

        # Letters go to the outbox.
        require_mail? { false }
        create_email { |subject, body| Outside::Outbox::Letter.new(address: email_to, subject: subject, body: body) }
        send_email { |letter| Outside::Outbox.post(letter) }
        email_subject_prefix "Vestry: "
        reset_password_email_subject "a new password"
        reset_password_email_body { "Someone asked for a new password for you. If it was you, choose one here:\n\n#{reset_password_email_link}\n\nIf not, do nothing." }
        unlock_account_email_subject "your sign-in was locked"
        unlock_account_email_body { "After too many tries your sign-in was locked. Unlock it here:\n\n#{unlock_account_email_link}\n" }

        auth_class_eval do
          # Our sign-in page has its own way to a forgotten password.
          def login_failed_reset_password_request_form = nil

          # A session is looked up with every request, and written down as used once a minute: a page that
          # only reads need not write.
          def currently_active_session?
            id = session[session_id_session_key] or return false
            lately = Records::Worded.ask(:session, session_value, id) do
              active_sessions_ds.where(active_sessions_session_id_column => compute_hmacs(id)).where(Sequel[active_sessions_last_use_column] > Sequel.date_sub(Sequel::CURRENT_TIMESTAMP, minutes: 1)).select(Sequel.as(1, :one))
            end
            !lately.first.nil? || super
          end

          # Its pages are ours: the same frame, words and fields.
          def view(page, _title)
            env = scope.env.merge("REQUEST_METHOD" => "GET", "PATH_INFO" => "/", "SCRIPT_NAME" => "", "vestry.people_page" => page, "rodauth" => self)
            _, headers, body = PeoplePages.call(env)
            # A word that was carried here and has been said is taken back.
            Array(headers["set-cookie"]).flat_map { |cookies| cookies.split("\n") }.grep(/\Anotice=/).each { |cookie| (scope.response.headers["set-cookie"] ||= []) << cookie }
            words = +""
            body.each { |part| words << part }
            words
          end

          # Without an address of its own, it sends no letter with one in it.
          def no_letters
            set_redirect_error_flash("No letter was sent: this installation was not told its own address (VESTRY_HOST). Ask whoever runs it.")
            redirect "/sign-in"
          end

          def set_notice_flash(message) = message && carry(message)
          def set_notice_now_flash(message) = scope.env["vestry.notice"] = message
          def set_error_flash(message) = scope.env["vestry.error"] = message
          def set_redirect_error_flash(message) = carry(message)

          # A word for the next page: it outlives the session that ends with signing out.
          def carry(message) = Rack::Utils.set_cookie_header!(scope.response.headers, "notice", value: message, path: "/", httponly: true, same_site: :lax)
        end
      end

      route do |r|
        rodauth.load_memory
        rodauth.check_active_session if rodauth.logged_in?
        r.rodauth
        env["rodauth"] = rodauth
        nil
      end
    end
  end
end
