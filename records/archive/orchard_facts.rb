# frozen_string_literal: true

require "tzinfo"

module Vestry
  module Records
    module Archive
      # What an orchard's own facts may be, where they come in a file: the same as its settings take.
      module OrchardFacts
        MOST_BYTES = 1024 * 1024
        SLUG = /\A[a-z0-9][a-z0-9-]{1,60}\z/
        PLACE = /\A[[:graph:] ]{1,100}\z/

        module_function

        # @param told [Hash] as the file has it
        # @param slug [String] its address here
        # @raise [Unreadable] naming the field
        def check(told, slug)
          raise Unreadable, "orchard.json: is not an object with an orchard's facts" unless told.is_a?(Hash)
          unless told["schema"] == SCHEMA
            raise Unreadable, "orchard.json: is of the layout #{told['schema'].inspect[0, 60]}; #{SCHEMA} is read here"
          end

          unknown = told.keys - Tables::ORCHARD.keys - ["schema"]
          raise Unreadable, "orchard.json: does not know #{unknown.first(5).join(', ')[0, 200]}" if unknown.any?

          wrong = faults(told.merge("slug" => slug)).first
          raise Unreadable, "orchard.json: #{wrong.first} #{wrong.last}" if wrong
        end

        # @return [Array<Array(String, String)>] field, what is allowed
        def faults(told)
          book = Core::Rulebook.shipped
          [
            ["slug", "is of small letters, digits and dashes", text?(told["slug"]) && told["slug"].match?(SLUG)],
            ["name", "is a name of at most #{Orchard::LONGEST_NAME} characters",
             text?(told["name"]) && told["name"].strip.length.between?(1, Orchard::LONGEST_NAME)],
            ["latitude", "is from -90 to 90", number?(told["latitude"], -90..90)],
            ["longitude", "is from -180 to 180", number?(told["longitude"], -180..180)],
            ["time_zone", "is not a time zone that is known",
             optional?(told, "time_zone") || Orchard.time_zones.include?(told["time_zone"])],
            ["grazing", "is one of #{Orchard::GRAZING.join(', ')}",
             optional?(told, "grazing") || Orchard::GRAZING.include?(told["grazing"])],
            ["wind_from_deg", "is from 0 to 359", optional?(told, "wind_from_deg") ||
             (told["wind_from_deg"].is_a?(Integer) && told["wind_from_deg"].between?(0, 359))],
            ["reach_mm", "is #{book.value('plausible.fork').join(' to ')}",
             optional?(told, "reach_mm") || number?(told["reach_mm"], Range.new(*book.value("plausible.fork")))],
            ["units", "is one of #{Core::Measure::UNITS.join(', ')}",
             optional?(told, "units") || Core::Measure::UNITS.include?(told["units"])],
            ["school", "is one of #{book.school_names.join(', ')}", book.school_names.include?(told["school"])],
            ["weather_place", "is a place of at most 100 characters", optional?(told, "weather_place") ||
             (text?(told["weather_place"]) && told["weather_place"].match?(PLACE))],
            *override_faults(told["overrides"])
          ].reject(&:last).map { |field, words, _| [field, words] }
        end

        def override_faults(laid)
          return [] if laid.nil?
          return [["overrides", "is an object of rulebook entries", false]] unless laid.is_a?(Hash)

          fault = Core::Rulebook.shipped.override_fault(laid)
          fault ? [["overrides", fault, false]] : []
        end

        # A field without a value keeps the one that stands for all.
        def optional?(told, field) = told[field].nil?
        def text?(value)
          value.is_a?(String) && value.valid_encoding? && !value.match?(/[[:cntrl:]\u202A-\u202E\u2066-\u2069]/)
        end
        def number?(value, range) = value.is_a?(Numeric) && value.to_f.finite? && range.cover?(value)
        private_class_method :faults, :override_faults, :optional?, :text?, :number?
      end
    end
  end
end
