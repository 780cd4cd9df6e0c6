# frozen_string_literal: true

require "rack"
require "rack/session"
require "rack/protection"
require "rack/attack"
require "rack/multipart"
require "json"

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

      # When the records cannot be reached, or something breaks, says so, whoever noticed. What it says needs
      # neither the records nor an orchard.
      class Steady
        LOST = [Sequel::DatabaseConnectionError, Sequel::DatabaseDisconnectError, Sequel::PoolTimeout].freeze
        PAGES = %w[out_of_reach broken].to_h { |name| [name, File.read(File.join(ROOT, "web/views/front/#{name}.html")).freeze] }.freeze

        # @param raising [Boolean] what breaks goes on up, for specs to see
        def initialize(app, raising: Settings.test?)
          @app = app
          @raising = raising
        end

        def call(env)
          @app.call(env)
        rescue *LOST
          self.class.answer(env)
        rescue StandardError => e
          @raising ? raise : self.class.broken(env, e)
        end

        def self.answer(env) = said(env, 503, "the records cannot be reached just now", PAGES["out_of_reach"], "retry-after" => "5")

        # What broke stands in the log under the id that the page shows.
        def self.broken(env, error)
          id = Outside::FailureLog.record(error, method: env["REQUEST_METHOD"], path: "#{env['SCRIPT_NAME']}#{env['PATH_INFO']}"[0, 200].scrub("?"))
          said(env, 500, "something broke here, and it is not your doing (#{id})", PAGES["broken"].sub("ID", id))
        end

        def self.said(env, status, title, page, more = {})
          return [status, { "content-type" => "application/problem+json", **more }, [JSON.generate({ type: "about:blank", title: title, status: status })]] if program?(env)

          [status, { "content-type" => "text/html; charset=utf-8", "cache-control" => "no-store", **more }, [page]]
        end

        def self.program?(env) = env["PATH_INFO"].to_s.start_with?("/api/") || env["SCRIPT_NAME"] == "/api"
      end

      # Addresses and forms that cannot be read as text are refused before anyone reads them.
      class Readable
        def initialize(app) = @app = app

        def call(env)
          env["PATH_INFO"].to_s.start_with?("/api/") || readable?(env) ? @app.call(env) : Steady.said(env, 400, "the address or the form cannot be read", UNREADABLE_PAGE)
        end

        UNREADABLE_PAGE = File.read(File.join(ROOT, "web/views/front/unreadable.html")).freeze
        private_constant :UNREADABLE_PAGE

        private

        def readable?(env)
          request = Rack::Request.new(env)
          plain?(Rack::Utils.unescape_path(env["PATH_INFO"].to_s)) && plain?(request.GET) && (!request.post? || request.media_type == "application/json" || plain?(request.POST))
        rescue Rack::BadRequest, EOFError, ArgumentError
          false
        end

        def plain?(value)
          case value
          when String then value.dup.force_encoding("UTF-8").then { |text| text.valid_encoding? && !text.include?("\0") }
          when Hash then value.all? { |name, each| plain?(name.to_s) && plain?(each) }
          when Array then value.all? { |each| plain?(each) }
          else true
          end
        end
      end

      # Whether it serves and reaches its records, for whoever watches it; it tells nothing else.
      class Health
        def initialize(app) = @app = app

        def call(env)
          return @app.call(env) unless env["PATH_INFO"] == "/health"

          headers = { "content-type" => "text/plain", "cache-control" => "no-store", "x-vestry-start" => Settings.start_id }.compact
          reached? ? [200, headers, ["ok\n"]] : [503, headers, ["no records\n"]]
        end

        private

        def reached?
          DB.get(1) == 1
        rescue Sequel::Error
          false
        end
      end

      # Programs come by their own door, before sessions and forms.
      class Programs
        def initialize(app) = @app = app

        def call(env)
          return @app.call(env) unless env["PATH_INFO"].start_with?("/api/")

          # What is sent is JSON, whatever a program's tool calls it: nobody reads it as a form.
          Api::Door.call(env.merge("SCRIPT_NAME" => "/api", "PATH_INFO" => env["PATH_INFO"].delete_prefix("/api"), "CONTENT_TYPE" => "application/json"))
        end
      end

      def self.build
        Door.fit
        Rack::Builder.new do
          use Headers
          use Steady
          use Health
          use Readable
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
