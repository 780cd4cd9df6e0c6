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
      def places = @places ||= matched

      # A page of the places in the order in which they want looking at: those that go short first.
      def page(number)
        places.sort_by.with_index { |place, i| [place.short.positive? ? 0 : 1, i] }.slice((number - 1) * PAGE, PAGE) ||
          []
      end
      def pages = [(places.size / PAGE.to_f).ceil, 1].max

      def served = places.count { |place| place.short.zero? }
      def short = places.select { |place| place.short.positive? }
      def misfit_mm = places.sum { |place| place.given.sum { |each| each.misfit_mm || 0.0 } }

      # Sticks that go nowhere.
      def left = sticks.reject { |stick| used.include?(stick.id) }
      def unmeasured = sticks.count { |stick| stick.diameter_mm.nil? }
      # Rows that cannot be matched yet: no method, place or variety.
      def undecided = all_rows.size - complete.size

      # How many stubs of a variety stand further down its list than are matched at once.
      #
      # @return [Hash{Variety=>Integer}]
      def beyond
        complete.group_by(&:variety).transform_values { |all| all.size - MOST }.select { |_, more| more.positive? }
      end

      # Sticks that could be kept by hand for a variety's stubs: its own, where none is kept for another.
      def choices(variety_id) = of_variety.fetch(variety_id, []).reject { |stick| locks.key?(stick.id) }

      # Which stick goes to which stub, each variety matched for itself: what is stored, worked out.
      #
      # @return [Array<Hash>]
      def matched_sticks
        sites = rows.map do |row|
          { id: row.id, method: row.technique, diameter_mm: stub_mm(row),
            sticks: [(row.sticks || 1) - locked_to(row).size, 0].max, variety: row.variety_id }
        end
        free = sticks.reject { |each| locks.key?(each.id) }
          .map { |each| { id: each.id, diameter_mm: thickness(each), variety: each.bundle.variety_id } }
          .group_by { |each| each[:variety] }
        sites.group_by { |each| each[:variety] }.flat_map do |variety, places|
          Core::Wood::Match.call(sites: places, sticks: free.fetch(variety, []), most_mixed: Float::INFINITY,
                                 rulebook: @orchard.rulebook)[:pairs]
        end
      end

      # What could be done for a stub that goes short, most useful first.
      def ways(place)
        return [] unless place.short.positive?

        row = place.row
        own = spare_of_variety.fetch(row.variety_id, [])
        [elsewhere(row, own), another_method(row, own), another_variety(row),
         { code: "match_more_wood", sticks: (row.sticks || 1) }].compact
      end

      def thickness(stick) = stick.diameter_mm&.to_f || @orchard.rulebook.value("reckoning.wood.pencil").to_f

      private

      def matched
        rows.map do |row|
          given = locked_to(row).map { |stick| Given.new(stick: stick, diameter_mm: thickness(stick),
                                                         misfit_mm: misfit(row, stick), locked: true) } +
                  pairs.fetch(row.id, []).map do |pair|
                    Given.new(stick: stick(pair[:stick]), diameter_mm: thickness(stick(pair[:stick])),
                              misfit_mm: pair[:misfit_mm], locked: false)
                  end
          MatchedStub.new(row: row, stub_mm: stub_mm(row), given: given,
                    short: [(row.sticks || 1) - given.size, 0].max)
        end
      end

      def planned = @orchard.planned(:stubs, @season, variety: @variety)
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
      def sticks = @sticks ||= bundles.flat_map { |bundle| bundle.sticks.select(&:here?) }
      def stick(id) = (@by_id ||= sticks.to_h { |each| [each.id, each] })[id]

      # Sticks kept for a stub, by stick.
      def locks = @locks ||= StickLocks.of(@orchard)
      def locked_to(row)
        (@locked ||= locks.keys.group_by { |id| locks[id] }).fetch(row.id, []).filter_map { |id| stick(id) }
      end
      def used = @used ||= places.flat_map { |place| place.given.map { |each| each.stick.id } }.to_set

      # What the match of a season follows from, besides its orchard and day.
      FROM = %w[plans plan_limbs limbs trees grafts observations tallies varieties bundles sticks stick_locks].freeze
      private_constant :FROM

      # Sticks by stub, as matched for the whole season.
      def pairs
        @pairs ||= Derived.fetch(@orchard, "match #{@season}", @today, from: FROM) do |orchard|
          MatchBoard.new(orchard, @season, @today).matched_sticks
        end.group_by { |pair| pair[:site] }
      end

      def misfit(row, stick)
        Core::Wood::Match.misfit(row.technique, stub_mm(row), thickness(stick), @orchard.rulebook)
      end

      def of_variety = @of_variety ||= sticks.group_by { |stick| stick.bundle.variety_id }

      # Sticks that neither the match nor anyone's hand gives to a stub.
      def spare = @spare ||= sticks.reject { |stick| locks.key?(stick.id) || used.include?(stick.id) }

      def spare_of_variety = @spare_of_variety ||= spare.group_by { |stick| stick.bundle.variety_id }

      # Cut where the limb is as thick as a spare stick wants: by methods that match sizes.
      def elsewhere(row, own)
        return nil unless @orchard.rulebook.value("methods.#{row.technique}.measure") == "ratio"

        cut = CoreInputs.cut_point(row.limb, row.technique)
        wanted = own.map { |stick| [stick, wanted_stock(row, stick)] }
          .map { |stick, stock| { stick: stick, stock_mm: stock, at_mm: where_thick(row.limb, stock) } }
        found = cut[:feasible] && wanted.select { |each| Core::Near.within?(each[:at_mm], cut[:from_mm], cut[:to_mm]) }
          .min_by { |each| (each[:at_mm] - row.cut_mm.to_f).abs }
        found && { code: "match_cut_elsewhere", stick: found[:stick].label, diameter_mm: thickness(found[:stick]),
                   **found.slice(:at_mm, :stock_mm) }
      end

      # How thick a stock a stick wants, in the middle of what is ideal.
      def wanted_stock(row, stick)
        thickness(stick) / (@orchard.rulebook.value("methods.#{row.technique}.scion_ideal").sum / 2.0)
      end

      def where_thick(limb, stock_mm)
        Core::Survey::Taper.place(CoreInputs.section(limb)[:diameter_mm], limb.length_mm, stock_mm, @orchard.rulebook)
      end

      def another_method(row, own)
        own.each do |stick|
          best = CoreInputs.methods(row.limb, stub_mm(row), scion_mm: thickness(stick), today: @today)[:ranking]
            .find { |each| !each[:blocked] && each[:score].positive? && each[:method] != row.technique }
          if best
            return { code: "match_other_method", method: best[:method], stick: stick.label,
                     diameter_mm: thickness(stick) }
          end
        end
        nil
      end

      def another_variety(row)
        found = spare.find do |stick|
          next if stick.bundle.variety_id == row.variety_id

          variety = stick.bundle.variety
          %w[good workable].include?(@orchard.rulebook.compatibility(row.limb.tree.species,
                                                                     variety.species)["value"]) &&
                                                                     !VarietyFit.unpermitted?(variety) &&
                                                                     misfit(row, stick)
        end
        found && { code: "match_other_variety", variety: found.bundle.variety.name, stick: found.label }
      end
    end
  end
end
