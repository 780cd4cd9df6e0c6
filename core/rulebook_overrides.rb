# frozen_string_literal: true

module Vestry
  module Core
    # What an orchard lays over the rulebook, where it comes as a whole: from a file, say. Each value is of the kind of
    # the one it covers and within its range, and the book still holds together with all of them.
    class RulebookOverrides
      FIELDS = %w[value why who on].freeze
      LONGEST = 500

      # @param book [Rulebook] as it ships
      def initialize(book) = @book = book

      # @param laid [Hash{String=>Hash}] path => value, why, who, on
      # @return [String, nil] what is wrong with the first that cannot be laid
      def fault(laid)
        laid.each do |path, entry|
          words = one_fault(path, entry)
          return "#{path.to_s[0, 80]}: #{words}" if words
        end
        (@book.overruled(laid).faults - @book.faults).first
      end

      private

      def one_fault(path, entry)
        unless entry.is_a?(Hash) && entry.key?("value") && (entry.keys - FIELDS).empty?
          return "is not an object with value, why, who and on"
        end
        unless entry.except("value").values.all? { |each| each.is_a?(String) && each.length <= LONGEST }
          return "says why, who and on in at most #{LONGEST} characters"
        end

        path.start_with?("practice.") ? choice_fault(path, entry["value"]) :
          value_fault(@book.entry(path), entry["value"])
      rescue KeyError
        "is not in the rulebook"
      end

      def choice_fault(path, value)
        choices = @book.book("schools").fetch("points").fetch(path.delete_prefix("practice.")).fetch("choices").keys
        choices.include?(value) ? nil : "is one of #{choices.join(', ')}"
      end

      def value_fault(entry, value)
        case entry.value
        when Numeric then in_range?(entry, value) ? nil :
          "is a number#{" from #{entry.range.join(' to ')}" if entry.range}"
        when Array then list?(entry, value) ? nil : "is #{entry.value.size} numbers that rise"
        when true, false then [true, false].include?(value) ? nil : "is true or false"
        when /\A\d\d-\d\d\z/ then value.is_a?(String) && value.match?(/\A(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])\z/) ?
          nil : "is a month and day as MM-DD"
        else "cannot be overruled"
        end
      end

      def in_range?(entry, value)
        value.is_a?(Numeric) && value.to_f.finite? && (entry.range.nil? || value.between?(*entry.range))
      end

      def list?(entry, value)
        value.is_a?(Array) && value.size == entry.value.size && value.all? { |each| in_range?(entry, each) } &&
          value == value.sort
      end
    end
  end
end
