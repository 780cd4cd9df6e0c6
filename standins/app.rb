# frozen_string_literal: true

require "json"
require "rack"
require "time"
require_relative "thermometer/seeded"
require_relative "weather/seeded"

# Outside devices, made up: what they say depends on their name and the time alone.
module Standins
  # Answers as a store's thermometer would: the readings of a span.
  #   GET /thermometer/scion-fridge?from=2026-05-17T00:00Z&to=2026-05-18T00:00Z
  #
  # And as a weather service would: what was measured, and ten days ahead. Now and then it is out for
  # ten minutes, and some mornings yesterday's figures have not come in yet.
  #   GET /weather/maunder-hill?from=2026-05-01&to=2026-05-17
  #   GET /weather/maunder-hill/forecast?made_on=2026-05-18
  class App
    MOST_DAYS = 400
    AHEAD = 10

    # @param out [Proc] whether the weather service is out at a moment
    def initialize(out: ->(time) { (time.to_i / 600 * 2_654_435_761) % 100 < 8 })
      @out = out
    end

    def call(env)
      request = Rack::Request.new(env)
      case request.path_info
      when %r{\A/thermometer/([a-z0-9-]{1,60})\z} then thermometer(Regexp.last_match(1), request.params)
      when %r{\A/weather/([a-z0-9-]{1,60})(/forecast)?\z} then weather(Regexp.last_match(1), request.params,
                                                                       ahead: !Regexp.last_match(2).nil?)
      else answer(404, error: "no such device")
      end
    rescue ArgumentError => e
      answer(400, error: e.message)
    end

    private

    def thermometer(name, params)
      from, to = Time.iso8601(params["from"].to_s), Time.iso8601(params["to"].to_s)
      raise ArgumentError, "a span of at most #{MOST_DAYS} days" unless to >= from && to - from <= MOST_DAYS * 86_400

      answer(200, Thermometer::Seeded.new(name).readings(from,
                                                         to).map { |each| { at: each[:at].iso8601,
                                                           celsius: each[:celsius] } })
    end

    def weather(place, params, ahead:)
      return answer(503, error: "out of order") if @out.call(Time.now)

      feed = Weather::Seeded.new(place)
      if ahead
        made_on = Date.iso8601(params["made_on"].to_s)
        return answer(200, (0..AHEAD).map { |i| said(feed.forecast(made_on + i, made_on)) })
      end

      from, to = Date.iso8601(params["from"].to_s), Date.iso8601(params["to"].to_s)
      raise ArgumentError, "a span of at most #{MOST_DAYS} days" unless to >= from && to - from <= MOST_DAYS

      to -= 1 if to.yday % 5 == 3
      answer(200, feed.days(from, to).map { |day| said(day) })
    end

    def said(day) = { day: day[:date].iso8601, **day.slice(:min_c, :max_c, :rain_mm, :gust_ms) }

    def answer(status, body) = [status, { "content-type" => "application/json" }, [JSON.generate(body)]]
  end
end
