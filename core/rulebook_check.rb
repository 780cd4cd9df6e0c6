# frozen_string_literal: true

module Vestry
  module Core
    # Reads a rulebook for what would make it unusable: a number without a reason, a range
    # back to front, a figure missing for a species, a school that chooses what is not there.
    class RulebookCheck
      TYPES = { "take" => 0.0..1.0, "slip_base" => -5.0..20.0, "slip_dd" => 1.0..1000.0, "knit_days" => 5.0..120.0 }
        .freeze
      METHOD_NEEDS = %w[stock_works needs_slip take_factor measure minutes most_sticks].freeze
      METHOD_WORDS = %w[name kin for].freeze
      # What is said of a method, and what it can be.
      METHOD_FACTS = { "cuts" => Graft::Figures::KINDS, "place" => %w[end side shoot trunk],
                       "union" => %w[whole closing] }
        .freeze
      # Figures of every kind of stock that stand apart from species.yml.
      BY_SPECIES = %w[reckoning.union.fruit_g reckoning.union.leaf_width].freeze
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
        steps
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
        @book.species_names.each { |name| beside_species(name) }
      end

      # What a kind of stock needs in other files.
      def beside_species(name)
        BY_SPECIES.each { |path| fault(path, "says nothing of #{name}") unless @book.value(path).key?(name) }
        return if @book.book("compatibility").fetch("pairs").dig(name, name)

        fault("compatibility.#{name}.#{name}", "is missing: how #{name} lasts on its own kind")
      end

      def methods
        @book.method_names.each do |name|
          METHOD_NEEDS.each { |figure| fault("methods.#{name}.#{figure}",
                                             "is missing") unless @book.known?("methods.#{name}.#{figure}") }
          inside("methods.#{name}.stock")
          inside("methods.#{name}.scion")
          method_facts(name)
        end
      end

      def method_facts(name)
        METHOD_WORDS.each do |word|
          fault("methods.#{name}.#{word}", "is missing") unless @book.method_fact(name, word).is_a?(String)
        end
        METHOD_FACTS.each do |fact, allowed|
          next if allowed.include?(@book.method_fact(name, fact))

          fault("methods.#{name}.#{fact}", "is one of #{allowed.join(', ')}")
        end
        return unless @book.method_fact(name, "cuts") == "flaps"

        fault("methods.#{name}.flaps", "is 3 or 4") unless [3, 4].include?(@book.method_fact(name, "flaps"))
      end

      # Every kind of cut that a method makes has its steps and its usual mistakes.
      def steps
        kinds = @book.method_names.filter_map { |name| @book.method_fact(name, "cuts") }.uniq
        %w[kinds mistakes].each do |part|
          (kinds - @book.book("steps").fetch(part).keys).each { |kind| fault("steps.#{part}.#{kind}", "is missing") }
        end
        @book.book("steps").fetch("kinds").each do |kind, all|
          fault("steps.kinds.#{kind}", "has a step without words") unless all.all? { |step| step["does"].is_a?(String) }
        end
        kinds_of_steps(@book.book("steps"), kinds)
        all_choices(@book.book("steps"))
        figures_of_steps
      end

      # What steps are limited to are kinds of cut that there are, or the list of them that set a stick.
      def kinds_of_steps(book, kinds)
        named = book.values_at("ready", "binding").flatten.filter_map { |step| step["kinds"] } - ["sticks"]
        ([*named, book.fetch("sticks")].flatten.uniq - kinds)
          .each { |kind| fault("steps", "is limited to #{kind}, which is no kind of cut") }
      end

      def all_choices(book)
        %w[ready binding].each { |part| step_choices(part, book.fetch(part)) }
        book.fetch("kinds").each { |kind, all| step_choices("kinds.#{kind}", all) }
      end

      # What steps are limited to can be chosen.
      def step_choices(place, steps)
        points = @book.book("schools").fetch("points")
        steps.flat_map { |step| (step["when"] || {}).to_a }.each do |point, choices|
          unknown = choices - (points.dig(point, "choices") || {}).keys
          fault("steps.#{place}", "is limited to #{point} #{unknown.join(', ')}, which nobody chooses") if unknown.any?
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
        points.each { |point, facts| point_of_practice(point, facts) }
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

      def point_of_practice(point, facts)
        (Array(facts["kinds"]) - Graft::GraftKind::ALL).each do |kind|
          fault("schools.#{point}", "is for #{kind}, which is no kind of graft")
        end
        facts.fetch("choices").each do |choice, words|
          fault("schools.#{point}.#{choice}", "has no reason") unless reason?(words["why"])
        end
      end

      def care
        %w[care repair].each { |file| rules(file) }
        (@book.book("care").fetch("rules").keys & @book.book("repair").fetch("rules").keys).each do |name|
          fault("repair.#{name}", "is called as a rule of care is")
        end
        @book.book("care").fetch("rules").each { |name, rule| known_words(name, rule) }
        @book.book("repair").fetch("rules").each do |name, rule|
          known("repair.#{name}", rule, Repair::Mending::EVENTS.keys, Repair::Mending::STATES, "a wound")
          answered("repair.#{name}", rule, Repair::Mending::ANSWERS)
        end
      end

      # What a rule hangs on, and the states that it needs, are there.
      def known(where, rule, events, states, of)
        (rule.values_at("after", "until", "by", "waits-for", "known").compact - events).each do |event|
          fault(where, "hangs on #{event}, which is no event")
        end
        (Array(rule["unless"]) - @book.book(where.split(".").first).fetch("rules").keys).each do |name|
          fault(where, "is not asked where #{name} is, which is no rule")
        end
        ((rule["needs"] || []) - states).each { |state| fault(where, "needs #{state}, which is no state of #{of}") }
      end

      # What a rule of aftercare hangs on, needs and asks for is there.
      def known_words(name, rule)
        known("care.#{name}", rule, Tend::GraftLife::EVENTS.keys, Tend::GraftLife::STATES, "a graft")
        (Array(rule.dig("when", "kind")) - Graft::GraftKind::ALL).each do |kind|
          fault("care.#{name}", "is for #{kind}, which is no kind of graft")
        end
        logged("care.#{name}", rule)
        answered("care.#{name}", rule, Tend::GraftLife::ANSWERS)
      end

      # What a rule asks to be logged is a method that works a shoot.
      def logged(where, rule)
        method = rule["logs"]
        fault(where, "logs #{method}, which sets no bud") unless method.nil? || @book.method_names.include?(method) &&
          @book.works_at?(method, "shoot")
      end

      # What answers a rule is something that is said.
      def answered(where, rule, answers)
        answer = rule["answered-by"]
        fault(where, "is answered by #{answer}, which nothing says") unless answer.nil? || answers.key?(answer)
      end

      def rules(file)
        @book.book(file).fetch("rules").each do |name, written|
          rule = filled(file, name, written) or next
          fault("#{file}.#{name}", "lacks its words") unless %w[title does why].all? { |word| rule[word].is_a?(String) }
          days = rule.values_at("opens", "due", "closes")
          unless days.all?(Integer) && days == days.sort
            fault("#{file}.#{name}", "does not open, fall due and close in that order")
          end
        end
      end

      def figures_of_steps
        book = @book.book("steps")
        [book["ready"], book["binding"], *book["kinds"].values].flatten
          .each { |step| filled("steps", step["does"], step) }
      end

      def filled(file, name, rule)
        RulebookProse.rule(rule, @book)
      rescue KeyError => e
        fault("#{file}.#{name}", "names a figure that is not there: #{e.message}")
        nil
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
