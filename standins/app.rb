# frozen_string_literal: true

require "json"
require "rack"
require "time"
require_relative "thermometer/seeded"

# Outside devices, made up: what they say depends on their name and the time alone.
module Standins
  # Answers as a store's thermometer would: the readings of a span.
  #   GET /thermometer/scion-fridge?from=2026-05-17T00:00Z&to=2026-05-18T00:00Z
  class App
    MOST_DAYS = 400

    def call(env)
      request = Rack::Request.new(env)
      case request.path_info
      when %r{\A/thermometer/([a-z0-9-]{1,60})\z} then thermometer(Regexp.last_match(1), request.params)
      else answer(404, error: "no such device")
      end
    rescue ArgumentError => e
      answer(400, error: e.message)
    end

    private

    def thermometer(name, params)
      from, to = Time.iso8601(params["from"].to_s), Time.iso8601(params["to"].to_s)
      raise ArgumentError, "a span of at most #{MOST_DAYS} days" unless to >= from && to - from <= MOST_DAYS * 86_400

      answer(200, Thermometer::Seeded.new(name).readings(from, to).map { |each| { at: each[:at].iso8601, celsius: each[:celsius] } })
    end

    def answer(status, body) = [status, { "content-type" => "application/json" }, [JSON.generate(body)]]
  end
end
