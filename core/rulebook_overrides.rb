# frozen_string_literal: true

module Vestry
  module Core
    # What an orchard lays over the rulebook, one value typed in a form or all of them in a file. Each is of the kind of
    # the one it covers and within its range, and the book still holds together with all of them.
    class RulebookOverrides
      FIELDS = %w[value why who on].freeze
      LONGEST = 500
      # Entries that books of former years had: laid over, they cover nothing and do no harm.
      RETIRED = %w[reckoning.closure.rate reckoning.nurse.shorten_after
                   reckoning.projection.learn_strength].freeze
      # Entries that hold in every orchard, for whatever is typed or compared anywhere is held to them.
      FIXED = /\A(plausible|reckoning\.regraft\.beside_)/
      YES_OR_NO = { "true" => true, "yes" => true, "false" => false, "no" => false }.freeze

      # @param book [Rulebook] as it ships
      def initialize(book) = @book = book

      # Whether an entry is the same in every orchard.
      #
      # @param path [String]
      def self.fixed?(path) = path.match?(FIXED)

      # A value as a person types it.
      #
      # @param path [String] of an entry, or +practice.POINT+
      # @param typed [String]
      # @param laid [Hash{String=>Hash}] what the orchard has laid over the book already
      # @return [Object] of the kind of the one that ships
      # @raise [BadInput] on +value+, when it cannot be laid, or is the same in every orchard
      # @raise [KeyError] when the book has no such entry
      def read(path, typed, laid: {})
        raise BadInput.new("value", "holds in every orchard, and is not overruled") if self.class.fixed?(path)

        value = practice?(path) ? typed : parse(@book.entry(path).value, typed.to_s.strip)
        words = kind_fault(path, value)
        words ||= whole_fault(laid, laid.merge(path => { "value" => value })) unless ships?(path, value) && laid.empty?
        raise BadInput.new("value", words) if words

        value
      end

      # @param laid [Hash{String=>Hash}] path => value, why, who, on
      # @return [String, nil] what is wrong with the first that cannot be laid
      def fault(laid)
        laid = laid.except(*RETIRED)
        laid.each do |path, entry|
          words = one_fault(path, entry)
          return "#{path.to_s[0, 80]}: #{words}" if words
        end
        new_fault({}, laid)
      end

      private

      def one_fault(path, entry)
        unless entry.is_a?(Hash) && entry.key?("value") && (entry.keys - FIELDS).empty?
          return "is not an object with value, why, who and on"
        end
        unless entry.except("value").values.all? { |each| each.is_a?(String) && each.length <= LONGEST }
          return "says why, who and on in at most #{LONGEST} characters"
        end

        kind_fault(path, entry["value"])
      rescue KeyError
        "is not in the rulebook"
      end

      def practice?(path) = path.start_with?("practice.")

      def kind_fault(path, value)
        practice?(path) ? choice_fault(path, value) : value_fault(@book.entry(path), value)
      end

      def ships?(path, value) = !practice?(path) && @book.value(path) == value

      # What is wrong with the book that was not before: an ideal range outside the working one, days out of order.
      def new_fault(before, after) = (@book.overruled(after).faults - @book.overruled(before).faults).first

      # The same, without its place.
      def whole_fault(before, after) = new_fault(before, after)&.sub(/\A\S+: /, "")

      # What is typed, as the kind of value that ships; as it was typed where it is none.
      def parse(shipped, typed)
        case shipped
        when Numeric then number(typed)
        when Array then list(shipped, typed)
        when true, false then YES_OR_NO.fetch(typed, typed)
        else typed
        end
      end

      # "20 to 110", "34, 28, 22", or "from 30" where the one that ships has no end.
      def list(shipped, typed)
        numbers = typed.delete_prefix("from ").split(/\s*(?:,\s|;|\bto\b|\s)\s*/).reject(&:empty?)
          .map { |part| number(part) }
        open_ended?(shipped) && numbers.size == 1 ? [*numbers, nil] : numbers
      end

      def open_ended?(list) = list.last.nil?

      def number(typed)
        value = Float(typed.tr(",", "."), exception: false) or return typed
        value.finite? && value == value.to_i ? value.to_i : value
      end

      def choice_fault(path, value)
        choices = @book.book("schools").fetch("points").fetch(path.delete_prefix("practice.")).fetch("choices").keys
        choices.include?(value) ? nil : "is one of #{choices.join(', ')}"
      end

      def value_fault(entry, value)
        case entry.value
        when Numeric then in_range?(entry, value) ? nil : "is a number#{said_range(entry)}"
        when Array then list?(entry, value) ? nil : list_words(entry)
        when true, false then [true, false].include?(value) ? nil : "is yes or no"
        when /\A\d\d-\d\d\z/ then month_and_day?(value) ? nil : "is a month and day as MM-DD"
        else "cannot be overruled"
        end
      end

      def said_range(entry, each = "")
        return "" unless entry.range

        unit = " (#{entry.unit})" if entry.unit
        "#{each} from #{entry.range.map { |number| Contract.plain(number) }.join(' to ')}#{unit}"
      end

      def month_and_day?(value) = value.is_a?(String) && value.match?(/\A(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])\z/)

      def in_range?(entry, value)
        value.is_a?(Numeric) && value.to_f.finite? && (entry.range.nil? || value.between?(*entry.range))
      end

      def list?(entry, value)
        return false unless value.is_a?(Array) && value.size == entry.value.size

        numbers = open_ended?(entry.value) && open_ended?(value) ? value[0..-2] : value
        numbers.all? { |each| in_range?(entry, each) } && (numbers == numbers.sort || !rises?(entry))
      end

      # A range does, and what grows by the year. A tolerance that narrows with the level falls.
      def rises?(entry) = entry.value.compact == entry.value.compact.sort

      def list_words(entry)
        "is #{entry.value.size} numbers#{' that rise' if rises?(entry)}, such as " \
          "#{RulebookProse.figures(entry.value)}#{said_range(entry, ', each')}"
      end
    end
  end
end
