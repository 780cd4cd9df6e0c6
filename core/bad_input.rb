# frozen_string_literal: true

module Vestry
  module Core
    # The one family of errors the core raises: a field, and what is allowed there.
    class BadInput < StandardError
      attr_reader :field, :allowed

      # @param field [String, Symbol] the field as the contract names it, with its place
      #   in a list or record (+limbs[2].diameter_mm+)
      # @param allowed [String] what would have been accepted, in words
      def initialize(field, allowed)
        @field = field.to_s
        @allowed = allowed
        super("#{@field}: #{allowed}")
      end
    end
  end
end
