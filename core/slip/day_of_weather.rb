# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # What is believable of a day's weather, wherever it comes from: a station's file, a service, or the records.
      module DayOfWeather
        # Somewhat beyond what was ever measured on earth: a reading outside was made in another unit or by a broken
        # station.
        RANGES = { min_c: -90..50, max_c: -90..60, rain_mm: 0..2000, gust_ms: 0..120 }.freeze
        UNITS = { min_c: "°C", max_c: "°C", rain_mm: "mm", gust_ms: "m/s" }.freeze

        module_function

        # @param day [Hash] +min_c+, +max_c+, +rain_mm+, +gust_ms+ [Float, nil]
        # @return [Symbol, nil] the figure that is not believable; +:order+ where the least is above the greatest
        def fault(day)
          RANGES.each_key.find { |name| day[name] && !RANGES[name].cover?(day[name]) } ||
            (:order if day[:min_c] && day[:max_c] && day[:min_c] > day[:max_c])
        end
      end
    end
  end
end
