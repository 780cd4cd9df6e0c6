# frozen_string_literal: true

module Vestry
  module Records
    # How many warm days a union takes to knit here, by kind of stock, from the visits that first saw callus in the
    # seasons before this one: what is said of a graft does not change with every visit to another.
    class OwnCallus
      # The latest so many grafts with callus seen.
      MOST = 800
      # What is stored follows from these.
      FROM = %w[trees limbs grafts observations weather_days].freeze
      private_constant :FROM

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end

      # @return [Hash{String=>Hash}] kind of stock => Core::Tally::Learned's answer
      def figures
        @figures ||= Derived.fetch(@orchard, "own callus", @today, from: FROM) do |orchard|
          OwnCallus.new(orchard, @today).reckoned
        end
      end

      # The orchard's rulebook with what is used of it laid over, where its steward has not.
      def rulebook
        book = @orchard.rulebook
        laid = figures.select { |_, told| told[:used] }
          .to_h { |species, told| ["species.#{species}.callus_units", told[:own].round(2)] }
          .reject { |path, _| book.overrides.key?(path) }
        return book if laid.empty?

        Core::Rulebook.shipped.overruled(book.overrides.merge(laid.transform_values do |value|
          { "value" => value, "why" => "Learned from callus seen here.", "who" => "the visits" }
        end))
      end

      # The same, reckoned.
      def reckoned
        seen.group_by(&:first).transform_values do |all|
          species = all.first.first
          Core::Tally::Learned.figure(@orchard.rulebook.value("species.#{species}.callus_units"),
                                      all.map { |_, year, units| [year, units] }, rulebook: @orchard.rulebook)
        end
      end

      private

      # Kind, year and warm days of each graft whose callus was first seen between two visits that lie near enough.
      def seen
        rows.group_by { |row| row[:graft_id] }.values.filter_map do |visits|
          at = visits.index { |visit| visit[:callus] != "none" } or next
          one = visits[at]
          before = at.positive? ? visits[at - 1][:seen_on] : one[:grafted_on]
          units = between(one, before) or next
          [one[:species], @orchard.season.name_of(one[:grafted_on]), units]
        end
      end

      # Midway between what had gathered when there was none and when there was some; nil where that says little.
      def between(visit, before)
        none, some = [before, visit[:seen_on]].map { |day| gathered(visit[:species], visit[:grafted_on], day) }
        figure = @orchard.rulebook.value("species.#{visit[:species]}.callus_units")
        return if none.nil? || some.nil? || some - none > figure * @orchard.rulebook.value("reckoning.learn.apart")

        (none + some) / 2
      end

      def gathered(species, from, upto)
        return 0.0 if upto <= from

        first, after = [from, upto].map { |on| weather.bsearch_index { |day| day[:date] >= on } || weather.size }
        return nil if after - first < (upto - from).to_i

        units(species)[first...after].sum(0.0)
      end

      # Of each day that is known.
      def units(species)
        (@units ||= {})[species] ||= Core::Slip::Callus.daily(
          weather, @orchard.rulebook.value("species.#{species}.callus_limits").map(&:to_f), 0.0
        )
      end

      def weather = @weather ||= @orchard.weather(@today).days(rows.map { |row| row[:grafted_on] }.min || @today)

      def rows
        @rows ||= visits.where(Sequel[:grafted_on] < this_season).exclude(callus: nil)
          .order(Sequel.desc(:grafted_on), :graft_id, :seen_on).limit(MOST * 3).select_map(COLUMNS)
          .map { |row| COLUMNS.zip(row).to_h }
      end

      def visits
        DB[:observations].join(:grafts, id: :graft_id).join(:limbs, id: Sequel[:grafts][:limb_id])
          .join(:trees, id: Sequel[:limbs][:tree_id])
          .where(Sequel[:grafts][:orchard_id] => @orchard.id, Sequel[:observations][:hidden_at] => nil,
                 Sequel[:grafts][:hidden_at] => nil, species: Core::Rulebook.shipped.species_names)
      end

      COLUMNS = %i[graft_id species grafted_on seen_on callus].freeze
      private_constant :COLUMNS

      def this_season = @orchard.season.span(@orchard.season.name_of(@today)).begin
    end
  end
end
