# frozen_string_literal: true

module Vestry
  module Web
    # What lies outside any orchard: the way in, one's own page, and the reading of a typed measure.
    class Front < Base
      OPEN = %r{\A/(join/|nothing-here|demo/|calendar/)}

      before do
        redirect "/sign-in" unless account || OPEN.match?(request.path_info)
      end

      helpers do
        def join(invite, errors = {}, typed = {})
          erb :"people/join", locals: { invite: invite, token: params["token"], reading: Contracts::Form::Reading.new(values: {}, errors: errors, typed: typed, form: {}) }
        end
      end

      get "/" do
        orchards = account.orchards
        redirect "/o/#{orchards.first.slug}/survey" if orchards.size == 1
        erb :"front/door", locals: { orchards: orchards }
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
        headers "cache-control" => "private, no-store"
        AgendaCalendar.of(key, Settings.address)
      end

      helpers do
        def you(token: nil) = erb(:"people/you", locals: { sessions: account.sign_ins, tokens: Records::ApiToken.of(account), token: token })
        def bring(errors: {}) = erb(:"front/bring", locals: { errors: errors, arrivals: Records::Arrival.of(account) })
        def arrived(errors: {}) = erb(:"front/arrival", locals: { errors: errors, arrival: arrival! })
        def arrival! = Records::Arrival.of!(account, params["token"])

        # Does something with what is on its way in; shows its page again where that is refused.
        def with_arrival
          yield arrival!
        rescue Deeds::Refused => e
          status 422
          arrived(errors: e.errors)
        end
      end

      get("/you") { you }

      # A key for a program, shown once.
      post("/you/tokens") { you(token: Records::ApiToken.issue(account, params["name"])) }

      post "/you/tokens/revoke" do
        Records::ApiToken.revoke(account, params["token"])
        notice "That key no longer opens anything."
        redirect "/you"
      end

      # A new one, without a tree.
      def self.first_facts = { latitude: nil, longitude: nil, time_zone: "Etc/UTC", grazing: "none", reach: "2.4 m", units: "metric", school: Core::Rulebook.shipped.school_names.first }

      get("/begin") { erb :"front/begin", locals: { reading: Contracts::OrchardSettings.blank(Front.first_facts) } }

      post "/begin" do
        reading = Contracts::OrchardSettings.new(units: "metric").read(params, Front.first_facts)
        try(reading, ->(wrong) { erb :"front/begin", locals: { reading: wrong } }) do |v|
          made = Deeds::BeginOrchard.call(Contracts::OrchardSettings.facts(v), account: account)
          notice "#{made.name} is begun, and you are its steward."
          redirect "/o/#{made.slug}/survey"
        end
      end

      # A packed orchard, brought in as a new one.
      get("/bring") { bring }

      post "/bring" do
        zip, name = sent("archive")
        arrival = Deeds::BringOrchard.keep(account, zip, name: name, slug: params["slug"])
        redirect "/bring/#{arrival.token}"
      rescue Deeds::Refused => e
        status 422
        bring(errors: e.errors)
      end

      get("/bring/:token") { arrived }

      get "/bring/:token/progress" do
        content_type :json
        arrival = arrival!
        JSON.generate(done: arrival.done, over: !arrival.under_way?, said: through(arrival.done, arrival.bytes))
      end

      post "/bring/:token/begin" do
        with_arrival do |arrival|
          Deeds::BringOrchard.begin(arrival)
          redirect "/bring/#{arrival.token}"
        end
      end

      post "/bring/:token/undo" do
        with_arrival do |arrival|
          Deeds::BringOrchard.undo(arrival, by: account.name)
          notice "It is out of sight, and its address is free."
          redirect "/bring/#{arrival.token}"
        end
      end

      post "/bring/:token/restore" do
        with_arrival do |arrival|
          back = Deeds::BringOrchard.restore(arrival, by: account.name)
          notice "#{back.name} is back."
          redirect "/o/#{back.slug}/survey"
        end
      end

      # Ends every other session, and what other devices remember.
      post "/you/sessions" do
        rodauth = env["rodauth"]
        rodauth.account_from_session
        rodauth.remove_all_active_sessions_except_current
        rodauth.disable_remember_login
        notice "Signed out everywhere else."
        redirect "/you"
      end

      get "/join/:token" do
        join(Records::Invite.good(params["token"]))
      end

      post "/join/:token" do
        invite = Records::Invite.good(params["token"]) or halt 410, join(nil)
        begin
          unless account
            reading = Contracts::Join.new.read(params)
            halt 422, join(invite, reading.errors, reading.typed) unless reading.ok?
            hash = BCrypt::Password.create(reading.values[:password], cost: Vestry::Settings.test? ? BCrypt::Engine::MIN_COST : BCrypt::Engine::DEFAULT_COST).to_s
          end
          Deeds::Invite.accept(params["token"], account: account, name: reading&.values&.[](:name), email: reading&.values&.[](:email), password_hash: hash)
          notice account ? "You belong to #{invite.orchard.name} now." : "You belong to #{invite.orchard.name} now. Sign in to begin."
          redirect account ? "/o/#{invite.orchard.slug}/survey" : "/sign-in"
        rescue Deeds::Refused => e
          halt 422, join(e.errors.key?(:token) ? nil : invite, e.errors, reading&.typed || {})
        end
      end

      # A simulated caliper: a small window that types its readings into the field that has the
      # focus, as a real one does over a keyboard wedge.
      get "/standins/caliper" do
        halt 404, erb(:"front/missing", locals: { words: "Nothing is kept at this address." }) unless Vestry::Settings.demo? || Vestry::Settings.test?
        erb :"front/caliper", layout: false
      end

      post "/demo/day" do
        halt 404, erb(:"front/missing", locals: { words: "Nothing is kept at this address." }) unless Vestry::Settings.demo?
        step = Integer(params["step"].to_s, 10, exception: false).to_i.clamp(-366, 366)
        session["today"] = step.zero? ? nil : (today + step).iso8601
        back = request.referer && URI.parse(request.referer).path
        redirect back && back.start_with?("/") ? back : "/"
      rescue URI::InvalidURIError
        redirect "/"
      end

      get "/not-yours" do
        status 403
        erb :"front/missing", locals: { words: "That is not yours to do here: you are a #{role || 'guest'}. Ask a steward." }
      end
    end
  end
end
