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
        entry.unit == "days" ? spell_days(entry.value) : "#{Array(entry.value).join(' to ')} #{entry.unit}"
      end

      def spell_days(days)
        days = days.to_i if days == days.to_i
        number, unit = days.positive? && (days % WEEK).zero? ? [days / WEEK, "week"] : [days, "day"]
        "#{SPELLED[number] || number} #{unit}#{'s' unless number == 1}"
      end

      def days(facts, book) = book.value(facts["figure"]).to_i + facts.fetch("plus", 0)
      private_class_method :spell_days, :days
    end
  end
end
