# frozen_string_literal: true

require "sinatra/base"
require "erubi"
require "tilt/erubi"
require "securerandom"
require "json"

module Vestry
  module Web
    # What every page shares: escaping, the frame, forms, errors that keep what was typed.
    class Base < Sinatra::Base
      # The installation was not told where people find it, so it gives nobody an address of its own.
      class NoAddress < StandardError; end

      set :root, File.join(ROOT, "web")
      set :views, File.join(ROOT, "web/views")
      set :erb, escape_html: true
      set :sessions, false
      set :static, false
      set :protection, except: %i[session_hijacking remote_token]
      set :host_authorization, { permitted_hosts: [] }
      set :show_exceptions, false
      set :raise_errors, Settings.test?
      set :dump_errors, false
      set :method_override, false
      set :absolute_redirects, false

      helpers Helpers::Frame, Helpers::Words, Helpers::Forms, Helpers::Workings, Helpers::Pictures, Sentences,
              Helpers::Undoing, Helpers::StoryWords, Helpers::TaskPages

      helpers do
        # An address that leaves this page: on paper, in a letter, in someone's calendar.
        #
        # @raise [NoAddress]
        def outside_address(path) = Settings.address ? "#{Settings.address}#{path}" : raise(NoAddress)

        def orchard = env["vestry.orchard"]
        def account = env["vestry.account"]
        def role = env["vestry.role"]
        # What an address asks for, where it is one of those that can be.
        def chosen(name, allowed, otherwise) = allowed.include?(params[name]) ? params[name] : otherwise
        def may?(needed) = Records::Membership.enough?(role, needed)
        # Under which name what is done stands in the records.
        def actor = orchard ? account.name_in(orchard) : account.name
        def session = env["rack.session"]
        def today = @today ||= Outside::Clock.today(orchard ? orchard.time_zone : "Etc/UTC", set: demo_day)

        # In the demo each person may step the day.
        def demo_day = Vestry::Settings.demo? ? Core::Values.day(request.cookies["demo_day"]) : nil

        # A word for the next page, or for this one. It travels in a cookie of its own: the session is
        # written whole by every request, and one made beside this would lose it.
        def notice(words)
          @said = [@said, words].compact.join(" ")
          response.set_cookie("notice", value: @said[0, 1500], path: "/", httponly: true, same_site: :lax)
        end

        def take_notice
          carried = request.cookies["notice"]
          response.delete_cookie("notice", path: "/") if @said || carried
          [env["vestry.notice"], @said, carried&.scrub("?")].compact.join(" ")
        end

        # The paper that is asked for, else the orchard's own.
        def paper(here = orchard) = query.fetch(:paper) { here.units == "imperial" ? "letter" : "a4" }

        # A tree's card.
        def tree_card_pdf(tree, address: nil)
          here = tree.orchard
          day = orchard ? today : Outside::Clock.today(here.time_zone)
          Sheets::TreePaper.new(Records::TreeCard.new(tree, day), self, today: day, address: address,
                                                                        size: paper(here)).pdf
        end

        # What the address asks for behind its question mark, or a form repeats of it.
        def query = @query ||= Contracts::Query.read(params)

        # The units of bare numbers that were sent: those of the page they were typed on, which a phone may have kept
        # while the orchard's were changed.
        def typed_units = Core::Measure::UNITS.include?(params["page_units"]) ? params["page_units"] : orchard.units

        # The request's fields through a form's contract, in the units they were typed in.
        def read(form, standing = {}, exact = {}) = form.new(units: typed_units).read(params, standing, exact)

        # A file as it was sent: its content, and what it was called; nothing where none was.
        def sent(name)
          upload = params[name].is_a?(Hash) ? params[name].transform_keys(&:to_s) : {}
          upload.values_at("tempfile", "filename")
        end

        # A file of rows as it was sent, no more of it than says that it is too large, and what it was called.
        def sent_table(name = "file")
          file, called = sent(name)
          [file && file.read(Deeds::ImportFile::MOST_BYTES + 1).to_s, called]
        end

        # Whether this came from a phone's outbox, which waits for a receipt.
        def wants_receipt?
          request.post? && request.env["HTTP_ACCEPT"].to_s.include?("application/json") &&
            params["client_key"].is_a?(String)
        end

        # Why a deed was not taken, for the outbox.
        def refusal(errors)
          refusal_in(errors.map { |name, words| ended(told_of(name, Array(words).join("; "))) }.join(" "))
        end

        # A question ends as it was asked.
        def ended(words) = words.match?(/[.?!]\z/) ? words : "#{words}."

        # A sentence stands for itself; a few words are those of their field.
        def told_of(name, words) = words.match?(/\A[[:upper:]“]/) ? words : "#{name.to_s.tr('_', ' ')}: #{words}"

        def refusal_in(words)
          content_type :json
          JSON.generate(key: params["client_key"], refused: words)
        end

        # A page that says only why there is no other; an outbox is told in a line.
        def only_words(words) = wants_receipt? ? refusal_in(words) : erb(:"front/missing", locals: { words: words })

        # A task done, waived, put off or taken back, as pressed.
        def settle_task(of)
          return Deeds::SettleTask.undo(of, params["key"].to_s, by: actor) if params["what"] == "undo"

          Deeds::SettleTask.call(of, params["key"].to_s, params["what"].to_s, by: actor, today: today,
                                 why: params["why"].to_s.strip[0, 300].then { |why| why.empty? ? nil : why },
                                 until_on: read_day(params["until_on"]))
        end

        # Does a deed of a form once: sent again, by a double press say, it leads where it led the first time.
        #
        # @yieldreturn [String] where the deed leads
        def once
          key = params["once"]
          return redirect(yield) unless key.is_a?(String) && key.match?(/\A[0-9a-f-]{36}\z/)

          place, = Records::RepeatedRequest.answer(account, "form #{key}", request.fullpath) { [yield, 302] }
          redirect place || yield
        end

        # What decides who comes in, or takes much out, asks for the password where it was not typed lately.
        #
        # @param back [String] where to go on from, once it was typed
        def password_again(back)
          return if env["rodauth"].password_recently_entered?

          session["confirm_password_redirect"] = back
          notice "Your password first; then do it once more." unless request.get?
          redirect "/password-again"
        end

        # Notes at the door's log what was changed about who may do what.
        def door_log(what, about = "")
          Records::DoorLog.note(what, account_id: account.id, orchard_id: orchard.id, about: about,
                                **Visitor.of(env).told)
        end

        def read_day(text) = Core::Values.day(text)

        # A day that a field has to hold.
        #
        # @raise [Deeds::Refused]
        def typed_day(name)
          read_day(params[name]) || raise(Deeds::Refused, name.to_sym => ["is a day, such as 2026-05-18"])
        end

        # Does a deed. When it refuses, the page is shown again with what is wrong, and an outbox is told why.
        #
        # @param again [Proc] shows the page, from the Deeds::Refused
        # @param told [Proc] what an outbox is told
        def attempt(again, told: :errors.to_proc)
          yield
        rescue Deeds::Refused => e
          status e.is_a?(Deeds::Conflict) ? 409 : 422
          wants_receipt? ? refusal(told.call(e)) : again.call(e)
        end

        # The same with what a form says: when the form or the deed refuses, all that was typed is shown again.
        #
        # @param again [Proc] shows the page, from the form's result with its errors
        # @yieldparam values [Hash] what the form came to
        def try(reading, again)
          shown = ->(e) { reading.with(e.errors) }
          attempt(->(e) { again.call(shown[e]) }, told: ->(e) { shown[e].errors }) do
            raise Deeds::Refused, {} unless reading.ok?

            yield reading.values
          end
        end

        # On to a page that shows a word first.
        def redirect_with(words, place)
          notice words
          redirect place
        end

        # What is wrong, above a page that has no field for it.
        def with_words(refused)
          env["vestry.notice"] = refused.words
          yield
        end
      end

      # A page asks for plain words in its address: a list or a table where one word is asked for is none.
      before do
        params.select! { |_, value| value.is_a?(String) } if request.get? || request.head?
      end

      # A page that still stands is not made again. One with a word for its reader is for once alone.
      before do
        once = Helpers::Undoing::ONCE.any? { |name| request.cookies.key?(name) }
        next if once || !(request.get? || request.head?)

        tag = PageTag.of(env, today, station) or next
        headers "cache-control" => "private, no-cache"
        etag tag, kind: :weak
      end
      after do
        next if response.status == 200 && !@said && env["vestry.notice"].nil?

        response.headers.delete("etag") unless response.status == 304
        response.headers.delete("cache-control") if response.headers["cache-control"] == "private, no-cache" &&
          response.status != 304
      end

      # What was done can be undone from the page that follows.
      after { carry_undo if request.post? && [302, 303].include?(response.status) }

      # A deed that was done sends the browser on; an outbox gets a receipt that names it.
      after do
        next unless wants_receipt? && [302, 303].include?(response.status)

        place = response["location"]
        response.headers.delete("location")
        status 200
        content_type :json
        body JSON.generate(key: params["client_key"], location: place)
      end

      # A drawing of the page alone, as a file.
      after do
        unless request.get? && params["drawing"].to_s.match?(/\A\d{1,2}\z/) && response.status == 200 &&
          [nil, "text/html"].include?(response.media_type)
          next
        end

        file = Drawings::SvgFile.from(response.body.join, params["drawing"].to_i)
        status 404 unless file
        content_type file ? "image/svg+xml" : "text/plain"
        if file
          attachment "#{orchard&.slug}-#{request.path_info.scan(/[[:alnum:]]+/).join('-')}-#{params['drawing']}.svg"
        end
        body file || "There is no such drawing on this page."
      end

      error Records::Missing do
        status 404
        only_words "There is no such thing in this orchard#{' any more' if wants_receipt?}."
      end

      # What the database itself holds out, where no form did: said in its words.
      error Sequel::ConstraintViolation do |e|
        column, words = Records::Archive::Limits.words(e)
        unless column
          Outside::FailureLog.record(e, method: request.request_method,
                                        path: Stack::RequestLog.shape(request.path_info))
        end
        status 422
        only_words column ? "It was not kept: #{column.to_s.tr('_', ' ')} #{words}." :
                     "It was not kept: it does not go with what is in the records. Go back, look at it again, and " \
                       "send it once more."
      end

      error Outside::PhotoStore::Away do
        status 503
        erb :"front/missing",
            locals: { words: "Photos cannot be reached just now. They are kept: ask again in a while." }
      end

      error NoAddress do
        status 409
        erb :"front/missing",
            locals: { words: "No link was made: this installation was not told its own address. Whoever runs it " \
                             "sets VESTRY_HOST." }
      end

      not_found { only_words "Nothing is kept at this address." }

      # Said without asking the records for anything.
      error(*Stack::Steady::LOST) { halt(*Stack::Steady.answer(env)) }

      error { |e| halt(*Stack::Steady.broken(env, e)) }
    end
  end
end
