# frozen_string_literal: true

module Vestry
  module Web
    # Finds the orchard and the station an address names, and lets through only who may. No
    # station sees a request that has not passed here.
    class OrchardRouter
      STATIONS = { "today" => Stations::TodayPages,
                   "survey" => Stations::SurveyPages, "plan" => Stations::PlanPages, "wood" => Stations::WoodPages,
                   "slip" => Stations::SlipPages,
                   "graft" => Stations::GraftPages, "tend" => Stations::TendPages, "tally" => Stations::TallyPages,
                   "repair" => Stations::RepairPages, "practice" => Stations::PracticePages,
                   "varieties" => Admin::VarietyPages,
                   "settings" => Admin::SettingsPages,
                   "rulebook" => Admin::RulebookPages, "people" => Admin::MemberPages,
                   "history" => Admin::HistoryPages, "files" => Admin::FilePages, "find" => Admin::FindPages,
                   "share" => Admin::SharePages }.freeze
      ADDRESS = %r{\A/o/([a-z0-9-]+)(?:/([a-z]+)(/.*)?)?/?\z}

      # What is open without a sign-in, or before its second step.
      OPEN = %r{\A/(sign-|password|second-step|code|recovery|security-key|standins/|calendar/|join/|tree/
                   |forgotten|new-password|locked|unlock)}x

      def self.open?(path) = path.match?(OPEN)

      def call(env)
        account = env["vestry.account"] = signed_in(env)
        place = ADDRESS.match(env["PATH_INFO"])
        return (env["PATH_INFO"].match?(Bring::ADDRESS) ? Bring : AccountPages).call(env) unless place

        return sign_in_first(env) unless account

        orchard = Records::Orchard.called(place[1])
        role = orchard && account.role_in(orchard)
        station = STATIONS[place[2] || "today"]
        unless role && station
          return AccountPages.call(env.merge("PATH_INFO" => "/nothing-here", "REQUEST_METHOD" => "GET"))
        end

        env["vestry.orchard"] = orchard
        env["vestry.role"] = role
        enter(env, place, station)
      end

      private

      # The account behind the session, if any.
      def signed_in(env)
        rodauth = env["rodauth"]
        rodauth&.authenticated? ? Records::Account[rodauth.session_value] : nil
      end

      def enter(env, place, station)
        name = place[2] || "today"
        env["SCRIPT_NAME"] = "/o/#{place[1]}/#{name}"
        unless Records::Membership.enough?(env["vestry.role"],
                                           Roles.needed(env["REQUEST_METHOD"], name, env["PATH_INFO"]))
          return not_theirs(env)
        end
        if env["vestry.orchard"].second_factor && !env["rodauth"].two_factor_authenticated?
          return second_step_first(env)
        end

        env["PATH_INFO"] = place[3] || "/"
        in_orchard(env) { station.call(env) }
      end

      # What a request writes is one deed.
      def in_orchard(env, &station)
        orchard = env["vestry.orchard"]
        return orchard.with_current(reading: true, &station) if %w[GET HEAD].include?(env["REQUEST_METHOD"])

        Records::HistoryLog.as_one(env["vestry.deed"] = SecureRandom.uuid) { orchard.with_current(&station) }
      end

      # Reading on is no offence; trying to write is noted.
      def not_theirs(env)
        unless %w[GET HEAD].include?(env["REQUEST_METHOD"])
          Records::DoorLog.note("not-theirs", account_id: env["vestry.account"].id,
                                orchard_id: env["vestry.orchard"].id,
                                about: "#{env['REQUEST_METHOD']} #{env['PATH_INFO']}", **Visitor.of(env).told)
        end
        page = AccountPages.call(env.merge("PATH_INFO" => "/not-yours", "REQUEST_METHOD" => "GET"))
        # For an outbox, which tells it from a token that was of another session.
        page[1]["vestry-refused"] = "role"
        page
      end

      # The orchard's stewards ask for it of everyone.
      def second_step_first(env)
        words = "#{env['vestry.orchard'].name} asks for a second step at sign-in: add one, then come back."
        answer = [302, { "location" => "/second-step" }, []]
        Rack::Utils.set_cookie_header!(answer[1], "notice", value: words, path: "/", httponly: true, same_site: :lax)
        answer
      end

      def sign_in_first(env)
        env["rack.session"]["wanted"] = Rack::Request.new(env).fullpath if env["REQUEST_METHOD"] == "GET"
        [302, { "location" => "/sign-in" }, []]
      end
    end
  end
end
