# frozen_string_literal: true

require "dry/validation"

module Vestry
  module Web
    module Contracts
      # A form: rules for what may be typed, and what it comes to. Lengths are typed any way
      # and held to the range the rulebook calls plausible.
      class Form < Dry::Validation::Contract
        config.messages.load_paths << File.join(__dir__, "messages.yml")
        # A day is written as 2026-05-18 and in no other way.
        DAY = Dry::Types["nominal.date"].constructor { |typed| Core::Values.day(typed) || typed }

        # A compass point or degrees; degrees of latitude and longitude, with minutes and a side where they are.
        BEARING = Dry::Types["nominal.float"].constructor { |typed| Core::Survey::Place.bearing(typed) || typed }
        LATITUDE, LONGITUDE = [90, 180].map do |most|
          Dry::Types["nominal.float"].constructor { |typed| Core::Survey::Place.degrees(typed, most: most) || typed }
        end

        # Above the sea, or a way over ground, with m or feet behind it, or in m.
        HEIGHT = Dry::Types["nominal.float"].constructor { |typed| Core::Survey::Place.height(typed) || typed }

        option :units, default: -> { "metric" }

        class << self
          # The fields that hold a length, each with its name among the plausible ranges.
          def lengths(fields = nil)
            @lengths = fields if fields
            @lengths || {}
          end

          # The fields that hold a height above the sea, or a way over ground: a bare number is in metres, or in feet
          # where inches are measured in.
          def ways(*fields)
            @ways = fields if fields.any?
            @ways || []
          end

          # The fields that hold a weight: a bare number is in kilograms, or in pounds where inches are measured in.
          def weights(*fields)
            @weights = fields if fields.any?
            @weights || []
          end

          # The columns whose name differs from their field's.
          def columns(names = nil)
            @columns = names if names
            @columns || {}
          end

          # The fields that hold a number of something, each with the word that people write behind it.
          def numbers(fields = nil)
            @numbers = fields if fields
            @numbers || {}
          end

          # Fields that hold more than a few paragraphs, and how many characters each may have.
          def long(fields = nil)
            @long = fields if fields
            @long || {}
          end

          # A row of the orchard's own that a field names by its number.
          #
          # @param kind [Symbol] variety or bundle
          # @param field [Symbol] the one that names it
          # @raise [Deeds::Refused] when the orchard has no such row
          def named(orchard, kind, id, field: kind)
            id && orchard.public_send(:"#{kind}!", id)
          rescue Records::Missing
            raise Deeds::Refused, field => [kind == :variety ? "is not in this orchard's register" :
                                           "is not one of this orchard's #{kind}s"]
          end

          # A result with nothing typed, showing what stands.
          def blank(standing = {}) = FormResult.new(values: {}, errors: {}, typed: {}, form: standing)
        end

        # So many characters of a field are read.
        MOST = 4000

        # @param params [Hash] as they came
        # @param standing [Hash] what the form showed, by field
        # @param exact [Hash] the values behind what was rounded for showing, by field
        # @return [FormResult]
        def read(params, standing = {}, exact = {})
          typed = as_typed(params)
          result = call(typed.reject { |_, value| value.is_a?(String) && value.strip.empty? })
          values, errors = with_lengths(result.to_h, result.errors.to_h)
          same = unchanged(typed, standing)
          errors = errors.except(*stood(same, standing))
          # What is wrong is no value: a page that draws what is typed draws the rest.
          FormResult.new(values: values.merge(exact.slice(*same)).except(*errors.keys), errors: errors, typed: typed,
                         form: standing, columns: self.class.columns, unchanged: same)
        end

        private

        # What is sent back as it stood was accepted before.
        def stood(same, standing) = same.reject { |name| standing[name].to_s.strip.empty? }

        def as_typed(params)
          params.to_h.to_h do |name, value|
            read = value.is_a?(String) ? number(name.to_sym, plain(name.to_sym, value)) : value
            read = bare_in("ft", read) if self.class.ways.include?(name.to_sym)
            read = bare_in("lb", read) if self.class.weights.include?(name.to_sym)
            [name.to_s, read]
          end
        end

        BARE = /\A[-−+]?[\d., ]*\d\z/
        private_constant :BARE

        # Where inches are measured in, a bare number with its unit.
        def bare_in(unit, value)
          units == "imperial" && value.to_s.strip.match?(BARE) ? "#{value.to_s.strip} #{unit}" : value
        end

        # What people write behind a number.
        BEHIND = { "°" => /°|deg(ree)?s?/, "h" => /h|hrs?|hours?/, "min" => /min(ute)?s?/,
                   "sticks" => /sticks?/ }.freeze
        private_constant :BEHIND

        # "45°", "6 hours": the number alone.
        def number(name, value)
          word = self.class.numbers[name] or return value
          value.sub(/(?<=\d)\s*(?:#{BEHIND.fetch(word)})\.?\s*\z/i, "")
        end

        # Signs that are not seen, and those that turn the direction of what follows, have no place in a field.
        UNSEEN = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u2028\u2029\u202a-\u202e\u2066-\u2069]/
        private_constant :UNSEEN

        # Fields of several lines; any other is one line, however it was sent.
        SEVERAL_LINES = %i[against_reason csv diameters lines margins note notes shoots text why].freeze
        private_constant :SEVERAL_LINES

        def plain(name, value)
          seen = value.scrub("?").gsub(UNSEEN, "")
          seen = seen.gsub(/[\r\n\t]+/, " ") unless SEVERAL_LINES.include?(name) || self.class.long.key?(name)
          seen[0, self.class.long.fetch(name, MOST)]
        end

        # The fields that came back as they were shown. A box that is not ticked is not sent.
        def unchanged(typed, standing)
          plain = ->(value) { [nil, false, "false"].include?(value) ? "" : value.to_s.strip.gsub("\r\n", "\n") }
          standing.keys.select { |name| plain[standing[name]] == plain[typed[name.to_s]] }
        end

        # The values with each length that was typed in mm, and the errors with each that cannot be read.
        def with_lengths(values, errors)
          self.class.lengths.each do |name, plausible|
            next if values[name].nil? || errors[name]

            values = values.merge(name => read_length(values[name], plausible))
          rescue Core::BadInput => e
            errors = errors.merge(name => [e.allowed])
          end
          [values, errors]
        end

        def read_length(typed, plausible)
          low, high = Core::Rulebook.shipped.value("plausible.#{plausible}")
          mm = Core::Measure.parse(typed, units: units, most: high).mm
          held = Core::Measure.within(mm, low, high, units)
          return held if held && !Core::Plausible.slipped?(plausible, held)

          raise Core::BadInput.new("",
                                   "#{Core::Measure.say(mm, units)} is not likely here; " \
                                   "from #{Core::Measure.say(low, units)} to #{Core::Measure.say(high, units)} is " \
                                   "allowed. #{unit_meant(typed, low..high)}")
        end

        # A number without its unit that would be likely in a larger one: how it is written then.
        LARGER = { "metric" => { "m" => "metres", "cm" => "centimetres" }, "imperial" => { "ft" => "feet" } }.freeze
        private_constant :LARGER

        def unit_meant(typed, range)
          bare = typed.to_s.strip
          unit, name = Core::Values.number(bare) && LARGER.fetch(units).find do |one, _|
            range.cover?(Core::Measure.parse("#{bare} #{one}").mm)
          end
          unit ? "If it is in #{name}, write #{bare} #{unit}." : "Check the unit."
        end
      end
    end
  end
end
