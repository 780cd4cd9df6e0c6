# frozen_string_literal: true

require "rack"
require "rack/session"
require "rack/protection"

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

      def self.build
        Rack::Builder.new do
          use Headers
          use Rack::Static, urls: %w[/vestry.css /alpine.js /vestry.js /type /mark.svg], root: File.join(ROOT, "web/public"),
                            header_rules: [[:all, { "cache-control" => "public, max-age=3600" }]]
          use Rack::Session::Cookie, key: "vestry", secret: Settings.session_secret, same_site: :lax, httponly: true,
                                     expire_after: 60 * 60 * 24 * 30
          use Rack::Protection::AuthenticityToken
          run Gate.new
        end.to_app
      end
    end
  end
end
