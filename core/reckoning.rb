# frozen_string_literal: true

module Vestry
  module Core
    # What every reckoning answers to: its contract, and +reckon+, which checks the
    # input against it and hands plain values to the module's own +call+.
    module Reckoning
      # Declares the contract, or returns it when called bare.
      def contract(name = nil, summary = nil, &block)
        return @contract unless name

        @contract = Contract.define(name, summary, &block)
      end

      # @param input [Hash] with string or symbol keys, as the contract says
      # @param rulebook [Rulebook] whose numbers to use
      # @return [Hash] frozen through and through, every number in it finite
      # @raise [BadInput]
      def reckon(input, rulebook: Rulebook.shipped)
        values = contract.check(input)
        answer = call(rulebook: rulebook, **values)
        Reckoning.finite?(answer) ? Reckoning.deep_freeze(answer) : Reckoning.refuse_extremes(values)
      end

      # Whether every number within a value is one.
      def self.finite?(value)
        case value
        when Float then value.finite?
        when Hash then value.each_value.all? { |each| finite?(each) }
        when Array then value.all? { |each| finite?(each) }
        else true
        end
      end

      # An answer that is no number came of numbers too far apart: the one furthest from 1 is named.
      def self.refuse_extremes(values)
        place, number = numbers(values, nil).max_by { |_, each| Math.log(each.abs).abs }
        raise BadInput.new(place || "input",
                           "numbers whose answer is finite; #{number || 'these'} is too far from the others")
      end

      # Every number but 0 within a value, with its place.
      def self.numbers(value, place)
        case value
        when Numeric then value.zero? ? [] : [[place, value]]
        when Hash then value.flat_map { |name, each| numbers(each, [place, name].compact.join(".")) }
        when Array then value.each_with_index.flat_map { |each, index| numbers(each, "#{place}[#{index}]") }
        else []
        end
      end
      private_class_method :numbers

      # Freezes a value and everything within it, so that an answer cannot be changed by who asked.
      def self.deep_freeze(value)
        case value
        when Hash then value.each_value { |each| deep_freeze(each) }
        when Array then value.each { |each| deep_freeze(each) }
        end
        value.freeze
      end
    end
  end
end
