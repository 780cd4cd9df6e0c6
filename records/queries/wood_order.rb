# frozen_string_literal: true

module Vestry
  module Records
    # What wood to cut for a season: sticks and shoots by variety with a reserve at the orchard's
    # own success, the diameters that sized methods want, where and when to cut it, and what to head
    # back a year ahead.
    class WoodOrder
      Line = Struct.new(:variety, :sticks, :reserve, :total, :shoots, :have, :success, :trials, :diameters,
                        :anywhere, :coming_off, :promised, :ordered, :whole, keyword_init: true) do
        # Trees to cut it from, looked for where they are asked about.
        def sources = @sources ||= anywhere.of(variety)
        def to_cut = [total - have, 0].max
        # What is neither in store nor to come: of what no tree here can throw, whatever is promised comes; else only
        # what was ordered, for a promise may be of wood to be cut here.
        def to_find = [to_cut - coming, 0].max
        # Of what is wanted and not in store, what is on its way.
        def to_come = to_cut - to_find
        def coming = promised.to_i.zero? ? 0 : (sources.empty? ? promised : ordered)
        # Without the reserve.
        def short_of_plans = [sticks - have - coming, 0].max
        # Planned limbs that carry it and are sawn off themselves: their shoots are wood for the cutting.
        def offered = to_find.positive? ? coming_off : []
      end
      WantedSticks = Struct.new(:label, :tree_id, :limb_id, :technique, :stub_mm, :from_mm, :to_mm, :sticks,
                          keyword_init: true)

      attr_reader :season

      def initialize(orchard, season, today)
        @orchard = orchard
        @season = season
        @today = today
        @book = orchard.rulebook
      end

      def lines = @lines ||= by_variety.map { |variety, all, kinds| line(variety, all, kinds) }

      def sticks_a_shoot = reckoned ? reckoned[:sticks_per_shoot] : 0
      # How many shoots what is still to be found of a line is cut from; nil where nothing is reckoned.
      def shoots_to_find(line)
        (line.to_find / sticks_a_shoot.to_f).ceil unless sticks_a_shoot.zero?
      end

      def stick_mm = @orchard.stick_mm
      # What is budded with a summer's growth, cut on the day: how many buds of each variety; this summer's too, while
      # the next season is planned for.
      #
      # @return [Hash{Variety=>Integer}]
      def fresh
        @fresh ||= (this_summers + planned.fresh).select(&:variety).group_by(&:variety).transform_values(&:size)
      end

      # What is to be joined to a rooted plant, by its variety.
      #
      # @return [Hash{Variety=>Array<PlanLimb>}]
      def joined = @joined ||= planned.joined.select(&:variety).group_by(&:variety)

      def undecided = planned.rows.count { |row| row.variety_id.nil? }

      # The days on which wood is cut here: from the calendar's day, or the first from which it keeps until the last
      # sensible day of its kind, to the first past spring in which buds began to stir.
      #
      # @param species [String, nil] whose wood, with what else that is wanted is cut from the same day on: it is one
      #   round; else all that is wanted
      # @return [Hash] +from+, +to+, +by+ (weather or calendar), +years+
      def window(species = nil)
        (@windows ||= {})[species] ||= begin
          own = dormant(species && [species])
          round = sleeping_kinds.select { |kind| species && dormant([kind])[:from] == own[:from] }
          round.empty? ? own : { **dormant(round | [species]), from: own[:from] }
        end
      end

      # The windows of what is cut asleep, each with the lines of which it is.
      #
      # @return [Hash{Hash=>Array<Line>}]
      def windows = lines.reject { |line| leafy?(line.variety) }.group_by { |line| window(line.variety.species) }

      # Whether its wood has woken: what is missing is found in a store, or not at all. What never sleeps is cut on the
      # day.
      #
      # @param variety [Variety, nil] else of all that is wanted
      def woken?(variety = nil) = @today > cut_until(variety) && !leafy?(variety)

      # The day by which wood is cut.
      #
      # @param variety [Variety, nil] else that which comes next
      def cut_until(variety = nil)
        return window(variety.species)[:to] if variety

        ends = windows.keys.map { |each| each[:to] }
        ends.select { |day| day >= @today }.min || ends.max || window[:to]
      end

      # Whether wood of a variety that sleeps is cut today.
      def cut_now?(variety)
        from, to = window(variety.species).values_at(:from, :to)
        !leafy?(variety) && @today.between?(from, to)
      end

      def leafy?(variety) = !variety.nil? && @book.evergreen?(variety.species)

      # Whether any of its wood is of a kind that sleeps, and is cut asleep; while nothing is wanted, of any that stands
      # here.
      def sleeps?
        kinds = lines.empty? ? @orchard.species : lines.map { |each| each.variety.species }
        kinds.empty? || kinds.any? { |kind| !@book.evergreen?(kind) }
      end

      # The day of each past spring by which buds had begun to stir, over the kinds in question: what is stored, worked
      # out.
      #
      # @return [Hash{String=>Array<Date>}] by species
      def stirred
        weather = @orchard.weather(@today)
        (kinds & Core::Rulebook.shipped.species_names).to_h do |name|
          [name, weather.reached(@book.value("species.#{name}.slip_base"),
                                 @book.value("species.#{name}.slip_dd") * @book.value("reckoning.wood.stir_share"))]
        end
      end

      # What is stored, worked out: see Core::Wood::Wanted.
      #
      # @return [Hash, nil]
      def wanted
        @wanted ||= begin
          wanted = by_variety.flat_map do |variety, _, kinds|
            kinds.map do |(sticks, technique, species, hand), stubs|
              known = success(species, technique, hand)
              { name: variety.name, stubs: stubs, sticks_per_stub: sticks, success: known[:stick],
                trials: known[:trials] }
            end
          end
          wanted.empty? ? nil : Core::Wood::Wanted.reckon({ varieties: wanted,
                                                            confidence: @book.value("reckoning.wood.confidence"),
                                                            cull: @book.value("reckoning.wood.cull"),
                                                            stick_mm: stick_mm,
                                                            shoot_mm: @book.value("reckoning.wood.shoot"),
                                                            tip_mm: @book.value("reckoning.wood.tip"), base_mm: @book
                                                              .value("reckoning.wood.base") })
        end
      end

      # The days of the window that the practice cuts in: the middle of winter, or as late as it still sleeps.
      #
      # @return [Array(Date, Date)]
      def cutting_days(within = window)
        days = @book.value("reckoning.wood.cutting_days")
        from, to = within.values_at(:from, :to)
        return [[to - days, from].max, to] if @book.practice("wood-cut", @orchard.school) == "late"

        middle = from + (to - from).to_i / 2
        [[middle - days / 2, from].max, [middle + days / 2, to].min]
      end

      # What few sticks of a scarce variety come to when they are multiplied first.
      #
      # @param line [Line]
      # @return [Hash, nil] see Core::Wood::Multiply; nil where there is wood enough, a tree to cut from, or no stick
      def multiplied(line)
        return nil unless line.to_find.positive? && line.sources.empty?

        species = line.variety.species
        return nil unless Core::Rulebook.shipped.species_names.include?(species)

        Core::Wood::Multiply.of(have: line.have, wanted: line.total, take: success(species, "chip-bud")[:stick],
                                stick_mm: stick_mm, sticks_a_shoot: sticks_a_shoot, rulebook: @book)
      end

      # Wood of this summer for buds into the regrowth of stubs that fail, as many as fail in nine years of ten.
      #
      # @return [Array<Hash>] +name+ of the variety, +stubs+ and +sticks+, of those that want any
      def summer_buds
        @summer_buds ||= stored("summer buds", ORDER_FROM) do |orchard|
          WoodOrder.new(orchard, @season, @today).buds_wanted
        end
      end

      # What is stored of them, worked out.
      def buds_wanted
        by_variety.filter_map do |variety, _, kinds|
          stubs = failures(kinds)
          next if stubs.zero?

          take = kinds.keys.map { |_, _, species| success(species, "chip-bud")[:stick] }.min
          { name: variety.name, stubs: stubs,
            sticks: Core::Plan::BudFallback.sticks(stubs, take, stick_mm, @book) }
        end
      end

      # Kinds in question whose wood sleeps: what is stored, worked out.
      def kinds_asleep = kinds.reject { |kind| @book.evergreen?(kind) }

      private

      # The kinds whose wood is wanted; where none is, those that stand here.
      def kinds
        wanted = by_variety.map { |variety, *| variety.species }.uniq
        wanted.empty? ? @orchard.species : wanted
      end

      # How many stubs of some kinds fail at most, in nine years of ten.
      def failures(kinds)
        chances = kinds.map do |(sticks, technique, species, hand), stubs|
          known = success(species, technique, hand)
          Core::Wood::Failures.of(stubs, sticks, known[:stick], known[:trials])
        end
        Core::Wood::Failures.least(chances.reduce { |all, one| Core::Wood::Failures.sum(all, one) },
                                   @book.value("reckoning.wood.confidence"))
      end

      # @param kinds [Array<String>, nil] all that is wanted
      def dormant(kinds)
        first = @orchard.season.next_day(@book.value("site.calendar.wood_from"), season_start)
        asleep = asleep_until(kinds, first)
        { from: (kinds || sleeping_kinds).map { |kind| cut_from(kind, first, asleep[:to]) }.min || first, **asleep }
      end

      def asleep_until(kinds, first)
        stirred = kinds ? stirring.values_at(*kinds).compact : stirring.values
        days = stirred.flatten.map { |day| place_in(day, first) }
        return { to: by_calendar(kinds || sleeping_kinds, first), by: "calendar", years: 0 } if days.empty?

        { to: [days.min, first].max, latest: days.max, by: "weather", years: stirred.flatten.map(&:year).uniq.size }
      end

      # Where no weather is known: until the first of these kinds wakes; of none, the calendar's day.
      def by_calendar(kinds, first)
        kinds.map { |kind| Core::Slip::OrdinaryDays.asleep_until(kind, first, @orchard.season, @orchard.place, @book) }
          .min || @orchard.season.next_day(@book.value("site.calendar.wood_to"), first)
      end

      def sleeping_kinds
        @sleeping_kinds ||= stored("kinds asleep", ORDER_FROM) do |orchard|
          WoodOrder.new(orchard, @season, @today).kinds_asleep
        end
      end

      # What does not keep for so long is cut late.
      def cut_from(species, first, to)
        return first unless Core::Rulebook.shipped.species_names.include?(species)

        Core::Wood::Spent.cut_from(species, @orchard.last_days(@today).of_kind(species, season_start), first..to, @book)
      end

      def season_start = @orchard.season.span(@season).begin

      # What the days on which buds stirred follow from, besides the orchard and the day.
      STIRRED_FROM = %w[weather_days plans plan_limbs plan_sites sites limbs trees grafts varieties].freeze
      private_constant :STIRRED_FROM

      def stirring
        @stirring ||= stored("stirring", STIRRED_FROM) do |orchard|
          WoodOrder.new(orchard, @season, @today).stirred
        end
      end

      def stored(name, from, &worked_out)
        Derived.fetch(@orchard, planned.stored_as(name), @today, from: planned.from(from), &worked_out)
      end

      def planned = @planned ||= @orchard.stubs_in_time(@season, @today)

      def this_summers
        now = @orchard.season.name_of(@today)
        return [] unless now < @season

        @orchard.stubs_in_time(now, @today).fresh.reject { |row| @orchard.stub_windows(@today).past?(row) }
      end

      # Varieties by name, each with its stubs, and how many there are of each kind: sticks to a stub,
      # method and kind of stock.
      def by_variety
        @by_variety ||= begin
          stubs, sites = [planned.rows, PlannedSites.wanting_wood(@orchard, @season, @today)]
            .map { |rows| rows.select(&:variety).group_by(&:variety) }
          (stubs.keys | sites.keys).sort_by(&:name).map do |variety|
            of_stubs, of_sites = [stubs, sites].map { |each| each.fetch(variety, []) }
            [variety, of_stubs, (of_stubs.map { |row| kind_of_stub(row) } + of_sites.map { |row| kind_of_site(row) })
              .tally]
          end
        end
      end

      def kind_of_stub(row) = [row.sticks || 1, row.technique, row.limb.tree.species, row.hand]
      def kind_of_site(row) = [row.sticks, row.technique, row.site.tree.species, nil]

      def reckoned
        @reckoned ||= stored("wood order", ORDER_FROM) do |orchard|
          WoodOrder.new(orchard, @season, @today).wanted || {}
        end.then { |found| found.empty? ? nil : found }
      end
      # What the reserve follows from, besides the orchard and the day.
      ORDER_FROM = %w[plans plan_limbs plan_sites sites limbs trees grafts observations tallies varieties].freeze
      private_constant :ORDER_FROM

      def line(variety, all, kinds)
        figures = reckoned[:names].find { |each| each[:name] == variety.name }
        have = available.fetch(variety.id, 0)
        Line.new(variety: variety, **figures.slice(:sticks, :reserve, :total, :shoots), have: have,
                 whole: whole.fetch(variety.id, 0), **rates(kinds),
                 diameters: diameters(all), anywhere: sources, **coming.of(variety.id),
                 coming_off: coming_off.fetch(variety.id, []).map(&:limb).reject { |limb| limb.graft&.head_off? })
      end

      def coming = @coming ||= WoodPromise.coming(@orchard, @season)

      # The chance of a single stick, least and most, and the stubs that it was seen on.
      def rates(kinds)
        rates = kinds.keys.map { |_, technique, species, hand| success(species, technique, hand) }.uniq
        { success: rates.map { |each| each[:stick] }.minmax, trials: rates.sum { |each| each[:trials] } }
      end

      # The sizes that flaps and whips want, to be carried to the wood.
      def diameters(all)
        ratio = Hash.new { |known, method| known[method] = @book.value("methods.#{method}.measure") == "ratio" }
        all.filter_map do |row|
          next unless row.complete? && ratio[row.technique]

          stub = CoreInputs.diameter_at(row.limb, row.cut_mm.to_f)
          low, high = @book.value("methods.#{row.technique}.scion_ideal").map { |times| times * stub }
          WantedSticks.new(label: row.limb.label, tree_id: row.limb.tree_id, limb_id: row.limb_id,
                           technique: row.technique,
                     stub_mm: stub, from_mm: low, to_mm: high, sticks: row.sticks || 1)
        end.sort_by(&:from_mm)
      end

      # Limbs that are sawn in the season, for a graft or without, by what stands on them now. A graft at the side
      # leaves the head on.
      def coming_off
        @coming_off ||= @orchard.planned(:cuts, @season).rows
          .reject { |row| TreePlan::WORKED.include?(row.role) && row.technique.nil? }
          .group_by { |row| row.limb.variety_id || row.limb.tree.variety_id }
      end

      def sources = @sources ||= WoodSources.new(@orchard, by_variety.map(&:first), @today)

      def available = @available ||= left(@orchard.wood_store(@today).for_stubs(season: @season))
      # Whole shoots, which no stub is given.
      def whole = @whole ||= left(@orchard.wood_store(@today).shoots(season: @season))
      def left(bundles) = bundles.group_by(&:variety_id).transform_values { |all| all.sum(&:left) }

      # Chance that a single stick takes, by the orchard's own record where it has one.
      def success(species, technique, hand = nil)
        @success ||= {}
        @success[[species, technique, hand]] ||= @orchard.success(@today).of(species, technique, hand: hand)
      end

      # The same day of the year, on or after another.
      def place_in(day, from)
        here = Date.valid_date?(from.year, day.month, day.day) ? Date.new(from.year, day.month, day.day) :
          Date.new(from.year, 3, 1)
        here < from ? here >> 12 : here
      end
    end
  end
end
