# frozen_string_literal: true

require "rack"
require "rack/session"
require "rack/attack"
require "rack/deflater"

module Vestry
  module Web
    # Everything a request passes through, outermost first.
    module Stack
      def self.build
        Throttle.fit
        Rack::Builder.new do
          use RequestLog
          use Headers
          use Rack::Head
          use Rack::TempfileReaper
          use Secure
          use Steady
          use Health
          use Metrics
          use Readable, :address
          use Assets
          use Rack::Deflater, Compressed.options
          use Rack::Session::Cookie, key: "vestry", secrets: Settings.cookie_secrets, same_site: :lax, httponly: true
          use Intake
          use Readable, :form
          use Rack::Attack
          use Programs
          use FormToken
          use People
          run OrchardRouter.new
        end.to_app
      end
    end
  end
end
