# frozen_string_literal: true

module Vestry
  module Web
    module Stack
      # Figures for whoever watches over it, in the text format that programs for that read, behind a key of its own:
      # VESTRY_METRICS_KEY as a bearer token. Without one set there is no such page.
      class Metrics
        def initialize(app) = @app = app

        def call(env)
          return @app.call(env) unless env["PATH_INFO"] == "/metrics" && Settings.metrics_key
          return [401, { "content-type" => "text/plain", "www-authenticate" => "Bearer" }, ["a key is wanted\n"]] unless
            known?(env["HTTP_AUTHORIZATION"].to_s)

          [200, { "content-type" => "text/plain; version=0.0.4", "cache-control" => "no-store" }, [text]]
        end

        private

        def known?(given) = Rack::Utils.secure_compare(given, "Bearer #{Settings.metrics_key}")

        # Requests are of the process that answers; jobs are of the database, for all of them.
        def text
          counts, taken = RequestCount.read
          jobs = Records::QueuedJobs.counted
          lines = counts.sort.map { |status, count| %(vestry_requests_total{status="#{status}"} #{count}) }
          lines << "vestry_request_milliseconds_total #{taken.round}"
          lines << "vestry_jobs_waiting #{jobs[:waiting]}" << "vestry_jobs_failed #{jobs[:failed]}"
          lines << "vestry_failures_total #{Outside::FailureLog.count}"
          "#{lines.join("\n")}\n"
        end
      end
    end
  end
end
