# frozen_string_literal: true

module Vestry
  module Core
    # Reads a rulebook for what would make it unusable: a number without a reason, a range
    # back to front, a figure missing for a species, a school that chooses what is not there.
    class RulebookCheck
      TYPES = { "take" => 0.0..1.0, "slip_base" => -5.0..20.0, "slip_dd" => 1.0..1000.0, "knit_days" => 5.0..120.0 }
        .freeze
      METHOD_NEEDS = %w[stock_works needs_slip take_factor measure].freeze
      VERDICTS = %w[good workable doubtful refused].freeze

      def initialize(book)
        @book = book
        @faults = []
      end

      # @return [Array<String>] in words, each naming its place
      def faults
        Rulebook::FILES.each { |file| walk(file, @book.book(file)) unless file == "species" }
        species
        methods
        schools
        care
        materials
        compatibility
        @faults
      end

      private

      def fault(place, words) = @faults << "#{place}: #{words}"

      # Every value, wherever it stands, has a reason; every pair of numbers goes upwards.
      def walk(place, node)
        return unless node.is_a?(Hash)

        if node.key?("value")
          fault(place, "has no reason") unless reason?(node["why"])
          rising(place, node["value"])
          in_range(place)
        end
        node.each do |key, inside|
          fault("#{place}.#{key}", "stands empty (a comma in a sentence wants quotes round it)") if inside.nil?
          walk("#{place}.#{key}", inside)
        end
      end

      # What ships, and what an orchard lays over it, lies within its range.
      def in_range(place)
        entry = @book.known?(place) ? @book.entry(place) : nil
        return unless entry&.range

        numbers = Array(entry.value).grep(Numeric)
        unless numbers.all? { |number| number.between?(*entry.range) }
          fault(place, "goes from #{entry.range.join(' to ')}")
        end
      end

      def rising(place, value)
        numbers = value.is_a?(Array) ? value.compact : []
        if numbers.size == 2 && numbers.all?(Numeric) && numbers[0] > numbers[1]
          fault(place, "goes from #{numbers.first} down to #{numbers.last}")
        end
      end

      def reason?(why) = why.is_a?(String) && why.split.size >= 2

      def species
        @book.book("species").fetch("figures").each do |figure, column|
          fault("species.#{figure}", "has no reason") unless reason?(column["why"])
          @book.species_names.each do |name|
            value = column.fetch("values")[name]
            fault("species.#{name}.#{figure}", "is missing") if value.nil?
            if TYPES[figure] && value && !TYPES[figure].cover?(value)
              fault("species.#{name}.#{figure}", "#{value} is not believable")
            end
          end
        end
      end

      def methods
        @book.method_names.each do |name|
          METHOD_NEEDS.each { |figure| fault("methods.#{name}.#{figure}",
                                             "is missing") unless @book.known?("methods.#{name}.#{figure}") }
          inside("methods.#{name}.stock")
          inside("methods.#{name}.scion")
        end
      end

      # The ideal range lies inside the working one.
      def inside(path)
        works, ideal = @book.value_or_nil("#{path}_works"), @book.value_or_nil("#{path}_ideal")
        return unless works && ideal

        fault("#{path}_ideal", "reaches beyond what works") if ideal[0] < works[0] || (works[1] && ideal[1] > works[1])
      end

      def schools
        points = @book.book("schools").fetch("points")
        points.each do |point, facts|
          facts.fetch("choices").each { |choice, words| fault("schools.#{point}.#{choice}",
              "has no reason") unless reason?(words["why"]) }
        end
        @book.book("schools").fetch("schools").each do |name, school|
          (points.keys - school.fetch("choices").keys).each { |point| fault("schools.#{name}",
            "does not choose at #{point}") }
          school["choices"].each do |point, choice|
            fault("schools.#{name}", "chooses #{choice} at #{point}, which is not there") unless points
              .dig(point, "choices", choice)
          end
          (school.fetch("prefers") - @book.method_names).each do |method|
            fault("schools.#{name}", "prefers #{method}, which is not a method")
          end
        end
      end

      def care
        %w[care repair].each { |file| rules(file) }
      end

      def rules(file)
        @book.book(file).fetch("rules").each do |name, rule|
          fault("#{file}.#{name}", "lacks its words") unless %w[title does why].all? { |word| rule[word].is_a?(String) }
          days = rule.values_at("opens", "due", "closes")
          unless days.all?(Integer) && days == days.sort
            fault("#{file}.#{name}", "does not open, fall due and close in that order")
          end
        end
      end

      def materials
        items = @book.book("materials").fetch("items").keys
        points = @book.book("schools").fetch("points")
        @book.book("materials").fetch("brings").each do |point, choices|
          (points.fetch(point).fetch("choices").keys - choices.keys)
            .each { |choice| fault("materials.brings.#{point}", "says nothing of #{choice}") }
          (choices.values.flatten - items).each do |item|
            fault("materials.brings.#{point}", "brings #{item}, which is not listed")
          end
        end
      end

      def compatibility
        @book.book("compatibility").fetch("pairs").each do |stock, scions|
          scions.each { |scion, facts| fault("compatibility.#{stock}.#{scion}",
                                             "is not a verdict") unless VERDICTS.include?(facts["value"]) }
        end
      end
    end
  end
end
