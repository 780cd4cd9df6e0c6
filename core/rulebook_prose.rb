# frozen_string_literal: true

module Vestry
  module Core
    # Rules and sentences of the rulebook that name a figure of it: "{care.figures.probation}" stands in words for what
    # holds here, and {figure, plus} for a number of days. What an orchard overrules is said and reckoned alike.
    module RulebookProse
      PLACE = /\{([a-z_-]+(?:\.[a-z_-]+)+)\}/
      SPELLED = %w[no one two three four five six seven eight nine ten eleven twelve].freeze
      WEEK = 7
      private_constant :SPELLED, :WEEK

      module_function

      # @param rule [Hash] as written
      # @return [Hash] the same, its words and days filled in
      def rule(rule, book)
        rule.transform_values { |value| value.is_a?(Hash) && value.key?("figure") ? days(value, book) :
          (value.is_a?(String) ? fill(value, book) : value) }
      end

      # @raise [KeyError] where the book has no such figure
      def fill(text, book) = text.include?("{") ? text.gsub(PLACE) { say(book.entry($1)) } : text

      # A figure as people say it: "ten days", "three weeks", "50 to 75 mm".
      #
      # @param entry [Rulebook::Entry]
      def say(entry)
        entry.unit == "days" ? spell_days(entry.value) : with_unit(figures(entry.value), entry.unit)
      end

      # @param said [String] a number, or some
      # @param unit [String, nil] "day of the working year" stands round its number
      def with_unit(said, unit)
        return unit.sub("day", "day #{said}") if unit.to_s.start_with?("day of ")

        [said, unit].compact.join(" ")
      end

      # Numbers as they are read: a span "25 to 150", a list of a level or a year each "34, 28, 22", or by
      # name "jug: 1000".
      #
      # @param value [Numeric, String, Boolean, Array, Hash]
      # @yield [Numeric] each number, to be said in a way of one's own
      def figures(value, &number)
        case value
        when Hash then value.map { |name, each| "#{name}: #{figures(each, &number)}" }.join("; ")
        when Array then list(value, &number)
        when Numeric then (number ? number.call(value) : value).to_s
        else value.to_s
        end
      end

      def spell_days(days)
        days = days.to_i if days == days.to_i
        number, unit = days.positive? && (days % WEEK).zero? ? [days / WEEK, "week"] : [days, "day"]
        "#{SPELLED[number] || number} #{unit}#{'s' unless number == 1}"
      end

      def list(values, &number)
        return "from #{figures(values.first, &number)}" if values.size == 2 && values.last.nil?

        said = values.map { |each| figures(each, &number) }
        said.join(values.size == 2 && values.none?(Array) ? " to " : ", ")
      end

      def days(facts, book) = book.value(facts["figure"]).to_i + facts.fetch("plus", 0)
      private_class_method :spell_days, :list, :days
    end
  end
end
