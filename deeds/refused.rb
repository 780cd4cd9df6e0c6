# frozen_string_literal: true

module Vestry
  module Deeds
    # A deed that cannot be done as asked: what is wrong, field by field.
    class Refused < StandardError
      attr_reader :errors

      # @param errors [Hash{Symbol=>Array<String>}]
      def initialize(errors)
        @errors = errors
        super(errors.map { |field, words| "#{field}: #{words.join('; ')}" }.join(", "))
      end

      # All of it in a sentence.
      def words = errors.values.flatten.join("; ")
    end
  end
end
