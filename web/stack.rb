# frozen_string_literal: true

require "rack"
require "rack/session"
require "rack/protection"
require "rack/attack"

module Vestry
  module Web
    # Everything a request passes through, outermost first.
    module Stack
      HEADERS = {
        "content-security-policy" => "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self'; font-src 'self'; " \
                                     "connect-src 'self'; manifest-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'",
        "x-content-type-options" => "nosniff",
        "referrer-policy" => "same-origin",
        "x-frame-options" => "DENY",
        "permissions-policy" => "camera=(), microphone=(), geolocation=()"
      }.freeze

      # Sets the headers every answer carries.
      class Headers
        def initialize(app) = @app = app

        def call(env)
          status, headers, body = @app.call(env)
          [status, HEADERS.merge(headers), body]
        end
      end

      # Served by TLS, cookies travel by TLS alone, and browsers are told to stay with it.
      class Secure
        def initialize(app) = @app = app

        def call(env)
          status, headers, body = @app.call(env)
          return [status, headers, body] unless Rack::Request.new(env).ssl?

          cookies = Array(headers["set-cookie"]).flat_map { |cookie| cookie.split("\n") }
          headers["set-cookie"] = cookies.map { |cookie| cookie.match?(/;\s*secure/i) ? cookie : "#{cookie}; secure" } if cookies.any?
          [status, headers.merge("strict-transport-security" => "max-age=31536000"), body]
        end
      end

      # When the records cannot be reached, says so, whoever noticed.
      class Steady
        LOST = [Sequel::DatabaseConnectionError, Sequel::DatabaseDisconnectError, Sequel::PoolTimeout].freeze
        PAGE = File.read(File.join(ROOT, "web/views/front/out_of_reach.html")).freeze

        def initialize(app) = @app = app

        def call(env)
          @app.call(env)
        rescue *LOST
          self.class.answer(env)
        end

        def self.answer(env)
          return [503, { "content-type" => "application/problem+json", "retry-after" => "5" }, [%({"type":"about:blank","title":"the records cannot be reached just now","status":503})]] if env["PATH_INFO"].to_s.start_with?("/api/") || env["SCRIPT_NAME"] == "/api"

          [503, { "content-type" => "text/html; charset=utf-8", "retry-after" => "5", "cache-control" => "no-store" }, [PAGE]]
        end
      end

      # Programs come by their own door, before sessions and forms.
      class Programs
        def initialize(app) = @app = app

        def call(env)
          return @app.call(env) unless env["PATH_INFO"].start_with?("/api/")

          Api::Door.call(env.merge("SCRIPT_NAME" => "/api", "PATH_INFO" => env["PATH_INFO"].delete_prefix("/api")))
        end
      end

      def self.build
        Door.fit
        Rack::Builder.new do
          use Headers
          use Steady
          use Rack::Static, urls: Dir.children(File.join(ROOT, "web/public")).map { |name| "/#{name}" }, root: File.join(ROOT, "web/public"),
                            header_rules: [[:all, { "cache-control" => "public, max-age=3600" }]]
          use Secure
          use Rack::Attack
          use Programs
          use Rack::Session::Cookie, key: "vestry", secret: Settings.session_secret, same_site: :lax, httponly: true
          use Rack::Protection::AuthenticityToken
          use People
          run Gate.new
        end.to_app
      end
    end
  end
end
