# frozen_string_literal: true

module Vestry
  module Web
    module Stack
      # Served by TLS, cookies travel by TLS alone, under a name that only this host can set; and browsers are told to
      # stay with it.
      class Secure
        PREFIX = "__Host-"

        def initialize(app) = @app = app

        def call(env)
          return @app.call(env) unless Rack::Request.new(env).ssl?

          status, headers, body = @app.call(env.merge("HTTP_COOKIE" => own(env["HTTP_COOKIE"])))
          cookies = Array(headers["set-cookie"]).flat_map { |cookie| cookie.split("\n") }
          headers["set-cookie"] = cookies.map { |cookie| guarded(cookie) } if cookies.any?
          [status, headers.merge("strict-transport-security" => "max-age=31536000"), body]
        end

        private

        # Those under the guarded name alone, as the application knows them.
        def own(header)
          header.to_s.split(/;\s*/).filter_map { |pair| pair.delete_prefix(PREFIX) if pair.start_with?(PREFIX) }
            .join("; ")
        end
        def guarded(cookie) = "#{PREFIX}#{cookie}#{'; secure' unless cookie.match?(/;\s*secure/i)}"
      end
    end
  end
end
