# frozen_string_literal: true

module Vestry
  module Web
    class People
      # What stands between a wrong password and the next: delays, the same answer for everyone, and letters about
      # what happened.
      module Tries
        DEVICE_SECONDS = Records::KnownDevice::KEPT_DAYS * Sessions::DAY

        # One that no password has.
        NOBODYS_HASH = BCrypt::Password.create(SecureRandom.hex(16), cost: HASH_COST).to_s

        def visitor = @visitor ||= Visitor.of(request.env)
        def typed_address = param("login").to_s.scrub("?").strip.downcase[0, 255]

        # The device's token, where the person who is typed signed in on it before.
        def known_device
          return @known_device if defined?(@known_device)

          @known_device = typed_id && Records::KnownDevice.known?(typed_id, visitor.token) ? visitor.token : nil
        end

        # Who is known by what was typed.
        def typed_id = @typed_id ||= Records::Account.id_by(typed_address)

        def take_a_try
          left = Records::SignInTries.take(typed_address, visitor.place, device: known_device)
          wait(left) if left.positive?
        end

        # Too many tries: the same for an address nobody is known by.
        def wait(seconds)
          response["retry-after"] = seconds.to_s
          set_response_error_status(429)
          scope.env["vestry.wait"] = seconds
          set_error_flash("Too many wrong tries. The next can be made " \
                          "in #{seconds < 60 ? "#{seconds} s" : "#{(seconds / 60.0).ceil} min"}.")
          return_response(login_view)
        end

        # A device on which they signed in before is never locked out.
        def locked_out? = super && known_device.nil?
        def show_lockout_page = wait(Records::SignInTries::LONGEST_WAIT)

        # Nobody is known by the address: the answer takes as long, and the log says no more.
        def as_long_as_for_anyone
          BCrypt::Password.new(NOBODYS_HASH).is_password?(param("password").to_s[0, 200])
          Records::DoorLog.note("refused", **visitor.told)
        end

        # For a letter with a new password the answer is one, whoever asks for whom, and however often.
        def same_answer
          if typed_id && !Records::Account.written_lately?(:account_password_reset_keys, typed_id,
                                                           reset_password_skip_resend_email_within)
            return
          end

          no_letters unless Settings.address
          set_redirect_error_flash(Words::LETTER)
          redirect "/sign-in"
        end

        def same_unlock_answer
          locked = typed_id && Records::Account.locked?(typed_id)
          if locked && !Records::Account.written_lately?(:account_lockouts, typed_id,
                                                         unlock_account_skip_resend_email_within)
            return
          end

          no_letters unless Settings.address
          set_redirect_error_flash(Words::UNLOCK_LETTER)
          redirect "/sign-in"
        end

        # Without an address of its own, it sends no letter with one in it.
        def no_letters(back = "/sign-in")
          set_redirect_error_flash("No letter was sent: this installation was not told its own address " \
                                   "(VESTRY_HOST). Ask whoever runs it.")
          redirect back
        end

        def noted(what, about: "") = Records::DoorLog.note(what, account_id: account_id, about: about, **visitor.told)

        def came_in
          Records::SignInTries.clear(typed_address, visitor.place, device: known_device)
          noted("signed-in")
          meet_device
        end

        # A device not seen before is told to its person, who may not be the one who sits at it.
        def meet_device
          any = Records::KnownDevice.met?(account_id)
          token, new = Records::KnownDevice.meet(account_id, visitor.token, visitor.device)
          set_device(token) if new
          if new && any
            tell("someone signed in as you on #{visitor.device} not seen before",
                 "It came from #{visitor.place}. If it was not you, change your password and sign out everywhere else.")
          end
        end

        def set_device(token)
          Rack::Utils.set_cookie_header!(response.headers, Visitor::COOKIE, value: token, path: "/", httponly: true,
                                         same_site: :lax, max_age: DEVICE_SECONDS)
        end

        # What the browser kept of pages goes with the session.
        def went_out
          Records::DoorLog.note("signed-out", account_id: @leaving, **visitor.told) if @leaving
          response["clear-site-data"] = '"cache"'
        end

        def before_logout
          @leaving = session_value
          super
        end

        def locked
          noted("locked")
          tell("your sign-in was locked",
               "After #{max_invalid_logins} wrong tries it is locked for an hour on devices that you never used. On " \
               "your own you can sign in as always.")
        end

        # Whoever else is signed in was let out by rodauth; the device that holds the letter or the old password stays
        # known.
        def password_changed
          noted("password")
          tell("your password was changed",
               "If it was not you, ask for a new one at the sign-in page, and tell whoever runs this installation.")
        end

        def second_step(what, about)
          noted(what, about: about)
          tell("your second step was changed",
               "#{what.end_with?('on') ? 'Added' : 'Removed'}: #{about}. If it was not you, change your password.")
        end

        def may_close
          orchard = Deeds::CloseAccount.held_by(Records::Account[account_id])
          return unless orchard

          set_redirect_error_flash("You are the last steward of #{orchard.name}: make someone else a steward first.")
          redirect "/you"
        end

        # An address that someone else has is answered as any other; only no letter goes.
        def update_login(login) = login == account[login_column] || !_account_from_login(login) ? super : true

        def tell(subject, body)
          account_from_session unless account
          Deeds::PostLetter.call(Outside::Outbox::Letter.new(address: account[login_column],
                                                         subject: "Vestry: #{subject}", body: body))
        end

        def password_meets_requirements?(password)
          person = account || account_from_session
          fault = Deeds::PasswordRule.fault(password, about: person ? [person[login_column], person[:name]] : [])
          return true unless fault

          @password_fault = fault
          false
        end

        def password_does_not_meet_requirements_message = @password_fault || super
      end
    end
  end
end
