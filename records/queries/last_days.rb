# frozen_string_literal: true

module Vestry
  module Records
    # The last sensible days of a season: for another graft on a failed stub, and for a bud on its regrowth. Whatever
    # speaks of them reads them here, and they come from the same reckoning as every stub's window.
    #
    # A tree is asked about by its number and its kind. What was seen of its own bark counts in the season that runs: in
    # every other the last day is its kind's.
    class LastDays
      def initialize(orchard, today, spring = orchard.bark_forecast(today))
        @orchard = orchard
        @today = today
        @spring = spring
        @book = orchard.rulebook
        @closings = {}
      end

      # Reads what was seen of some trees' bark, so that it is not asked for one by one.
      #
      # @param species_of [Hash{Integer=>String}] trees, by their number
      def know(species_of)
        new = species_of.except(*@closings.keys)
        return if new.empty?

        @closings.update(new.transform_values { nil }, @spring.closings_of(new))
      end

      # Of a tree.
      #
      # @param from [Date] a day of the season that is asked about
      # @param technique [String, nil] by which it is made again: one that needs no bark that slips does not end when it
      #   closes
      # @return [Date]
      def regraft(tree, species, from = @today, technique: nil)
        return in_season(at_rest, from) if at_rest?(technique)
        return of_kind(species, from) unless this_season?(from)

        know(tree => species)
        closes_on = @closings[tree]
        closes_on ? regraft_by(closes_on) : of_kind(species, from)
      end

      # Of a kind as a whole.
      #
      # @return [Date]
      def of_kind(species, from = @today)
        in_season((@of_kind ||= {})[species] ||= regraft_by(@spring.closes_on(species)), from)
      end

      # The stubs of the season that runs that can still be set without bark that slips, from wood of a store.
      #
      # @return [Array<PlanLimb>]
      def stubs_at_rest = @today > at_rest ? [] : from_store.select { |row| at_rest?(row.technique) }

      # The varieties of stubs that can still be set from wood of a store, and of what was grafted with it this season
      # and can be made again as long: in a tree whose bark still lifts, or without.
      #
      # @return [Array<Integer>] their ids
      def varieties_in_time
        this = @orchard.season.span(@orchard.season.name_of(@today))
        made = GraftQueries.kinds_made(@orchard, this).select { |*, technique, _| @book.stored_wood?(technique) }
        all = made + from_store.map do |row|
          [row.limb.tree_id, row.limb.tree.species, row.technique, row.variety_id]
        end
        know(all.to_h { |tree, species, *| [tree, species] })
        all.select { |tree, species, technique, _| @today <= last_from_store(tree, species, technique) }
          .filter_map(&:last).uniq
      end

      # Whether a method takes a bud of this summer's growth, cut on the day: a shield does, and a chip once the days
      # are over on which what slept in its store is set.
      #
      # @param season [Integer] in which it is to be made
      def summers_wood?(technique, season = this_season)
        return true if @book.method_fact(technique, "fresh_wood")

        @book.method_fact(technique, "kin") == "bud" && chips_of_summer?(season)
      end

      # Whether the chips of a season are of this summer's buds by now.
      def chips_of_summer?(season) = season == this_season && @today > chips_from_store

      # Whether it takes a stick from a store, as it is made today or in a later season.
      def stored_wood?(technique, season = this_season)
        @book.stored_wood?(technique) && !(technique && summers_wood?(technique, season))
      end

      # Whether a method is made on wood at rest as on wood that grows; one that is not known is not.
      def at_rest?(technique)
        Core::Rulebook.shipped.method_names.include?(technique) &&
          Core::Slip::Window.kind(technique, @book) == "no-slip"
      end

      # Of the last kind, or tree, here.
      #
      # @return [Date, nil] nil where no known kind stands
      def anywhere = @spring.closes_last&.then { |closes_on| regraft_by(closes_on) }

      # @return [Date] a bud needs neither bark that slips nor a cool summer
      def bud(from = @today) = in_season(@bud ||= bud_now, from)

      # The days in which the regrowth of a failed graft can be budded: from ripe buds, or from the day after the last
      # for another graft.
      #
      # @return [Range<Date>]
      def budding(tree, species, from = @today, technique: nil)
        [ripe_buds(from), regraft(tree, species, from, technique: technique) + 1].max..bud(from)
      end

      # In which season a graft that died is made again: this one while there is time, else the next.
      #
      # @param graft [Graft]
      # @return [Integer]
      def season_again(graft)
        this = @orchard.season.name_of(@today)
        return @today <= bud ? this : this + 1 if graft.kind == "bud"

        last = regraft(graft.limb.tree_id, graft.limb.tree.species, technique: graft.technique)
        @today <= last ? this : this + 1
      end

      # The day from which this summer's buds are ripe.
      def ripe_buds(from = @today)
        @orchard.season.next_day(@book.value("care.calendar.late-summer"), @orchard.season.year_start(from))
      end

      private

      # The last day on which wood of a store is set.
      def last_from_store(tree, species, technique)
        @book.method_fact(technique, "kin") == "bud" ? chips_from_store : regraft(tree, species, technique: technique)
      end

      # The last day on which a chip is taken from stored wood: as a stick at rest, and not once this summer's are ripe.
      def chips_from_store = @chips_from_store ||= [at_rest, ripe_buds - 1].min

      # Of methods that need no bark that slips.
      def at_rest = @at_rest ||= window("no-slip")

      # Stubs of the season that runs that are set with wood of a store.
      def from_store
        @from_store ||= @orchard.planned(:stubs, this_season).rows
          .select { |row| row.technique && stored_wood?(row.technique) }
      end

      def regraft_by(bark_closes_on) = window("slip", bark_closes_on: bark_closes_on)
      def bud_now = window("bud")

      # The last day of methods of a kind.
      def window(kind, **bark)
        Core::Slip::Window.call(species: nil, opens_on: @spring.biofix, heat_on: @spring.heat_on, kind: kind, **bark,
                                first_frost_on: @spring.first_frost_on, rulebook: @book)[:closes_on]
      end

      def this_season = @this_season ||= @orchard.season.name_of(@today)
      def this_season?(from) = @orchard.season.name_of(from) == this_season

      # The same day of another season's year.
      def in_season(day, from)
        day >> 12 * (@orchard.season.name_of(from) - @orchard.season.name_of(@today))
      end
    end
  end
end
