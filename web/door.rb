# frozen_string_literal: true

require "rack/attack"

module Vestry
  module Web
    # How often one may knock: signing in, and writing.
    module Door
      SIGN_INS = 20
      WRITES = 240
      MINUTE = 60

      def self.fit
        Rack::Attack.cache.store = Outside::DoorCounts.new
        Rack::Attack.throttle("sign-in by place", limit: SIGN_INS, period: MINUTE) { |request| request.ip if knock?(request) }
        Rack::Attack.throttle("sign-in by person", limit: SIGN_INS / 2, period: MINUTE) do |request|
          request.params["login"].to_s.strip.downcase[0, 100] if knock?(request)
        end
        Rack::Attack.throttle("writes", limit: WRITES, period: MINUTE) { |request| request.ip if unsafe?(request) && !knock?(request) }
        Rack::Attack.throttled_responder = lambda do |_|
          [429, { "content-type" => "text/plain; charset=utf-8", "retry-after" => MINUTE.to_s }, ["Too many tries. Wait a minute, then try again.\n"]]
        end
      end

      def self.knock?(request) = request.post? && %w[/sign-in /forgotten /locked].include?(request.path)
      def self.unsafe?(request) = !%w[GET HEAD OPTIONS].include?(request.request_method)
      private_class_method :knock?, :unsafe?
    end
  end
end
