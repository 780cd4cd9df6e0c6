# frozen_string_literal: true

module Vestry
  module Records
    # This spring's bark, tree by tree: when it slips or is likely to, learned from the weather,
    # from what was seen here, and from each tree's habit.
    class Spring
      Told = Struct.new(:tree, :threshold_dd, :accumulated_dd, :reached_on, :p10, :p50, :p90, :basis, :seen,
                        keyword_init: true) do
        # The day from which it can be worked: seen, reached, or as likely as not.
        def opens_on = reached_on || p50
        def slips? = !reached_on.nil?
        def dates = { reached_on: reached_on, p10: p10, p50: p50, p90: p90 }
      end

      attr_reader :orchard, :today, :weather

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @book = orchard.rulebook
        @weather = orchard.weather(today)
      end

      def season = @season ||= @orchard.season.name_of(@today)
      def biofix = @biofix ||= @orchard.season.bark_day(1, @today)
      def species = @orchard.species & Core::Rulebook.shipped.species_names
      def closes_on(species)
        (@closes ||= {})[species] ||= @orchard.season.bark_day(@book.value("species.#{species}.slip_closes"), @today)
      end

      # A species as a whole, from what was kept of it where that still stands.
      #
      # @return [Hash] +threshold_dd+, +accumulated_dd+, +reached_on+, +p10+, +p50+, +p90+, +basis+
      def of_species(species)
        @of_species ||= {}
        @of_species[species] ||= told(species)
      end

      # @param trees [Array<Tree>]
      # @return [Array<Told>] in their order
      def of_trees(trees)
        @seen_by_tree = seen(trees.map(&:id))
        trees.map { |tree| of_tree(tree) }
      end

      # How the warmth gathered, and how each past spring would carry it on: for drawing.
      #
      # @return [Hash, nil] +so_far+ and +ahead+, lists of [date, degree-days]; nil without weather
      def paths(species)
        return nil unless @weather.any?
        # What has come is not carried on.
        return { so_far: Core::Slip::Outlook.new(days: this_spring, forecast: [], history: [],
                                                 base_c: base(species)).so_far,
                                                 ahead: [] } if of_species(species)[:reached_on]

        outlook(species).then { |outlook| { so_far: outlook.so_far, ahead: outlook.ahead } }
      end

      # What was seen of some trees this season, latest last.
      def seen(tree_ids)
        rows = -> { PhenologySeen.in_sight.where(orchard_id: @orchard.id,
                                                 tree_id: tree_ids).where(seen_on: (biofix - 60)..@today)
                                                   .order(:seen_on, :id) }
        (tree_ids.one? ? Worded.rows(:stages, @orchard.cache_key, tree_ids, biofix, @today, &rows) : rows.call).all
          .group_by(&:tree_id)
      end

      # What its forecasts follow from: they stand while this is the same.
      def mark
        @mark ||= [@weather.mark,
                   Mark.asked(:seen, @orchard.cache_key) { DB[:phenology_seen].where(orchard_id: @orchard.id,
                     hidden_at: nil).select { [max(:id).as(:last), count(Sequel.lit("*")).as(:looks),
                                               sum(:version).as(:versions)] } }, @orchard.version].join("|")
      end

      private

      def of_tree(tree)
        unless Core::Rulebook.shipped.species_names.include?(tree.species)
          return Told.new(tree: tree, seen: [], basis: "unknown")
        end

        seen = @seen_by_tree.fetch(tree.id, [])
        slipped = seen.find(&:slipping)
        offset = offsets.fetch(tree.id, 0.0)
        told = offset.zero? ? of_species(tree.species) : at_threshold(tree.species, threshold(tree.species) + offset)
        told = told.merge(reached_on: slipped.seen_on, p10: nil, p50: nil, p90: nil, basis: "seen") if slipped
        told = not_yet(told, seen.last) if slipped.nil? && seen.last && seen.last.slipping == false
        Told.new(tree: tree, seen: seen, **told)
      end

      # A test cut that did not lift says more than the reckoning: it has not come by then.
      def not_yet(told, last)
        soonest = last.seen_on + 1
        return told unless [told[:reached_on], told[:p10]].compact.any? { |date| date < soonest }

        late = told[:reached_on] ? [soonest, soonest + 3, soonest + 8] :
          [told[:p10], told[:p50], told[:p90]].map do |date|
          [date, soonest].max
        end
        told.merge(reached_on: nil, p10: late[0], p50: late[1], p90: late[2], basis: "seen")
      end

      # When so much warmth has gathered, reckoned once while weather and what was seen are the same.
      def at_threshold(species, threshold)
        (@reckoned ||= RECKONED.fetch([@orchard.cache_key, @today, mark]) { {} })[[species,
          threshold]] ||= reckon(species, threshold)
      end
      RECKONED = Kept.new(16)

      def reckon(species, threshold)
        outlook = outlook(species)
        return by_calendar(species).merge(threshold_dd: threshold) unless outlook

        told = Core::Slip::Forecast.of(outlook, threshold)
        return by_calendar(species).merge(threshold_dd: threshold) if silent? && told[:reached_on].nil?

        # Where no past spring gets there, or none is kept, the calendar stands in.
        told[:reached_on] || told[:p50] ? told.merge(basis: "weather") :
          told.merge(by_calendar(species).slice(:p10, :p50, :p90, :basis))
      end

      # Whether weather was told for this spring too long ago to go on.
      def silent?
        return @silent if defined?(@silent)

        latest = @weather.days(biofix - 30).map { |day| day[:date] }.max
        @silent = @today > biofix + silent_days && (latest.nil? || latest < @today - silent_days)
      end

      def silent_days = @book.value("reckoning.slip.silent_days")

      def by_calendar(species)
        usual = @orchard.season.bark_day(@book.value("species.#{species}.slip_opens"), @today)
        usual <= @today ? { accumulated_dd: nil, reached_on: usual, p10: nil, p50: nil, p90: nil, basis: "calendar" } :
          { accumulated_dd: nil, reached_on: nil, p10: usual - 10, p50: usual, p90: usual + 10, basis: "calendar" }
      end

      def outlook(species)
        return nil unless @weather.any?

        OUTLOOKS.fetch([@orchard.cache_key, @today, @weather.mark, base(species)]) do
          Core::Slip::Outlook.new(days: this_spring, forecast: @weather.forecast, history: @weather.years,
                                  base_c: base(species))
        end
      end
      OUTLOOKS = Kept.new(32)

      def base(species) = @book.value("species.#{species}.slip_base")

      # From the biofix on; before it, nothing has gathered yet.
      def this_spring
        days = @this_spring ||= @weather.days(biofix)
        days.empty? ? [{ date: [@today, biofix - 1].min, min_c: -60.0, max_c: -60.0 }] : days
      end

      def threshold(species)
        (@thresholds ||= {})[species] ||= Core::Slip::Forecast
          .threshold(species, observed(species).map { |each| each[:dd] }, 0.0, @book)
      end

      # The degree-days at which bark was first seen to slip, by tree and spring.
      def observed(species) = observations.select { |each| each[:species] == species }

      def observations = @observations ||= HABITS.fetch([@orchard.cache_key, @today, mark]) { observe }
      HABITS = Kept.new(32)

      def observe
        rows = PhenologySeen.in_sight.where(Sequel[:phenology_seen][:orchard_id] => @orchard.id)
          .where(Sequel[:seen_on] <= @today).exclude(slipping: nil)
                            .join(:trees, id: :tree_id).order(:seen_on, Sequel[:phenology_seen][:id])
                            .select_map([Sequel[:phenology_seen][:tree_id], :species, :seen_on, :slipping])
        rows.group_by { |tree, species, on, _| [tree, species, @orchard.season.name_of(on)] }
          .filter_map { |(tree, kind, _), seen| observation(tree, kind, seen) }.freeze
      end

      # Midway between the last cut that did not lift and the first that did.
      def observation(tree, species, seen)
        first = seen.find { |_, _, _, slipping| slipping } or return nil
        before = seen.take_while { |each| !each.equal?(first) }.last
        dd = [before, first].compact.map { |each| @weather.gathered(base(species), each[2]) }
        if Core::Rulebook.shipped.species_names.include?(species)
          dd.any?(&:nil?) ? nil : { tree: tree, species: species, dd: dd.sum / dd.size }
        end
      end

      # How much later than its kind a tree has been, drawn in towards nothing while it was seen seldom.
      def offsets
        @offsets ||= OFFSETS.fetch([@orchard.cache_key, @today, mark, @orchard.rulebook.overrides]) { reckon_offsets }
      end
      OFFSETS = Kept.new(32)

      def reckon_offsets
        observations.group_by { |each| each[:species] }.flat_map do |_, all|
          mean = all.sum { |each| each[:dd] } / all.size
          all.group_by { |each| each[:tree] }.map do |tree, own|
            [tree, own.sum { |each| each[:dd] - mean } / (own.size + @book.value("reckoning.slip.tree_habit"))]
          end
        end.to_h
      end

      # As this process or another reckoned it.
      def told(species)
        TOLD.fetch([@orchard.cache_key, species, @today, mark]) do
          (kept(species) || keep(species, reckon(species, threshold(species)))).freeze
        end
      end
      TOLD = Kept.new(64)

      def kept(species)
        row = DB[:slip_forecasts].first(orchard_id: @orchard.id, species: species, for_day: @today, mark: mark)
        row&.slice(:threshold_dd, :accumulated_dd, :reached_on, :p10, :p50, :p90, :basis)
      end

      def keep(species, told)
        values = told.slice(:threshold_dd, :accumulated_dd, :reached_on, :p10, :p50, :p90, :basis)
        DB[:slip_forecasts].insert_conflict(target: %i[orchard_id species for_day],
                                            update: values.keys.to_h { |name| [name, Sequel[:excluded][name]] }
                                              .merge(mark: Sequel[:excluded][:mark]))
                           .insert(values.merge(orchard_id: @orchard.id, species: species, for_day: @today, mark: mark))
        values
      end
    end
  end
end
