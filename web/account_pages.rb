# frozen_string_literal: true

module Vestry
  module Web
    # What lies outside any orchard: the way in, one's own page, and the reading of a typed measure.
    class AccountPages < Base
      # What a form says besides what was typed.
      UNSHOWN = %w[version client_key once what].freeze
      OPEN = %r{\A/(join/|nothing-here|demo/|calendar/|tree/)}

      before do
        redirect "/sign-in" unless account || OPEN.match?(request.path_info)
      end

      # An orchard as one sees it before going in: its trees, and what matters there today.
      Door = Struct.new(:orchard, :map, :words, keyword_init: true)

      helpers do
        def door(orchard)
          orchard.with_current(reading: true) do
            day = Outside::Clock.today(orchard.time_zone, set: demo_day)
            Door.new(orchard: orchard, map: OrchardView.new(orchard, {}, day).map,
                     words: Headline.new(orchard, day).front.first)
          end
        end

        def begin_page(reading) = erb(:"front/begin", locals: { reading: reading, year: FirstYear.of(reading, today) })

        def join(invite, errors = {}, typed = {})
          erb :"people/join", locals: { invite: invite, token: params["token"],
                                        reading: Contracts::FormResult.new(values: {}, errors: errors, typed: typed,
                                          form: {}) }
        end
      end

      get "/" do
        orchards = account.orchards
        redirect "/o/#{orchards.first.slug}/today" if orchards.size == 1
        erb :"front/door", locals: { orchards: orchards, doors: orchards.map { |each| door(each) } }
      end

      # How a typed length is understood, for the echo beside a field.
      get "/measure" do
        content_type :text
        units = Core::Measure::UNITS.include?(params["units"]) ? params["units"] : "metric"
        begin
          measure = Core::Measure.parse(params["text"].to_s[0, 60], units: units)
          "#{measure.say(units)}#{" · #{measure.say('metric')}" if units == 'imperial'}"
        rescue Core::BadInput => e
          status 422
          e.allowed
        end
      end

      # For a phone's outbox: who is signed in, and a token to send with.
      get "/token" do
        halt 401 unless account
        content_type :json
        headers "cache-control" => "no-store"
        JSON.generate(account: account.id.to_s, token: Rack::Protection::AuthenticityToken.token(env["rack.session"]))
      end

      # Someone's agenda for a calendar that has its secret address.
      get "/calendar/:token.ics" do
        key = Records::CalendarKey.good(params["token"]) or halt 404, "There is no calendar here.\n"
        content_type "text/calendar", charset: "utf-8"
        headers "cache-control" => "private, no-cache"
        text = AgendaCalendar.of(key, Settings.address)
        etag(Digest::SHA256.hexdigest(text)[0, 32])
        text
      end

      # One tree, for whoever has its secret address.
      %w[/tree/:token /tree/:token/card.pdf].each do |route|
        get route do
          headers "x-robots-tag" => "noindex", "cache-control" => "private, no-store"
          link = Records::TreeLink.good(params["token"]) or halt 404, erb(:"front/missing", locals: {
            words: "This address opens nothing: it has ended, or was never whole." })
          link.read!
          link.orchard.with_current(reading: true) { shared_tree(link, paper: route.end_with?("pdf")) }
        end
      end

      helpers do
        def shared_tree(link, paper:)
          day = Outside::Clock.today(link.orchard.time_zone)
          if paper
            content_type "application/pdf"
            return tree_card_pdf(link.tree)
          end

          erb :"front/tree", locals: { link: link, token: params["token"], today: day,
                                       card: Records::TreeCard.new(link.tree, day) }
        end

        def you(token: nil, errors: {})
          erb :"people/you", locals: { sessions: account.sign_ins, tokens: Records::ApiToken.of(account), token: token,
                                       errors: errors, log: Records::DoorLog.mine(account) }
        end

        def noted(what, **more) = Records::DoorLog.note(what, account_id: account.id, **more, **Visitor.of(env).told)
      end

      get("/you") { you }

      # What was sent after a session had ended.
      get "/typed/:id" do
        typed = Records::TypedForm.of(account, params["id"]) || redirect("/")
        sent = URI.decode_www_form(Rack::Utils.build_nested_query(typed[:fields].to_h))
        shown = sent.reject { |name, value| value.strip.empty? || UNSHOWN.include?(name) }
        part = Helpers::Frame::STATIONS[typed[:path].split("/")[3]]
        erb :"front/typed", locals: { typed: typed, sent: sent, shown: shown, part: part }
      end

      post "/typed/:id/leave" do
        Records::TypedForm.drop(account, params["id"])
        redirect "/"
      end

      # A key for a program, shown once.
      post "/you/tokens" do
        password_again("/you")
        reading = Contracts::ApiKeyForm.new.read(params)
        halt 422, you(errors: reading.errors) unless reading.ok?

        key = reading.values
        orchard = account.orchards.find { |each| each.slug == key[:orchard] }
        halt 422, you(errors: { orchard: ["is none of yours"] }) if key[:orchard] && orchard.nil?

        token = Records::ApiToken.issue(account, key[:name], scope: key[:scope], orchard: orchard, days: key[:days])
        noted("key-made", about: key[:name].to_s, orchard_id: orchard&.id)
        you(token: token)
      end

      post "/you/tokens/revoke" do
        revoked = Records::ApiToken.revoke(account, params["token"])
        noted("key-revoked", about: revoked.name) if revoked
        notice "That key no longer opens anything."
        redirect "/you"
      end

      post "/you/tokens/revoke-all" do
        Records::ApiToken.of(account).each { |key| Records::ApiToken.revoke(account, key.id) }
        noted("key-revoked", about: "all of them")
        notice "No key of yours opens anything now."
        redirect "/you"
      end

      # A new one, without a tree.
      def self.first_facts
        { latitude: nil, longitude: nil, time_zone: "Etc/UTC", grazing: "none", reach: "2.4 m", units: "metric",
          school: Core::Rulebook.shipped.school_names.first }
      end

      get("/scan") { erb :"front/scan" }
      # A code that was typed.
      get("/t") { redirect "/t/#{Records::Labelled.plain(params['code'])}" }

      # A label's short address: on to what its tree or limb wants now.
      get "/t/:code" do
        found = Records::Labelled.find(params["code"], account.orchards) or raise Records::Missing
        here = found.orchard
        here.with_current(reading: true) do
          redirect NextDeed.new(here, Outside::Clock.today(here.time_zone, set: demo_day), account.role_in(here))
            .of(found)
        end
      end

      get("/begin") { begin_page(Contracts::OrchardSettingsForm.blank(AccountPages.first_facts)) }

      # What is typed of a new orchard, drawn.
      get "/begin/drawn" do
        reading = Contracts::OrchardSettingsForm.new(units: "metric").read(params, AccountPages.first_facts)
        partial :"front/begun_year", year: FirstYear.of(reading, today)
      end

      post "/begin" do
        reading = Contracts::OrchardSettingsForm.new(units: "metric").read(params, AccountPages.first_facts)
        try(reading, ->(wrong) { begin_page(wrong) }) do |v|
          once do
            made = Deeds::BeginOrchard.call(Contracts::OrchardSettingsForm.facts(v), account: account)
            notice "#{made.name} is begun, and you are its steward."
            "/o/#{made.slug}/today"
          end
        end
      end

      # Ends every other session, and what other devices remember.
      post "/you/sessions" do
        rodauth = env["rodauth"]
        rodauth.account_from_session
        rodauth.remove_all_active_sessions_except_current
        noted("ended-others")
        notice "Signed out everywhere else."
        redirect "/you"
      end

      # Ends one session, on the device that was lost.
      post "/you/sessions/end" do
        Records::Account.end_session(account, params["session"])
        notice "That device is signed out."
        redirect "/you"
      end

      get "/join/:token" do
        join(Records::Invite.good(params["token"]))
      end

      post "/join/:token" do
        invite = Records::Invite.good(params["token"]) or halt 410, join(nil)
        begin
          unless account
            reading = Contracts::JoinForm.new.read(params)
            halt 422, join(invite, reading.errors, reading.typed) unless reading.ok?
            hash = BCrypt::Password.create(reading.values[:password], cost: People::HASH_COST).to_s
          end
          joined = Deeds::InvitePerson.accept(params["token"], account: account, name: reading&.values&.[](:name),
              email: reading&.values&.[](:email), password_hash: hash)
          Records::DoorLog.note("joined", account_id: joined.id, orchard_id: invite.orchard_id,
                                about: "as a #{invite.role}", **Visitor.of(env).told)
          notice account ? "You belong to #{invite.orchard.name} now." :
            "You belong to #{invite.orchard.name} now. Sign in to begin."
          redirect account ? "/o/#{invite.orchard.slug}/today" : "/sign-in"
        rescue Deeds::Refused => e
          halt 422, join(e.errors.key?(:token) ? nil : invite, e.errors, reading&.typed || {})
        end
      end

      # A simulated caliper: a small window that types its readings into the field that has the
      # focus, as a real one does over a keyboard wedge.
      get "/standins/caliper" do
        unless Vestry::Settings.demo? || Vestry::Settings.test?
          halt 404, erb(:"front/missing", locals: { words: "Nothing is kept at this address." })
        end
        erb :"front/caliper", layout: false
      end

      post "/demo/day" do
        unless Vestry::Settings.demo?
          halt 404, erb(:"front/missing", locals: { words: "Nothing is kept at this address." })
        end
        # It outlives the session: whoever signs in again comes back to the day they had reached.
        step = Integer(params["step"].to_s, 10, exception: false)&.clamp(-366, 366)
        day = step ? today + step : read_day(params["day"])
        response.set_cookie("demo_day", value: day.iso8601, path: "/", httponly: true, same_site: :lax) if day
        back = request.referer && URI.parse(request.referer).path
        redirect(back && back.start_with?("/") ? back : "/")
      rescue URI::InvalidURIError
        redirect "/"
      end

      get "/not-yours" do
        status 403
        erb :"front/missing",
            locals: { words: "That is not yours to do here: you are a #{role || 'guest'}. Ask a steward." }
      end
    end
  end
end
