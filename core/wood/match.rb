# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # Which stick goes to which stub: as many served as can be, and then as well fitting as can be.
      module Match
        extend Reckoning

        # So many places are matched exactly in two seconds when nothing orders them.
        MOST_MIXED = 500

        contract "match", "Which stick goes to which stub" do
          list :sites, unique: :id do
            key :id
            name :method, -> { Rulebook.shipped.method_names }
            number :diameter_mm, unit: "mm", above: 0, help: "of the stub"
            integer :sticks, least: 0, most: 12, default: 1, help: "how many it takes"
            key :variety
          end
          list :sticks, unique: :id do
            key :id
            number :diameter_mm, unit: "mm", above: 0
            key :variety
          end
        end

        # A stick can go to a place of its variety when its diameter is inside the method's working
        # range for scions, edges included. Misfit in mm: by a ratio method, the distance from the
        # middle of the ideal ratio times the stub; by others, the distance to the ideal range; none
        # where any scion will do. The most places are served, and among those the least total misfit.
        #
        # Places and sticks of a variety fall into parts that have nothing to do with each other. Where the limits
        # of a part's places rise together, one pass over both sides in order is exact (RisingMatch); the rest is
        # an assignment of least cost (Assignment).
        #
        # @param most_mixed [Integer] so many places that nothing orders are matched; more are refused
        # @return [Hash] +pairs+ (+site+, +stick+, +misfit_mm+), +unserved+ (sites short of a stick, each
        #   once), +served+ (places), +misfit_mm+ (their sum) and +left+ (sticks over)
        def self.call(sites:, sticks:, most_mixed: MOST_MIXED, rulebook: Rulebook.shipped)
          by_variety = sticks.group_by { |each| each[:variety] }
          pairs = sites.group_by { |each| each[:variety] }.flat_map do |variety, places|
            pair(places, by_variety.fetch(variety, []), most_mixed, rulebook)
          end
          order = sites.each_with_index.to_h { |site, i| [site[:id], i] }
          pairs = pairs.sort_by.with_index { |each, place| [order[each[:site]], place] }
          count = pairs.map { |each| each[:site] }.tally
          unserved = sites.select { |site| count.fetch(site[:id], 0) < site[:sticks] }
          { pairs: pairs, unserved: unserved.map { |site| site[:id] }, served: pairs.size,
            misfit_mm: pairs.sum(0.0) { |each| each[:misfit_mm] },
            left: sticks.map { |each| each[:id] } - pairs.map { |each| each[:stick] } }
        end

        # How far a stick is from what a stub wants, in mm; nil when it cannot be used there.
        def self.misfit(method, stock_mm, scion_mm, rulebook)
          place(nil, method, stock_mm, rulebook).fit(scion_mm)
        end

        # What a stick may measure for a place, and what suits it best: misfit is the distance to +ideal+.
        SizedSite = Struct.new(:site, :low, :high, :ideal_low, :ideal_high, keyword_init: true) do
          # What places alike have alike.
          def limits = [low, high, ideal_low, ideal_high]

          # The misfit of a stick of this size; nil where it cannot go.
          def fit(mm) = Near.within?(mm, low, high) ? [ideal_low - mm, mm - ideal_high, 0.0].max : nil
        end

        # @return [SizedSite]
        def self.place(site, method, stock_mm, rulebook)
          range = Plan::Methods.scion_range(method, stock_mm, rulebook)
          unless range
            return SizedSite.new(site: site, low: 0.0, high: Float::INFINITY, ideal_low: 0.0,
                                 ideal_high: Float::INFINITY)
          end

          low, high = range[:ideal]
          low = high = (low + high) / 2.0 if rulebook.value_or_nil("methods.#{method}.measure") == "ratio"
          SizedSite.new(site: site, low: range[:works][0], high: range[:works][1], ideal_low: low, ideal_high: high)
        end

        def self.pair(sites, sticks, most_mixed, rulebook)
          places = sites.flat_map do |site|
            [place(site[:id], site[:method], site[:diameter_mm], rulebook)] * site[:sticks]
          end
          parts(places, sticks).flat_map do |some, wood|
            rising?(some) ? RisingMatch.pairs(some, wood) : assigned(some, wood, most_mixed)
          end
        end

        # Parts that share no stick: places whose ranges overlap, with the sticks inside them.
        #
        # @return [Array<Array(Array<SizedSite>, Array<Hash>)>] places by their limits, sticks by diameter
        def self.parts(places, sticks)
          reach = -Float::INFINITY
          ordered = places.sort_by.with_index { |each, i| [each.low, each.high, each.ideal_low, each.ideal_high, i] }
          wood = sticks.sort_by.with_index { |stick, i| [stick[:diameter_mm], i] }
          ordered.slice_when do |one, after|
            reach = [reach, one.high].max
            after.low > reach + 2 * Near::TOLERANCE
          end.map do |some|
            low, high = some.map(&:low).min, some.map(&:high).max
            [some, wood.select { |stick| Near.within?(stick[:diameter_mm], low, high) }]
          end
        end

        def self.rising?(places)
          places.each_cons(2).all? do |one, after|
            one.limits.zip(after.limits).all? { |limit, next_limit| limit <= next_limit }
          end
        end

        def self.assigned(places, sticks, most_mixed)
          return [] if sticks.empty?

          if [places.size, sticks.size].min > most_mixed
            raise BadInput.new("sites",
                               "up to #{most_mixed} places of one variety where methods that want different sticks " \
                               "are mixed")
          end

          # Places alike share one row of costs.
          rows = places.uniq(&:limits).to_h do |place|
            [place.limits, sticks.map { |stick| place.fit(stick[:diameter_mm]) }]
          end
          costs = places.map { |place| rows[place.limits] }
          Assignment.new(costs).pairs.map do |row, column|
            { site: places[row].site, stick: sticks[column][:id], misfit_mm: costs[row][column] }
          end
        end
        private_class_method :place, :pair, :parts, :rising?, :assigned
      end
    end
  end
end
