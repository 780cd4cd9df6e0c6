# frozen_string_literal: true

module Vestry
  module Records
    # The season's stubs with the sticks that go to them, what is over, and what could be done where
    # a stub goes without.
    class MatchBoard
      # So many stubs of a variety are matched at once.
      MOST = 600
      # So many stand on a page.
      PAGE = 60
      # So many sticks are offered for a stub beside those that are matched to it.
      CHOICES = 24
      MatchedStub = Struct.new(:row, :stub_mm, :given, :short, keyword_init: true)
      Given = Struct.new(:stick, :diameter_mm, :misfit_mm, :locked, keyword_init: true)

      attr_reader :season

      # @param variety [Integer, nil] the stubs of one alone: each variety is matched for itself
      # @param only [Array<PlanLimb>, nil] these stubs alone
      def initialize(orchard, season, today, variety: nil, only: nil)
        @orchard = orchard
        @season = season
        @today = today
        @variety = variety
        @only = only
      end

      # @return [Array<MatchedStub>] in walking order
      def places = @places ||= matched(rows)

      # A page of the places in the order in which they want looking at: those that go short first. The rest of the
      # season is not read for it.
      def page(number)
        (@page ||= {})[number] ||= begin
          ids = stored[:order].slice((number - 1) * PAGE, PAGE) || []
          matched(planned.of(ids)).sort_by { |place| ids.index(place.row.id) }
        end
      end
      # The place that wants looking at first.
      def first = page(1).first
      def pages = [(size / PAGE.to_f).ceil, 1].max

      # Stubs that are matched, of them those that have all their sticks, and those that go short.
      def size = stored[:order].size
      def served = size - short
      # Whether there is any wood to match.
      def stocked? = bundles.any?
      def short = stored[:short]
      def misfit_mm = stored[:misfit_mm]

      # Sticks that go nowhere.
      def left = sticks.reject { |stick| used.include?(stick.id) }
      def unmeasured = sticks.count { |stick| stick.diameter_mm.nil? }
      # Rows that cannot be matched yet: no method, place or variety.
      def undecided = stored[:undecided]

      # How many stubs of a variety stand further down its list than are matched at once.
      #
      # @return [Hash{Variety=>Integer}]
      def beyond = Variety.where(id: stored[:beyond].keys).order(:name).to_h { |kind| [kind, stored[:beyond][kind.id]] }

      # Sticks that could be kept by hand for a stub: of its variety, and kept for none; the best fitting first.
      def choices(row)
        free(row.variety_id).min_by(CHOICES) do |mm, _|
          misfit = Core::Wood::Match.misfit(row.technique, stub_mm(row), mm, @orchard.rulebook)
          [misfit ? 0 : 1, misfit || (mm - stub_mm(row)).abs]
        end.flat_map(&:last).first(CHOICES)
      end

      # How many there are in all.
      def choice_count(row) = free(row.variety_id).sum { |_, same| same.size }

      # Where sticks go, by the match or by hand.
      #
      # @param sticks [Array<Integer>] their ids
      # @return [Hash{Integer=>String}] the label of its stub, by stick
      def stubs_of(sticks)
        rows = stored[:pairs].to_h { |pair| [pair[:stick], pair[:site]] }.merge(locks).slice(*sticks)
        labels = planned.of(rows.values.uniq).to_h { |row| [row.id, row.limb.label] }
        rows.transform_values { |id| labels[id] }.compact
      end

      # The season matched, each variety for itself: what is stored, worked out.
      #
      # @return [Hash] +pairs+ (see Core::Wood::Match), +order+ (ids of the rows as they want looking at), +short+ (how
      #   many go short), +misfit_mm+, +undecided+, +beyond+ by id of the variety
      def whole
        @pairs = matched_sticks.group_by { |pair| pair[:site] }
        { pairs: @pairs.values.flatten(1), order: places.partition { |each| each.short.positive? }.flatten(1)
            .map { |each| each.row.id },
          short: places.count { |each| each.short.positive? },
          misfit_mm: places.sum { |place| place.given.sum { |each| each.misfit_mm || 0.0 } },
          undecided: all_rows.size - complete.size, beyond: too_many }
      end

      # What could be done for a stub that goes short, most useful first.
      def ways(place)
        return [] unless place.short.positive?

        Core::Wood::ShortStub.ways(asked(place), own: spare_of_variety.fetch(place.row.variety_id, []),
                                   others: others(place.row), rulebook: @orchard.rulebook)
      end

      def thickness(stick) = stick.diameter_mm&.to_f || @orchard.rulebook.value("reckoning.wood.pencil").to_f

      private

      def matched(rows)
        rows.map do |row|
          given = by_hand(row) + by_match(row)
          MatchedStub.new(row: row, stub_mm: stub_mm(row), given: given, short: [(row.sticks || 1) - given.size, 0].max)
        end
      end

      def by_hand(row)
        locked_to(row).map do |stick|
          Given.new(stick: stick, diameter_mm: thickness(stick), misfit_mm: misfit(row, stick), locked: true)
        end
      end

      # A stick that was used since the season was matched is given to nobody.
      def by_match(row)
        pairs.fetch(row.id, []).filter_map do |pair|
          stick = stick(pair[:stick]) or next
          Given.new(stick: stick, diameter_mm: thickness(stick), misfit_mm: pair[:misfit_mm], locked: false)
        end
      end

      def matched_sticks
        free = sticks.reject { |each| locks.key?(each.id) }
          .map { |each| { id: each.id, diameter_mm: thickness(each), variety: each.bundle.variety_id } }
          .group_by { |each| each[:variety] }
        rows.group_by(&:variety_id).flat_map do |variety, stubs|
          wood = free.fetch(variety, [])
          in_turn(stubs, wood, [wood.size - for_sites(variety), 0].max)
        end
      end

      # Sticks in store that stay for bare stretches: those that no promised wood fills.
      def for_sites(variety)
        @site_sticks ||= PlannedSites.sticks(@orchard, @season, @today)
        @promised ||= WoodPromise.coming(@orchard, @season).promised
        [@site_sticks.fetch(variety, 0) - @promised.fetch(variety, 0), 0].max
      end

      # Where there are too few sticks of a variety, those go first that the season's supply gives wood to; what fits
      # none of them goes to the others.
      #
      # @param most [Integer] how many of the sticks the stubs may have
      def in_turn(stubs, wood, most)
        wanted = stubs.to_h { |row| [row.id, [(row.sticks || 1) - locked_to(row).size, 0].max] }
        return match(stubs, wanted, wood) if wanted.values.sum <= most

        first = match(stubs, allotted(stubs, wanted, most), wood)
        first + rest(stubs, wanted, wood, first).first(most - first.size)
      end

      # What is still open, with what is left.
      def rest(stubs, wanted, wood, first)
        given, used = first.map { |pair| pair[:site] }.tally, first.map { |pair| pair[:stick] }
        match(stubs, wanted.to_h { |id, count| [id, count - given.fetch(id, 0)] },
              wood.reject { |stick| used.include?(stick[:id]) })
      end

      def allotted(stubs, wanted, have)
        Core::Plan::Shortage.allot(stubs.map do |row|
          WoodSupply.stub(row, @orchard, @today).merge(sticks: wanted[row.id])
        end, have)
      end

      def match(stubs, counts, wood)
        sites = stubs.map do |row|
          { id: row.id, method: row.technique, diameter_mm: stub_mm(row), sticks: counts[row.id],
            variety: row.variety_id }
        end
        Core::Wood::Match.call(sites: sites, sticks: wood, most_mixed: Float::INFINITY,
                               rulebook: @orchard.rulebook)[:pairs]
      end

      # Stubs of a variety beyond those that are matched at once.
      def too_many
        complete.group_by(&:variety_id).transform_values { |all| all.size - MOST }.select { |_, more| more.positive? }
      end

      def planned = @orchard.stubs_in_time(@season, @today, variety: @variety)
      def all_rows = @only || planned.rows
      def complete = @complete ||= all_rows.select(&:complete?)

      # In walking order, of each variety the first.
      def rows
        @rows ||= begin
          met = Hash.new(0)
          complete.select { |row| (met[row.variety_id] += 1) <= MOST }
        end
      end

      def stub_mm(row)
        (@stub_mm ||= {})[row.id] ||= CoreInputs.diameter_at(row.limb, row.cut_mm.to_f)
      end

      def bundles
        @bundles ||= @orchard.wood_store(@today).for_stubs(season: @season).select do |bundle|
          @variety.nil? || bundle.variety_id == @variety
        end
      end
      def sticks
        @sticks ||= @only ? @orchard.wood_store(@today).sticks(wanted, season: @season) :
          bundles.flat_map { |bundle| bundle.sticks.select(&:here?) }
      end

      # Sticks of the stubs that are asked for alone.
      def wanted = @only.flat_map { |row| pairs.fetch(row.id, []).map { |pair| pair[:stick] } } + locks.keys
      def stick(id) = (@by_id ||= sticks.to_h { |each| [each.id, each] })[id]

      # Sticks kept for a stub, by stick.
      def locks = @locks ||= StickLocks.of(@orchard)
      def locked_to(row)
        (@locked ||= locks.keys.group_by { |id| locks[id] }).fetch(row.id, []).filter_map { |id| stick(id) }
      end
      def used = @used ||= (stored[:pairs].map { |pair| pair[:stick] } + locks.keys).to_set

      # What the match of a season follows from, besides its orchard and day.
      FROM = %w[plans plan_limbs plan_sites sites limbs trees grafts observations tallies varieties bundles
                bundle_checks sticks stick_locks wood_promises].freeze
      private_constant :FROM

      def stored
        named = planned.stored_as("match")
        @stored ||= Derived.fetch(@orchard, named, @today, from: planned.from(FROM)) do |orchard|
          MatchBoard.new(orchard, @season, @today).whole
        end
      end

      # Sticks by stub, as matched for the whole season.
      def pairs = @pairs ||= stored[:pairs].group_by { |pair| pair[:site] }

      def misfit(row, stick)
        Core::Wood::Match.misfit(row.technique, stub_mm(row), thickness(stick), @orchard.rulebook)
      end

      # Sticks of a variety that are kept for no stub, by thickness.
      def free(variety_id)
        (@free ||= {})[variety_id] ||= of_variety.fetch(variety_id, []).reject { |stick| locks.key?(stick.id) }
          .group_by { |stick| thickness(stick) }
      end

      def of_variety = @of_variety ||= sticks.group_by { |stick| stick.bundle.variety_id }

      # Sticks that neither the match nor anyone's hand gives to a stub, those of one size once.
      def spare
        @spare ||= left.uniq { |stick| [stick.bundle.variety_id, thickness(stick)] }.map do |stick|
          { label: stick.label, diameter_mm: thickness(stick), bundle: stick.bundle }
        end
      end
      def spare_of_variety = @spare_of_variety ||= spare.group_by { |stick| stick[:bundle].variety_id }

      # A stub as the core takes it.
      def asked(place)
        row, limb = place.row, place.row.limb
        { technique: row.technique, stub_mm: place.stub_mm, cut_mm: row.cut_mm.to_f, short: place.short,
          given: place.given.size,
          base_mm: CoreInputs.section(limb)[:diameter_mm], length_mm: limb.grown_mm,
          cut_point: -> { CoreInputs.cut_point(limb, row.technique) },
          asked: CoreInputs.method_question(limb, place.stub_mm, slipping: true, today: @today) }
      end

      # Sticks over of other varieties that may be grafted here, with how each lives on this stock.
      def others(row)
        stock = row.limb.tree.species
        (@others ||= {})[[row.variety_id, stock]] ||= spare.filter_map do |stick|
          variety = stick[:bundle].variety
          next if variety.id == row.variety_id || VarietyFit.unpermitted?(variety)

          { **stick.slice(:label, :diameter_mm), variety: variety.name,
            grows: @orchard.rulebook.compatibility(stock, variety.species)["value"] }
        end
      end
    end
  end
end
