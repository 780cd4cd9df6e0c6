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
          wrong = rules.reject { |field, _, needed, fits| facts[field].nil? ? !needed : fits.call(facts[field]) }
          wrong.map { |field, words,| [field, words] } + override_faults(facts["overrides"])
        end

        # Each field with what is allowed, whether it is needed, and what fits.
        def rules
          @rules ||= [*names_and_place, *habits].freeze
        end

        def names_and_place
          [["slug", "is of small letters, digits and dashes", true, ->(v) { text?(v) && v.match?(SLUG) }],
           ["name", "is a name of at most #{Orchard::LONGEST_NAME} characters", true,
            ->(v) { text?(v) && v.strip.length.between?(1, Orchard::LONGEST_NAME) }],
           ["latitude", "is from -90 to 90", true, ->(v) { number?(v, -90..90) }],
           ["longitude", "is from -180 to 180", true, ->(v) { number?(v, -180..180) }],
           ["altitude_m", "is from -500 to 6000", false, ->(v) { number?(v, -500..6000) }],
           ["declination_deg", "is from -180 to 180", false, ->(v) { v.nil? || number?(v, -180..180) }],
           ["time_zone", "is not a time zone that is known", false, ->(v) { Orchard.time_zones.include?(v) }],
           ["weather_place", "is a place of at most 100 characters", false, ->(v) { text?(v) && v.match?(PLACE) }]]
        end

        def habits
          book = Core::Rulebook.shipped
          reach = book.value("plausible.fork")
          [["grazing", "is one of #{Orchard::GRAZING.join(', ')}", false, Orchard::GRAZING.method(:include?)],
           ["wind_from_deg", "is from 0 to 359", false, ->(v) { v.is_a?(Integer) && v.between?(0, 359) }],
           ["reach_mm", "is #{reach.join(' to ')}", false, ->(v) { number?(v, Range.new(*reach)) }],
           ["units", "is one of #{Core::Measure::UNITS.join(', ')}", false, Core::Measure::UNITS.method(:include?)],
           ["school", "is one of #{book.school_names.join(', ')}", true, book.school_names.method(:include?)]]
        end

        def override_faults(laid)
          return [] if laid.nil?
          return [["overrides", "is an object of rulebook entries"]] unless laid.is_a?(Hash)

          fault = Core::Rulebook.shipped.override_fault(laid)
          fault ? [["overrides", fault]] : []
        end

        def text?(value)
          value.is_a?(String) && value.valid_encoding? && !value.match?(/[[:cntrl:]\u202A-\u202E\u2066-\u2069]/)
        end
        def number?(value, range) = value.is_a?(Numeric) && value.to_f.finite? && range.cover?(value)
        private_class_method :faults, :rules, :names_and_place, :habits, :override_faults, :text?, :number?
      end
    end
  end
end
