# frozen_string_literal: true

module Vestry
  module Web
    class People
      # Sessions, each a device's own key: dropped at sign-out, whether or not the device stays signed in.
      module Sessions
        DAY = 86_400
        # A device that was not told to stay is signed out after a day without use; one that was, after thirty.
        LEAVES = DAY
        STAYS = 30 * DAY
        LONGEST = 90 * DAY

        # What people type into: an orchard's forms, and their own.
        TYPED = %r{\A/(o/|begin\z)}

        # A session is looked up with every request, and written down as used once a minute: a page that
        # only reads need not write.
        def currently_active_session?
          id = session[session_id_session_key] or return false
          lately = active_sessions_ds.where(active_sessions_session_id_column => compute_hmacs(id))
            .where(Sequel[active_sessions_last_use_column] > Sequel.date_sub(Sequel::CURRENT_TIMESTAMP, minutes: 1))
          !lately.empty? || super
        end

        # Several requests of one page may find at once that the session is over. Each answers with a cookie, and the
        # last one counts: they all keep the form's token, or the sign-in page that is shown would not be taken.
        def no_longer_active_session
          token, wanted = session[:csrf], wanted_again
          super
        ensure
          session[:csrf] = token if token
          session["wanted"] = wanted if wanted
        end

        # Where they go on once they are in again: to what they had typed, or to the page that was asked for.
        def wanted_again
          return request.fullpath if request.get? && request.path.start_with?("/o/") &&
            request.env["HTTP_ACCEPT"].to_s.include?("text/html")

          typed_form&.then { |id| "/typed/#{id}" }
        end

        # What a form of theirs brought waits until they are in again; a phone keeps its own.
        def typed_form
          return if !request.post? || request.env["HTTP_ACCEPT"].to_s.include?("application/json") ||
            !request.path.match?(TYPED)

          Records::TypedForm.keep(session_value, request.fullpath, request.POST)
        end

        def add_active_session
          @stays = param_or_nil("remember") == "yes"
          super
          stay if @stays
        end

        # Where it is to stay, its cookie outlives the window it came in.
        def stay
          set_session_value("stays", true)
          keep_cookie
        end

        def keep_cookie = request.env["rack.session.options"][:expire_after] = STAYS

        private

        def active_sessions_insert_hash = super.merge(device: Visitor.of(request.env).device, stays: @stays == true)

        def session_inactivity_deadline_condition
          gone = ->(after) { Sequel[active_sessions_last_use_column] < Sequel.date_sub(Sequel::CURRENT_TIMESTAMP,
            seconds: after) }
          gone[STAYS] | (Sequel.expr(stays: false) & gone[LEAVES])
        end
      end
    end
  end
end
