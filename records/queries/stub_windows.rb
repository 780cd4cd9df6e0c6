# frozen_string_literal: true

module Vestry
  module Records
    # The season's stubs with the days between which each can be grafted, what closes it, and how
    # long it takes.
    class StubWindows
      StubWindow = Struct.new(:row, :window, :minutes, :kind, :needs_slip, :lifted, :told, :late,
                              keyword_init: true) do
        def tree = row.limb.tree
      end

      # @param season [Integer, nil] this year's while a stub of it can still be set, else the one that is planned for
      def initialize(orchard, today, season: nil)
        @orchard = orchard
        @today = today
        @current = orchard.season.name_of(today)
        @book = orchard.rulebook
        # This year's, whichever season is asked about.
        @spring = orchard.bark_forecast(today)
        @season = season || season_at_work
        # A later season's bark opens and closes in its own spring, of which the first day of its year tells.
        @own_spring = ahead? ? orchard.bark_forecast(orchard.season.span(@season).begin) : @spring
      end

      attr_reader :spring, :season

      # Whether they are those of a later spring: this year's are set, or past.
      def ahead? = @season > @current

      # @return [Array<StubWindow>] soonest closing first
      def stubs = @stubs ||= of_rows(planned.rows)

      # Those alone of some planned limbs.
      #
      # @param ids [Array<Integer>]
      def of(ids) = of_rows(planned.of(ids))

      # Of which kinds of stock they are, and of which kinds their methods: see Core::Slip::Window::KINDS.
      #
      # @return [Array<Array(String, String)>]
      def kinds
        figures.values.map { |each| each.values_at(:species, :kind) }.uniq
          .sort_by { |species, kind| [species, Core::Slip::Window::KINDS.index(kind)] }
      end

      # Between which days methods of a kind make sense: those of the stubs that wait, else the species' own.
      #
      # @return [Hash] +opens_on+ [Date, nil], +closes_on+
      def span(species, kind)
        # What waits for a later spring is no reason to graft in this year.
        mine = ahead? ? [] : windows_of(species, kind)
        opens, closes = mine.map { |window| window[:opens_on] }.min, mine.map { |window| window[:closes_on] }.max
        return { opens_on: opens, closes_on: closes || @spring.closes_on(species) } if kind == "slip"

        from = opens_at_rest(species, @spring)
        dormant = Core::Slip::Window.call(species: species, opens_on: from, kind: "bud", rulebook: @book,
                                          first_frost_on: @spring.first_frost_on)
        { opens_on: opens || dormant[:opens_on], closes_on: closes || dormant[:closes_on] }
      end

      # From when methods that need no slip can be made: on what knits in warmth alone when bark opens, a bud's chip as
      # well as a stick, and so where a rooted plant is joined, for both grow then.
      def opens_at_rest(species, spring, bark_opens = spring.of_species(species)[:p50], method: nil)
        grows = Core::Slip::Callus.warm?(species, @book) || @book.method_fact(method, "donor")
        (bark_opens if grows) || spring.biofix
      end

      # When bark slips on the first tree of a kind on which a stub waits; where none does, by its species.
      #
      # @return [Hash] +reached_on+, +p10+, +p50+, +p90+
      def bark(species)
        waiting = ahead? ? [] : figures.values.select do |each|
          each.values_at(:kind, :species, :late) == ["slip", species, false]
        end
        waiting.min_by { |each| each[:window][:opens_on] }&.fetch(:bark) ||
          @spring.of_species(species).slice(:reached_on, :p10, :p50, :p90)
      end

      # The first day on which a planned limb can be grafted; nil where it is not known.
      def opens_on(row) = window_of(row)&.fetch(:opens_on)

      # Whether it needs bark that slips, and that of its tree was not seen to yet.
      def untested?(row) = figure_of(row).to_h.then { |each| !each[:bark].nil? && !each[:lifted] }

      # Whether a planned limb was not grafted by its last sensible day, in this season or in an earlier one.
      def past?(row) = row.season < @current || (window_of(row)&.fetch(:closes_on) || @today) < @today

      # Whether one of this season or a later one can still be set in it, as far as that is known.
      def in_time?(row) = row.season >= @current && (window_of(row)&.fetch(:closes_on) || @today - 1) >= @today

      # Which of the season's stubs no wood helps any more, for bark, heat or autumn came first.
      #
      # @return [Array<Integer>] planned limbs
      def over
        figures.filter_map do |id, each|
          id if each[:window][:ends].reject { |name, _| name.to_s == "wood_ends_on" }.values.min < @today
        end
      end

      # Planned limbs, decided in full, that were not grafted by their last sensible day.
      def missed = @missed ||= @orchard.planned(:waiting, @current).rows.select { |row| row.complete? && past?(row) }

      # The season to which such limbs are moved.
      def following(rows = missed) = [@orchard.season_to_plan(@today), rows.map(&:season).max.to_i + 1].max

      # What the plans of such limbs' trees have for the seasons after theirs moves on with them, each by as many
      # seasons as its tree's first: or one season would take what was shared out over two.
      #
      # @return [Hash{Integer=>Integer}] by how many, by tree
      def moves_on(rows = missed)
        to = following(rows)
        first_missed(rows).transform_values { |season| to - season }
      end

      # @return [Array<PlanLimb>] what moves on so besides them
      def following_missed(rows = missed)
        return [] if rows.empty?

        PlanQueries.after(@orchard, first_missed(rows)).reject { |row| rows.any? { |each| each.id == row.id } }
      end

      # What can be done in place of a method whose time has gone by, when the bark will not be ready or
      # the wood will not wait for it: the best methods at this size that need no slip and whose own time has not, a
      # bud's place taken by a bud; nil while its own has not.
      def fallback(stub)
        return nil unless stub.late

        row = stub.row
        CoreInputs.methods(row.limb, CoreInputs.diameter_at(row.limb, row.cut_mm.to_f), slipping: false, today: @today,
                           place: stub.kind == "bud" ? "shoot" : "end")[:ranking]
                    .select { |each| stands_in?(each, stub) }.first(2)
      end

      # What is stored of each stub, worked out.
      #
      # @return [Hash{Integer=>Hash}] by planned limb: +species+, +kind+ (of its method), +needs_slip+, +bark+ (when it
      #   slips, where it must), +lifted+ (that of its tree was seen to), +late+, +minutes+, and the window
      def reckoned
        rows = planned.rows.select { |row| ready?(row) }
        forecasts = of_trees(rows)
        rows.to_h { |row| [row.id, figure(row, forecasts.fetch(row.limb.tree_id))] }
      end

      # What they follow from, besides the orchard and the day.
      FROM = %w[plans plan_limbs limbs trees grafts observations tallies varieties weather_days phenology_seen
                bundles bundle_checks sticks bundle_stays stores store_readings].freeze

      protected

      def figures
        @figures ||= Derived.fetch(@orchard, "stub windows #{@season}", @today, from: FROM) do |orchard|
          StubWindows.new(orchard, @today, season: @season).reckoned
        end
      end

      private

      # The earliest season of such limbs, by tree.
      def first_missed(rows) = rows.group_by { |row| row.limb.tree_id }.transform_values { |own| own.map(&:season).min }

      # Bark has closed and what needs it is past: a bud of this year may still wait.
      def season_at_work
        following = @orchard.season_to_plan(@today)
        return following if following == @current

        of_season(@current).figures.values.any? { |each| each[:window][:closes_on] >= @today } ? @current : following
      end

      # The windows of a planned limb's own season.
      def window_of(row) = figure_of(row)&.fetch(:window)
      def figure_of(row) = (row.season == @season ? self : of_season(row.season)).figures[row.id]

      def of_season(season) = (@of_season ||= {})[season] ||= StubWindows.new(@orchard, @today, season: season)

      def windows_of(species, kind)
        figures.values.select { |each| each.values_at(:species, :kind) == [species, kind] }
          .map { |each| each[:window] }
      end

      def planned = @orchard.planned(:stubs, @season)

      def ready?(row) = row.complete? && Core::Rulebook.shipped.species_names.include?(row.limb.tree.species)

      def of_trees(rows)
        @own_spring.of_trees(rows.map { |row| row.limb.tree }.uniq(&:id)).to_h { |each| [each.tree.id, each] }
      end

      def of_rows(rows)
        rows = rows.select { |row| figures.key?(row.id) }
        forecasts = of_trees(rows)
        rows.map do |row|
          StubWindow.new(row: row, told: forecasts.fetch(row.limb.tree_id),
                   **figures.fetch(row.id).slice(:window, :minutes, :kind, :needs_slip, :lifted, :late))
        end.sort_by.with_index { |each, place| [each.window[:closes_on], place] }
      end

      def stands_in?(each, stub)
        return false if each[:blocked] || each[:score].zero?

        kind = Core::Slip::Window.kind(each[:method], @book)
        window(stub.tree.species, stub.told, each[:method], stub.row.variety_id, kind)[:closes_on] >= @today
      end

      def figure(row, bark)
        species, kind = row.limb.tree.species, Core::Slip::Window.kind(row.technique, @book)
        needs_slip = @book.value("methods.#{row.technique}.needs_slip")
        window = window(species, bark, row.technique, row.variety_id, kind)
        { species: species, kind: kind, needs_slip: needs_slip, window: window, bark: (bark.dates if needs_slip),
          lifted: lifted?(bark, row.technique, window),
          minutes: StubAdvice.new(row.limb, planned: row, today: @today).minutes,
          late: needs_slip && (window[:closes_on] < @today || !window[:open]) }
      end

      # The last sensible day of a stub: the one that every page reads.
      def window(species, bark, method, variety_id, kind)
        opens, closes = opening_and_closing(species, bark, method, kind)
        Core::Slip::Window.call(species: species, opens_on: opens, bark_closes_on: closes, heat_on: @own_spring.heat_on,
                                wood_ends_on: (wood_ends_on(variety_id) if @book.stored_wood?(method) && kind != "bud"),
                                first_frost_on: @own_spring.first_frost_on, kind: kind, rulebook: @book)
      end

      # From when it can be set, and until when bark lets it; nil where bark does not count.
      def opening_and_closing(species, bark, method, kind)
        if summer?(method)
          return [ripe_buds, (closes_again(bark) if @book.value("methods.#{method}.needs_slip"))]
        end

        closes = bark.closes_on || @own_spring.closes_on(species)
        opens = bark.opens_on || closes
        kind == "slip" ? [opens, closes] : [opens_at_rest(species, @own_spring, opens, method: method), nil]
      end

      # Buds of this summer's growth are set once they are ripe; a shield under bark that slips a second time, of which
      # what was seen of it before says nothing.
      def summer?(method) = @orchard.last_days(@today).summers_wood?(method, @season)
      def closes_again(bark)
        looks = bark.seen.map { |each| { on: each.seen_on, slipping: each.slipping, closed: each.closed } }
        Core::Slip::BarkDates.closes_again(looks, ripe_buds)
      end

      def lifted?(bark, method, window)
        return bark.lifted? unless summer?(method)

        bark.seen.any? { |each| each.slipping && each.seen_on >= window[:opens_on] }
      end

      def ripe_buds = @orchard.last_days(@today).ripe_buds(@orchard.season.span(@season).begin)

      # The day by which the best bundle of a variety is spent, at the pace of its latest days.
      def wood_ends_on(variety_id) = @orchard.wood_store(@today).ends_on(season: @season)[variety_id]
    end
  end
end
