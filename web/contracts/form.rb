# frozen_string_literal: true

require "dry/validation"

module Vestry
  module Web
    module Contracts
      # A form: rules for what may be typed, and what it comes to. Lengths are typed any way
      # and held to the range the rulebook calls plausible.
      class Form < Dry::Validation::Contract
        # What a form came to. +typed+ is kept for showing again.
        Reading = Struct.new(:values, :errors, :typed, :form, :columns, keyword_init: true) do
          def ok? = errors.empty?

          # @return [Object] what to show in a field: what was typed, else what stands
          def shown(name) = typed.fetch(name.to_s) { form&.dig(name) }

          def wrong(name) = errors[name]&.join("; ")

          # The same with more errors, such as those of a deed that refused. A deed speaks of
          # columns; here they are the fields that hold them.
          def with(more)
            named = more.transform_keys { |column| (columns || {}).fetch(column, column) }
            Reading.new(values: values, typed: typed, form: form, columns: columns, errors: errors.merge(named) { |_, a, b| a + b })
          end
        end

        option :units, default: -> { "metric" }

        class << self
          # The fields that hold a length, each with its name among the plausible ranges.
          def lengths(fields = nil)
            @lengths = fields if fields
            @lengths || {}
          end

          # The columns whose name differs from their field's.
          def columns(names = nil)
            @columns = names if names
            @columns || {}
          end

          # Fields that hold more than a few paragraphs, and how many characters each may have.
          def long(fields = nil)
            @long = fields if fields
            @long || {}
          end

          # A row of the orchard's own that a field names by its number.
          #
          # @param kind [Symbol] variety or bundle
          # @raise [Deeds::Refused] when the orchard has no such row
          def named(orchard, kind, id)
            id && orchard.public_send(:"#{kind}!", id)
          rescue Records::Missing
            raise Deeds::Refused, kind => [kind == :variety ? "is not in this orchard's register" : "is not one of this orchard's #{kind}s"]
          end

          # A blank reading, showing what stands.
          def blank(standing = {}) = Reading.new(values: {}, errors: {}, typed: {}, form: standing)
        end

        # So many characters of a field are read.
        MOST = 4000

        # @param params [Hash] as they came
        # @return [Reading]
        def read(params, standing = {})
          typed = params.to_h.to_h { |name, value| [name.to_s, value.is_a?(String) ? value.scrub("?").delete("\u0000")[0, self.class.long.fetch(name.to_sym, MOST)] : value] }
          result = call(typed.reject { |_, value| value.is_a?(String) && value.strip.empty? })
          values = result.to_h
          errors = result.errors.to_h
          self.class.lengths.each do |name, plausible|
            next if values[name].nil? || errors[name]

            values = values.merge(name => read_length(values[name], plausible))
          rescue Core::BadInput => e
            errors = errors.merge(name => [e.allowed])
          end
          Reading.new(values: values, errors: errors, typed: typed, form: standing, columns: self.class.columns)
        end

        private

        def read_length(typed, plausible)
          mm = Core::Measure.parse(typed, units: units).mm
          low, high = Core::Rulebook.shipped.value("plausible.#{plausible}")
          return mm if Core::Near.within?(mm, low, high)

          raise Core::BadInput.new("", "#{Core::Measure.say(mm, units)} is not likely here; from #{Core::Measure.say(low, units)} " \
                                       "to #{Core::Measure.say(high, units)} is allowed. Check the unit.")
        end
      end
    end
  end
end
