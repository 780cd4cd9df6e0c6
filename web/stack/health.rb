# frozen_string_literal: true

module Vestry
  module Web
    module Stack
      # Whether it serves and reaches its records, for whoever watches it; it tells nothing else.
      class Health
        def initialize(app) = @app = app

        def call(env)
          return @app.call(env) unless env["PATH_INFO"] == "/health"

          headers = { "content-type" => "text/plain", "cache-control" => "no-store",
                      "x-vestry-start" => Settings.start_id }.compact
          reached? ? [200, headers, ["ok\n"]] : [503, headers, ["no records\n"]]
        end

        private

        def reached? = Records::Connection.up?
      end
    end
  end
end
