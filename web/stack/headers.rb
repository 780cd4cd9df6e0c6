# frozen_string_literal: true

module Vestry
  module Web
    module Stack
      # Sets the headers every answer carries. What says nothing else of it is kept by no cache.
      class Headers
        ALWAYS = {
          "content-security-policy" => "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self'; " \
                                       "font-src 'self'; " \
                                       "connect-src 'self'; manifest-src 'self'; form-action 'self'; base-uri " \
                                       "'none'; frame-ancestors 'none'",
          "x-content-type-options" => "nosniff",
          "referrer-policy" => "same-origin",
          "x-frame-options" => "DENY",
          "cross-origin-opener-policy" => "same-origin",
          "cross-origin-resource-policy" => "same-origin",
          "permissions-policy" => "camera=(self), geolocation=(self), accelerometer=(self), gyroscope=(self), " \
                                  "magnetometer=(self), microphone=()"
        }.freeze

        def initialize(app) = @app = app

        def call(env)
          status, headers, body = @app.call(env)
          [status, { "cache-control" => "no-store" }.merge(headers, ALWAYS), body]
        end
      end
    end
  end
end
