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

      def self.build
        Door.fit
        Rack::Builder.new do
          use Headers
          use Rack::Static, urls: Dir.children(File.join(ROOT, "web/public")).map { |name| "/#{name}" }, root: File.join(ROOT, "web/public"),
                            header_rules: [[:all, { "cache-control" => "public, max-age=3600" }]]
          use Secure
          use Rack::Attack
          use Rack::Session::Cookie, key: "vestry", secret: Settings.session_secret, same_site: :lax, httponly: true
          use Rack::Protection::AuthenticityToken
          use People
          run Gate.new
        end.to_app
      end
    end
  end
end
