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

        # @param facts [Hash] as the file has it
        # @param slug [String] its address here
        # @raise [Unreadable] naming the field
        def check(facts, slug)
          raise Unreadable, "orchard.json: is not an object with an orchard's facts" unless facts.is_a?(Hash)
          unless facts["schema"] == SCHEMA
            raise Unreadable, "orchard.json: is of the layout #{facts['schema'].inspect[0, 60]}; #{SCHEMA} is read here"
          end

          unknown = facts.keys - Tables::ORCHARD.keys - ["schema"]
          raise Unreadable, "orchard.json: does not know #{unknown.first(5).join(', ')[0, 200]}" if unknown.any?

          wrong = faults(facts.merge("slug" => slug)).first
          raise Unreadable, "orchard.json: #{wrong.first} #{wrong.last}" if wrong
        end

        # @return [Array<Array(String, String)>] field, what is allowed
        def faults(facts)
          book = Core::Rulebook.shipped
          [
            ["slug", "is of small letters, digits and dashes", text?(facts["slug"]) && facts["slug"].match?(SLUG)],
            ["name", "is a name of at most #{Orchard::LONGEST_NAME} characters",
             text?(facts["name"]) && facts["name"].strip.length.between?(1, Orchard::LONGEST_NAME)],
            ["latitude", "is from -90 to 90", number?(facts["latitude"], -90..90)],
            ["longitude", "is from -180 to 180", number?(facts["longitude"], -180..180)],
            ["time_zone", "is not a time zone that is known",
             optional?(facts, "time_zone") || Orchard.time_zones.include?(facts["time_zone"])],
            ["grazing", "is one of #{Orchard::GRAZING.join(', ')}",
             optional?(facts, "grazing") || Orchard::GRAZING.include?(facts["grazing"])],
            ["wind_from_deg", "is from 0 to 359", optional?(facts, "wind_from_deg") ||
             (facts["wind_from_deg"].is_a?(Integer) && facts["wind_from_deg"].between?(0, 359))],
            ["reach_mm", "is #{book.value('plausible.fork').join(' to ')}",
             optional?(facts, "reach_mm") || number?(facts["reach_mm"], Range.new(*book.value("plausible.fork")))],
            ["units", "is one of #{Core::Measure::UNITS.join(', ')}",
             optional?(facts, "units") || Core::Measure::UNITS.include?(facts["units"])],
            ["school", "is one of #{book.school_names.join(', ')}", book.school_names.include?(facts["school"])],
            ["weather_place", "is a place of at most 100 characters", optional?(facts, "weather_place") ||
             (text?(facts["weather_place"]) && facts["weather_place"].match?(PLACE))],
            *override_faults(facts["overrides"])
          ].reject(&:last).map { |field, words, _| [field, words] }
        end

        def override_faults(laid)
          return [] if laid.nil?
          return [["overrides", "is an object of rulebook entries", false]] unless laid.is_a?(Hash)

          fault = Core::Rulebook.shipped.override_fault(laid)
          fault ? [["overrides", fault, false]] : []
        end

        # A field without a value keeps the one that stands for all.
        def optional?(facts, field) = facts[field].nil?
        def text?(value)
          value.is_a?(String) && value.valid_encoding? && !value.match?(/[[:cntrl:]\u202A-\u202E\u2066-\u2069]/)
        end
        def number?(value, range) = value.is_a?(Numeric) && value.to_f.finite? && range.cover?(value)
        private_class_method :faults, :override_faults, :optional?, :text?, :number?
      end
    end
  end
end
