# frozen_string_literal: true

module Vestry
  module Records
    # This spring's bark, tree by tree: when it slips or is likely to, learned from the weather,
    # from what was seen here, and from each tree's habit.
    class BarkForecast
      # +lifted_on+ is the first day on which its bark was seen to lift, by a test cut or under the knife; +closed_on+
      # the day on which it was seen to lift no longer, and not to lift since; +closes_on+ the last day on which it
      # lifts, by all that is known.
      TreeBark = Struct.new(:tree, :threshold_dd, :accumulated_dd, :reached_on, :p10, :p50, :p90, :basis, :seen,
                            :closed_on, :lifted_on, :closes_on, keyword_init: true) do
        # The day from which it can be worked: seen, reached, or as likely as not.
        def opens_on = reached_on || p50
        def lifted? = !lifted_on.nil?
        def slips? = !reached_on.nil? && closed_on.nil?
        def bleeds? = seen.any? && seen.last.bleeds
        def dates = { reached_on: reached_on, p10: p10, p50: p50, p90: p90 }
      end

      attr_reader :orchard, :today, :weather

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @book = orchard.rulebook
        @weather = orchard.weather(today)
      end

      # Which of some trees were seen to bleed when they were last looked at.
      #
      # @return [Array<Integer>] their ids
      def bleeding(trees) = seen(trees.map(&:id).uniq).select { |_, looks| looks.last.bleeds }.keys

      def season = @season ||= @orchard.season.name_of(@today)
      def biofix = @biofix ||= @orchard.season.bark_day(1, @today)
      def species = @orchard.species & Core::Rulebook.shipped.species_names
      # The day on which bark no longer lifts: by kind and place, and what was seen here in past years.
      def closes_on(species) = forecasts[:closes][species] || closing_day(species)

      # A species as a whole.
      #
      # @return [Hash] +threshold_dd+, +accumulated_dd+, +reached_on+, +p10+, +p50+, +p90+, +basis+
      def of_species(species) = forecasts[:species][species] || reckon(species, threshold(species))

      # @param trees [Array<Tree>]
      # @return [Array<TreeBark>] in their order
      def of_trees(trees)
        @of_trees ||= {}
        new = trees.reject { |tree| @of_trees.key?(tree.id) }
        seen = new.empty? ? {} : seen(new.map(&:id))
        worked = new.empty? ? {} : lifted_at_work(new.map(&:id))
        new.each { |tree| @of_trees[tree.id] = of_tree(tree, seen.fetch(tree.id, []), worked[tree.id]) }
        trees.map { |tree| @of_trees.fetch(tree.id) }
      end

      # The last day on which bark lifts, of those of some trees that were looked at or grafted this season: the others
      # have their kind's.
      #
      # @param species_of [Hash{Integer=>String}] trees, by their number
      # @return [Hash{Integer=>Date}]
      def closings_of(species_of)
        known = species_of.select { |_, species| Core::Rulebook.shipped.species_names.include?(species) }
        seen, worked = seen(known.keys), lifted_at_work(known.keys)
        known.slice(*seen.keys, *worked.keys).to_h do |tree, species|
          last = last_of_spring(species, lifted_days(seen.fetch(tree, []), worked[tree]))
          [tree, closes_after(species, last, closed_since(seen.fetch(tree, []), last))]
        end
      end

      # The last day on which bark lifts on any tree here: that of the last kind, or later while a tree is seen to lift.
      #
      # @return [Date, nil] nil without a known kind
      def closes_last
        closes = species.map { |kind| closes_on(kind) }.max
        closes && @today > closes ? [closes, *late_closings].max : closes
      end

      # How much of the winter its buds have slept through, and from when warmth counts.
      #
      # @return [Hash] see SiteWeather#chill
      def chill(species) = (@chill ||= {})[species] ||= @weather.chill(portions(species), @today)

      # Whether mild weather holds its buds back this spring.
      def held_by_chill?(species)
        slept = chill(species)
        !slept[:portions].nil? && (slept[:on].nil? || slept[:on] > biofix) && @today >= biofix
      end

      # Since when the soil has been dry, where it is so in the growing season and rain is told; else nil.
      #
      # @return [Date, nil]
      def dry_on
        return @dry_on if defined?(@dry_on)

        from = @today - @book.value("reckoning.slip.dry_back")
        growing = @today >= biofix + @book.value("reckoning.slip.dry_from") && !silent?
        @dry_on = growing ? @weather.climate(from).dry(from, @today) : nil
      end

      # The days of past springs from which bark slipped, by their warmth; none for a kind that keeps its leaves.
      #
      # @return [Array<Date>]
      def opened(species)
        @book.evergreen?(species) ? [] : @weather.reached(base(species), threshold(species))
      end

      # The day of a year on which its bark lifts no longer, by kind, place and what was seen here, droughts apart.
      #
      # @param day [Date] in the year
      # @return [Date]
      def closed_in(species, day)
        told = (@closing ||= {})[species] ||=
          Core::Slip::Closing.call(species: species, latitude_deg: @orchard.latitude,
                                   altitude_m: @orchard.altitude_m, observed: closings.fetch(species, []),
                                   rulebook: @book)
        @orchard.season.bark_day(told[:closes_day].round + 1, day)
      end

      # Of a middling spring's days on which bark slips, the share that one spring in ten leaves.
      #
      # @return [Float] 0..1
      def late_share(species)
        number = @orchard.season.method(:bark_number)
        usual = Core::Slip::Closing.opens_day(species, @orchard.latitude, @orchard.altitude_m, @book).round
        Core::Slip::LateSpring.share(opens: opened(species).map(&number), closes: number[closing_day(species)],
                                     usual: usual, rulebook: @book)
      end

      # How the warmth gathered, and how each past spring would carry it on: for drawing.
      #
      # @return [Hash, nil] +so_far+ and +ahead+, lists of [date, degree-days]; nil without weather
      def paths(species)
        return nil unless @weather.any?
        # What has come is not carried on.
        return { so_far: Core::Slip::WarmthProjection.new(days: this_spring(species), forecast: [], history: [],
                                                 base_c: base(species)).so_far,
                                                 ahead: [] } if of_species(species)[:reached_on]

        outlook(species).then { |outlook| { so_far: outlook.so_far, ahead: outlook.ahead } }
      end

      # What was seen of some trees this season, latest last.
      def seen(tree_ids)
        PhenologySeen.in_sight.where(orchard_id: @orchard.id, tree_id: tree_ids)
          .where(seen_on: (biofix - 60)..@today).order(:seen_on, :id).all.group_by(&:tree_id)
      end

      # A graft that was logged with bark that lifted cleanly proves it: the first and the last such day this season, by
      # tree.
      #
      # @return [Hash{Integer=>Array(Date, Date)}]
      def lifted_at_work(tree_ids)
        Graft.in_sight.where(Sequel[:grafts][:orchard_id] => @orchard.id, bark_slip: "clean",
                             grafted_on: biofix..@today)
          .join(:limbs, id: :limb_id, tree_id: tree_ids).unordered.group(:tree_id)
          .select_hash(:tree_id, [Sequel.function(:min, :grafted_on).as(:first),
                                  Sequel.function(:max, :grafted_on).as(:last)])
      end

      # The usual first day of a spell of heat, in the year after the biofix; nil where none was measured.
      def heat_on = summer[:heat_on]
      # The usual first frost of autumn, by the weather kept or else by the calendar.
      def first_frost_on = summer[:first_frost_on]

      # The degree-days at which bark was first seen to slip here, by kind of stock.
      #
      # @return [Hash{String=>Array<Float>}]
      def sights
        observations.group_by { |each| each[:species] }.transform_values { |all| all.map { |each| each[:dd] } }
      end

      # The last days of those trees that were seen to lift these days.
      #
      # @return [Array<Date>]
      def lately_lifting
        days = (@today - @book.value("reckoning.slip.lifts_on"))..@today
        looks = PhenologySeen.in_sight.where(orchard_id: @orchard.id, slipping: true, seen_on: days)
        made = Graft.in_sight.where(Sequel[:grafts][:orchard_id] => @orchard.id, bark_slip: "clean", grafted_on: days)
          .join(:limbs, id: :limb_id)
        trees = Tree.where(orchard_id: @orchard.id, hidden_at: nil)
          .where(id: looks.select(:tree_id).union(made.unordered.select(Sequel[:limbs][:tree_id]), from_self: true))
        closings_of(trees.select_hash(:id, :species)).values
      end

      # What is stored, worked out.
      def reckoned
        @weather.read_ahead
        { species: species.to_h { |kind| [kind, reckon(kind, threshold(kind))] },
          closes: species.to_h { |kind| [kind, closing_day(kind)] },
          trees: Core::Slip::BarkDates.habits(observations, @book)
            .to_h { |tree, (kind, offset)| [tree, reckon(kind, threshold(kind) + offset)] } }
      end

      # The same of the summer's usual ends.
      def reckoned_summer = { heat_on: usual_heat, first_frost_on: usual_first_frost }

      private

      # @param worked [Array<Date>, nil] the first and the last graft that shows its bark lifted
      def of_tree(tree, seen, worked)
        unless Core::Rulebook.shipped.species_names.include?(tree.species)
          return TreeBark.new(tree: tree, seen: [], basis: "unknown")
        end

        lifted = lifted_days(seen, worked)
        last = last_of_spring(tree.species, lifted)
        closed_on = closed_since(seen, last)
        TreeBark.new(tree: tree, seen: seen, closed_on: closed_on, lifted_on: lifted.first,
                     closes_on: closes_after(tree.species, last, closed_on), **told_of(tree, seen, lifted.first))
      end

      # The days on which its bark was seen to lift.
      def lifted_days(seen, worked) = [*seen.select(&:slipping).map(&:seen_on), *worked].sort

      # The last of them, but for those of late summer: where bark closes before, it slips a second time then, and has
      # closed all the same.
      def last_of_spring(species, days)
        second = @orchard.season.next_day(@book.value("care.calendar.late-summer"), biofix)
        (closes_on(species) < second ? days.take_while { |day| day < second } : days).last
      end

      def late_closings
        @late_closings ||= Derived.fetch(@orchard, "late bark", @today,
                                         from: %w[weather_days phenology_seen trees limbs grafts]) do |orchard|
          BarkForecast.new(orchard, @today).lately_lifting
        end
      end

      def closes_after(species, lifted_on, closed_on)
        Core::Slip::BarkDates.closes(closes_on(species), lifted_on, closed_on, @book)
      end

      # The first look, after the last at which it lifted, that found it fast: one that says so, or a cut that did not
      # lift any more.
      def closed_since(seen, lifted_on)
        seen.find do |each|
          lifted_on ? each.seen_on > lifted_on && (each.closed || each.slipping == false) : each.closed
        end&.seen_on
      end

      # Its forecast, or what was seen where that says more.
      def told_of(tree, seen, lifted_on)
        told = forecasts[:trees][tree.id] || of_species(tree.species)
        return told.merge(reached_on: lifted_on, p10: nil, p50: nil, p90: nil, basis: "seen") if lifted_on
        cut_on = seen.reverse.find { |each| each.slipping == false }&.seen_on
        cut_on ? Core::Slip::BarkDates.not_before(told, cut_on, @today, @book) : told
      end

      # What is dear of it: every species, and every tree with a habit of its own.
      def forecasts
        @forecasts ||= Derived.fetch(@orchard, "bark", @today, from: %w[weather_days phenology_seen trees]) do |orchard|
          BarkForecast.new(orchard, @today).reckoned
        end
      end

      # By the weather of past years alone.
      def summer
        @summer ||= Derived.fetch(@orchard, "summer", @today, from: %w[weather_days]) do |orchard|
          BarkForecast.new(orchard, @today).reckoned_summer
        end
      end

      def usual_heat
        warm, long = @book.value("reckoning.slip.heat_c"), @book.value("reckoning.slip.heat_days")
        @weather.usual(biofix) do |year|
          year.each_cons(long).find { |run| run.all? { |day| day[:max_c] >= warm } }&.first&.fetch(:date)
        end
      end

      def usual_first_frost
        late = @orchard.southern? ? (2..6) : (8..12)
        seen = @weather.usual(biofix) do |year|
          year.find { |day| late.cover?(day[:date].month) && day[:min_c].negative? }&.fetch(:date)
        end
        seen || Core::Slip::OrdinaryDays.first_frost(biofix, @orchard.season, @orchard.place, @book)
      end

      def reckon(species, threshold)
        told = in_moist_soil(species, threshold)
        dry_on ? Core::Slip::BarkDates.in_dry_soil(told, @today, @book) : told
      end

      def in_moist_soil(species, threshold)
        # A kind that keeps its leaves has no winter's sleep to count from.
        outlook = outlook(species) unless @book.evergreen?(species)
        return by_calendar(species).merge(threshold_dd: threshold) unless outlook

        told = Core::Slip::Forecast.of(outlook, threshold, observed(species).size, @book)
        return by_calendar(species).merge(threshold_dd: threshold) if silent? && told[:reached_on].nil?

        # Where no past spring gets there, or none is kept, the calendar stands in.
        told[:reached_on] || told[:p50] ? told.merge(basis: "weather") :
          told.merge(by_calendar(species).slice(:reached_on, :p10, :p50, :p90, :basis))
      end

      # Whether weather was told for this spring too long ago to go on, or with too long a gap in it.
      def silent?
        return @silent if defined?(@silent)

        latest = @weather.days(biofix - 30).map { |day| day[:date] }.max
        @silent = @today > biofix + silent_days && (latest.nil? || latest < @today - silent_days) ||
                  Core::Slip::Gaps.broken?(@weather.days(biofix), biofix, @book)
      end

      def silent_days = @book.value("reckoning.slip.silent_days")

      def by_calendar(species)
        usual = @orchard.season.bark_day(Core::Slip::Closing.opens_day(species, @orchard.latitude, @orchard.altitude_m,
                                                                       @book).round + 1, @today)
        Core::Slip::BarkDates.by_calendar(usual, @today, @book)
      end

      def closing_day(species)
        day = closed_in(species, @today)
        dry_on ? Core::Slip::BarkDates.closes_dry(day, @today, @book) : day
      end

      # The day of the working year on which bark was first seen to lift no longer, by kind, once a tree and year.
      def closings
        @closings ||= PhenologySeen.closings(@orchard, @today).group_by { |tree, kind, on| [tree, kind, on.year] }
          .map { |(_, kind, _), all| [kind, @orchard.season.bark_number(all.map(&:last).min)] }
          .group_by(&:first).transform_values { |all| all.map(&:last) }
      end

      def outlook(species)
        return nil unless @weather.any?

        (@outlooks ||= {})[[base(species), chill(species)[:on]]] ||=
          Core::Slip::WarmthProjection.new(days: this_spring(species), forecast: @weather.forecast,
                                           history: @weather.years,
                                  base_c: base(species))
      end

      def base(species) = @book.value("species.#{species}.slip_base")

      def portions(species) = @book.value("species.#{species}.chill")

      # From the biofix on, or from when buds have slept enough; before it, nothing has gathered yet.
      def this_spring(species)
        from = chill(species)[:on] || @today
        @this_spring ||= Core::Slip::Gaps.filled(@weather.days(biofix), @book)
        days = @this_spring.drop_while { |day| day[:date] < from }
        days.empty? ? [{ date: [@today, biofix - 1].max, min_c: -60.0, max_c: -60.0 }] : days
      end

      def threshold(species)
        (@thresholds ||= {})[species] ||= Core::Slip::Forecast
          .threshold(species, observed(species).map { |each| each[:dd] }, 0.0, @book)
      end

      # The degree-days at which bark was first seen to slip, by tree and spring.
      def observed(species)
        (@observed ||= observations.group_by { |each| each[:species] }).fetch(species, [])
      end

      def observations = @observations ||= observe

      def observe
        rows = PhenologySeen.in_sight.where(Sequel[:phenology_seen][:orchard_id] => @orchard.id)
          .where(Sequel[:seen_on] <= @today).exclude(slipping: nil)
                            .join(:trees, id: :tree_id).order(:seen_on, Sequel[:phenology_seen][:id])
                            .select_map([Sequel[:phenology_seen][:tree_id], :species, :seen_on, :slipping])
        rows.group_by { |tree, species, on, _| [tree, species, @orchard.season.name_of(on)] }
          .filter_map { |(tree, kind, _), seen| observation(tree, kind, seen) }.freeze
      end

      # Midway between the last cut that did not lift and the first that did. Where none was made before, bark may have
      # slipped for long by then: it tells something where that is sooner than the kind's figure alone. What lifts after
      # its kind has closed lifts a second time.
      def observation(tree, species, seen)
        return unless Core::Rulebook.shipped.species_names.include?(species)

        seen = seen.take_while { |_, _, on, _| on <= closed_in(species, on) }
        first = seen.find { |_, _, _, slipping| slipping } or return
        before = seen.take_while { |each| !each.equal?(first) }.last
        dd = between(species, *[before, first].compact.map { |each| each[2] })
        dd && { tree: tree, species: species, dd: dd }
      end

      # The warmth midway between a cut that did not lift and one that did; of one that did alone what it tells.
      def between(species, *days)
        dd = days.map { |on| @weather.gathered(base(species), on, portions(species)) }
        return if dd.any?(&:nil?) || (dd.one? && dd.first >= @book.value("species.#{species}.slip_dd"))

        dd.sum / dd.size
      end
    end
  end
end
