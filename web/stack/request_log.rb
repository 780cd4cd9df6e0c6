# frozen_string_literal: true

require "json"
require "securerandom"

module Vestry
  module Web
    module Stack
      # One line of JSON a request: its id, whose and about which orchard by their numbers, the shape of its address,
      # what it was answered, in how many milliseconds and with how many questions to the database. Nothing that
      # somebody typed, no names, no tokens.
      class RequestLog
        def initialize(app, output: $stdout, on: Settings.request_log?)
          @app = app
          @output = output
          @on = on
        end

        def call(env)
          id = env["vestry.request"] = SecureRandom.hex(6)
          began, asked = now, Records::QueryCount.so_far
          status, headers, body = @app.call(env)
          ms = ((now - began) * 1000).round(1)
          RequestCount.add(status, ms)
          tell(env, id, status, ms, Records::QueryCount.so_far - asked) if @on
          [status, headers, body]
        end

        # An address without what it is about.
        def self.shape(path)
          path.to_s[0, 200].scrub("?").gsub(%r{(?<=/)\d+(?=/|\z|\.)}, "N").sub(%r{\A/o/[^/]+}, "/o/NAME")
            .gsub(%r{(?<=/)(t|tree|join|reset|calendar)/[^/]+}, '\1/KEY').gsub(%r{(?<=/rows/)[^/]+}, "ROW")
        end

        private

        def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

        def tell(env, id, status, taken, queries)
          @output.puts(JSON.generate({ request: id, at: Time.now.utc.iso8601(3), person: env["vestry.account"]&.id,
                                       orchard: env["vestry.orchard"]&.id, method: env["REQUEST_METHOD"],
                                       route: self.class.shape("#{env['SCRIPT_NAME']}#{env['PATH_INFO']}"),
                                       status: status, ms: taken, queries: queries }.compact))
        end
      end
    end
  end
end
