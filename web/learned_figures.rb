# frozen_string_literal: true

module Vestry
  module Web
    # What an orchard has learned, figure by figure, as it is shown beside the rulebook's.
    class LearnedFigures
      # @param words [Object] with the pages' words
      def initialize(orchard, today, words)
        @orchard = orchard
        @today = today
        @words = words
        @book = Core::Rulebook.shipped
      end

      # @return [Array<Hash>] +name+, +book+, +own+, +between+, +seen+ and +used+, as texts
      def lines = callus + slip + grown + takes + pace

      private

      def callus
        @orchard.own_callus(@today).figures.map do |species, told|
          of_figure("#{@words.species_name(species)}: warm days to knit", told) { |days| format("%.1f", days) }
        end
      end

      def of_figure(name, told, of: "graft")
        low, high = [told[:low], told[:high]].map { |figure| yield figure }
        { name: name, book: yield(told[:book]), own: yield(told[:own]), between: "#{low} and #{high}",
          seen: @words.counted(told[:seen], of), used: used(told) }
      end

      # What is learned once a day from the seasons before this one.
      def grown
        Records::OwnFigures.new(@orchard, @today).all.map do |path, told|
          *place, last = path.split(".")
          key, species = GROWN.key?(last) ? [last, place.last] : [place.last, last]
          name, of, say = GROWN.fetch(path) { GROWN.fetch(key) }
          name = format(name, stretch: stretch[0], cold: @words.warmth_named(1))
          name = "#{@words.species_name(species)}: #{name}" unless GROWN.key?(path)
          of_figure(name, told, of: of) { |figure| send(say, figure) }
        end
      end

      # What each is called, of what it is seen, and how it is said.
      GROWN = { "reckoning.closure.fed" => ["What a cut face closes in a season", "graft", :thin],
                "reckoning.regrowth.ring" => ["What a year adds to a graft, on each side", "graft", :thin],
                "reckoning.union.thickens" => ["How thick a shoot's foot is, for a %<stretch>s of it", "shoot", :foot],
                "ordinary" => ["a year's shoot without the push of a cut", "tree", :length],
                "wood_life" => ["days that cut wood lives at %<cold>s", "test", :whole] }.freeze
      private_constant :GROWN

      def thin(mm) = @words.thin(mm)
      def length(mm) = @words.length(mm)
      def whole(days) = days.round.to_s
      def foot(share) = thin(share * stretch[1])
      # What a shoot is told by: its name, and how many mm it is.
      def stretch = @orchard.units == "imperial" ? ["yard", 3 * Core::Measure::FOOT] : ["metre", 1000.0]

      def used(told)
        return "yes" if told[:used]

        told[:years] < 2 ? "no: seen in one year alone" : "no: the book tells the years as well"
      end

      # Learned as sights come in, drawn towards the book.
      def slip
        spring = @orchard.bark_forecast(@today)
        spring.sights.map do |species, all|
          { name: "#{@words.species_name(species)}: warmth to slip, degree-days",
            book: degrees(@book.value("species.#{species}.slip_dd")),
            own: degrees(spring.of_species(species)[:threshold_dd]),
            between: "#{degrees(all.min)} and #{degrees(all.max)} seen", seen: @words.counted(all.size, "tree"),
            used: "yes, drawn towards the book" }
        end
      end

      def takes
        kinds.map do |species, technique, row|
          known = @orchard.success(@today).of(species, technique)
          told = Core::Tally::Take.call(takes: row[:takes], trials: row[:trials])
          { name: "#{@words.species_name(species)}, #{@words.method_name(technique).downcase}: single sticks that take",
            book: percent(Core::Plan::Methods.expected_take(species, technique, @book)), own: percent(known[:stick]),
            between: "#{percent(told[:low])} and #{percent(told[:high])} of stubs",
            seen: @words.counted(row[:trials], "stub"), used: "yes, drawn towards the book" }
        end
      end

      def kinds = @orchard.success(@today).record.map { |row| [*row.values_at(:species, :technique), row] }

      def pace
        told = @orchard.own_pace.of_here
        return [] if told[:stubs].zero?

        [{ name: "Minutes for a stub, beside the book's", book: "1.00", own: format("%.2f", told[:times]),
           between: "–", seen: @words.counted(told[:stubs], "stub"), used: "yes, drawn towards the book" }]
      end

      def degrees(sum) = Core::Measure.degrees_summed(sum, @orchard.units).to_s
      def percent(share) = @words.percent(share)
    end
  end
end
