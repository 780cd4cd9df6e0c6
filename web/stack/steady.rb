# frozen_string_literal: true

require "json"

module Vestry
  module Web
    module Stack
      # When the records cannot be reached, or something breaks, says so, whoever noticed. What it says needs
      # neither the records nor an orchard.
      class Steady
        LOST = [Sequel::DatabaseConnectionError, Sequel::DatabaseDisconnectError, Sequel::PoolTimeout,
                Sequel::DatabaseLockTimeout].freeze
        PAGES = %w[out_of_reach broken too_large busy stale_form]
          .to_h { |name| [name, File.read(File.join(ROOT, "web/views/front/#{name}.html")).freeze] }.freeze

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

        def self.answer(env)
          said(env, 503, "the records cannot be reached just now", PAGES["out_of_reach"], "retry-after" => "5")
        end

        # What broke stands in the log under the id that the page shows.
        def self.broken(env, error)
          id = Outside::FailureLog.record(error, request: env["vestry.request"], method: env["REQUEST_METHOD"],
                                          path: RequestLog.shape("#{env['SCRIPT_NAME']}#{env['PATH_INFO']}"))
          said(env, 500, "something broke here, and it is not your doing (#{id})", PAGES["broken"].sub("ID", id))
        end

        def self.said(env, status, title, page, more = {})
          if program?(env)
            return [status, { "content-type" => "application/problem+json", **more },
                    [JSON.generate({ type: "about:blank", title: title, status: status })]]
          end

          [status, { "content-type" => "text/html; charset=utf-8", "cache-control" => "no-store", **more }, [page]]
        end

        def self.program?(env) = env["PATH_INFO"].to_s.start_with?("/api/") || env["SCRIPT_NAME"] == "/api"
      end
    end
  end
end
