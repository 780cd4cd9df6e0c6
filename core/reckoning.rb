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
      # @return [Hash] frozen through and through
      # @raise [BadInput]
      def reckon(input, rulebook: Rulebook.shipped)
        Reckoning.deep_freeze(call(rulebook: rulebook, **contract.check(input)))
      end

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
