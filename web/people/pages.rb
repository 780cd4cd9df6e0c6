# frozen_string_literal: true

module Vestry
  module Web
    class People
      # Its pages are ours: the same frame, words and fields.
      module Pages
        # Our sign-in page has its own way to a forgotten password.
        def login_failed_reset_password_request_form = nil

        def create_email_to(to, subject, body)
          Outside::Outbox::Letter.new(address: to, subject: "#{email_subject_prefix}#{subject}", body: body)
        end

        def view(page, _title)
          env = scope.env.merge("REQUEST_METHOD" => "GET", "PATH_INFO" => "/", "SCRIPT_NAME" => "",
                                "vestry.people_page" => page, "rodauth" => self,
                                "vestry.account" => logged_in? ? Records::Account[session_value] : nil)
          _, headers, body = PeoplePages.call(env)
          # A word that was carried here and has been said is taken back.
          said = Array(headers["set-cookie"]).flat_map { |cookies| cookies.split("\n") }.grep(/\Anotice=/)
          said.each { |cookie| (scope.response.headers["set-cookie"] ||= []) << cookie }
          words = +""
          body.each { |part| words << part }
          words
        end

        # A refusal at the door says nothing of which field it was.
        def set_field_error(field, error)
          super unless request.path == login_path
        end

        def set_notice_flash(message) = message && carry(message)
        def set_notice_now_flash(message) = scope.env["vestry.notice"] = message
        def set_error_flash(message) = scope.env["vestry.error"] = message
        def set_redirect_error_flash(message) = carry(message)

        # A word for the next page: it outlives the session that ends with signing out.
        def carry(message)
          Rack::Utils.set_cookie_header!(scope.response.headers, "notice", value: message, path: "/", httponly: true,
                                         same_site: :lax)
        end
      end
    end
  end
end
