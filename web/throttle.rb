# frozen_string_literal: true

require "rack/attack"

module Vestry
  module Web
    # How often one may knock: signing in, writing, and reading what is dear to make. Whoever is signed in is counted by
    # who they are, a program by its key, anyone else by where they come from.
    module Throttle
      SIGN_INS = 20
      WRITES = 240
      DEAR_READS = 120
      CALENDARS = 60
      MINUTE = 60
      SIGN_IN_PATHS = %w[/sign-in /forgotten /locked /new-password /unlock /code /recovery /security-key
                         /password-again].freeze
      # Printed, packed, compared or searched.
      DEAR = %r{\.(pdf|csv|zip|gpx|geojson|svg)\z
                |/(find|progress|versions|varieties|cut|window|crew|match|different)(\z|[/?])
                |/files/\d+\z
                |[?&]drawing=}x

      def self.fit
        Rack::Attack.cache.store = Outside::DoorCounts.new
        throttle("sign-in", SIGN_INS) { |request| Visitor.place(request.ip) if request.post? && sign_in?(request) }
        throttle("writes", WRITES) { |request| who(request) if unsafe?(request) && !sign_in?(request) }
        throttle("dear reads", DEAR_READS) do |request|
          who(request) if !unsafe?(request) && request.fullpath.match?(DEAR)
        end
        throttle("calendars", CALENDARS) do |request|
          Visitor.place(request.ip) if request.path.start_with?("/calendar/", "/join/", "/tree/")
        end
        Rack::Attack.throttled_responder = method(:too_many).to_proc
      end

      def self.too_many(request)
        wait = { "retry-after" => MINUTE.to_s }
        if request.path.start_with?("/api/")
          said = { type: "about:blank", title: "too many requests; wait a minute", status: 429 }
          return [429, { "content-type" => "application/problem+json", **wait }, [JSON.generate(said)]]
        end

        [429, { "content-type" => "text/plain; charset=utf-8", **wait },
         ["Too many tries. Wait a minute, then try again.\n"]]
      end

      def self.throttle(name, limit, &who) = Rack::Attack.throttle(name, limit: limit, period: MINUTE, &who)

      def self.who(request)
        key = request.get_header("HTTP_AUTHORIZATION").to_s
        return "key #{Digest::SHA256.hexdigest(key)}" if request.path.start_with?("/api/") && !key.empty?

        account = request.env["rack.session"] && request.env["rack.session"]["account_id"]
        account ? "account #{account}" : Visitor.place(request.ip)
      end

      def self.sign_in?(request) = SIGN_IN_PATHS.include?(request.path)
      def self.unsafe?(request) = !%w[GET HEAD OPTIONS].include?(request.request_method)
      private_class_method :throttle, :too_many, :who, :sign_in?, :unsafe?
    end
  end
end
