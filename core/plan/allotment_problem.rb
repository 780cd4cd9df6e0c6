# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # An orchard's limbs, what each is worth in each season, and the limits that they share.
      class AllotmentProblem
        MINUTES = "minutes"
        # +share+ is what working it takes of its head; +values+ by season; +uses+ of each shared limit by season, as
        # [limit, amount].
        Choice = Struct.new(:place, :tree, :id, :share, :values, :uses, :fixed, keyword_init: true) do
          # There is one of each: a key by its place, not by all that it holds.
          def hash = place.hash
          def eql?(other) = equal?(other)
          # Those in which it may be worked.
          def seasons = fixed ? [fixed] : values.each_index.to_a
        end

        attr_reader :limbs, :limits, :seasons, :caps

        def initialize(trees, seasons, horizon, wood, minutes, rulebook)
          @trees = trees
          @seasons = seasons
          @horizon = horizon
          @rulebook = rulebook
          @caps = trees.map { |tree| tree[:cap].to_f }
          @limits = limits_of(wood, minutes)
          @limbs = all_limbs
        end

        # @return [AllotmentProblem] the same with more of one limit
        def with_more(limit, amount)
          dup.tap { |other| other.limits = limits.merge(limit => limits.fetch(limit) + amount) }
        end

        # @raise [BadInput]
        def check
          if limbs.any? { |limb| limb.fixed && limb.fixed >= seasons }
            raise BadInput.new("trees", "limbs fixed to one of the #{seasons} seasons")
          end

          fixed = limbs.select(&:fixed).to_h { |limb| [limb, limb.fixed] }
          return if fits?(fixed)

          raise BadInput.new("trees", "fixed limbs that keep their tree's cap, and the wood and minutes there are")
        end

        # Whether a choice passes no limit.
        #
        # @param chosen [Hash{Choice=>Integer}]
        def fits?(chosen)
          used = Hash.new(0.0)
          heads = Hash.new(0.0)
          chosen.each do |limb, season|
            limb.uses[season].each { |limit, amount| used[limit] += amount }
            heads[[limb.tree, season]] += limb.share
          end
          used.all? { |limit, amount| Near.at_most?(amount, limits[limit]) } &&
            heads.all? { |(tree, _), share| Near.at_most?(share, caps[tree]) }
        end

        # Whether a choice passes no limit and sets each limb in one of its seasons, those that are fixed among them.
        def keeps?(chosen)
          fits?(chosen) && chosen.all? { |limb, season| limb.seasons.include?(season) } &&
            limbs.all? { |limb| limb.fixed.nil? || chosen.key?(limb) }
        end

        # @return [Float] what a choice is worth together
        def value(chosen) = chosen.sum(0.0) { |limb, season| limb.values[season] }

        # As it is told: by season, then as the limbs were given.
        def told(chosen)
          chosen.sort_by { |limb, season| [season, limb.place] }
            .map { |limb, season| { limb: limb.id, tree: @trees[limb.tree][:id], season: season } }
        end

        protected

        attr_writer :limits

        private

        def limits_of(wood, minutes)
          sticks = wood.to_h { |row| [[row[:variety], row[:season]], row[:sticks].to_f] }
          time = minutes.each_with_index.to_h { |most, season| [[MINUTES, season], most.to_f] }
          sticks.merge(time).select { |(_, season), _| season < @seasons }
        end

        def all_limbs
          pairs = @trees.each_with_index.flat_map { |tree, at| tree[:limbs].map { |limb| [tree, at, limb] } }
          pairs.each_with_index.map { |(tree, at, limb), place| limb(tree, at, limb, place) }
        end

        def limb(tree, at, limb, place)
          grown = Regrowth.call(stub_mm: limb[:stub_mm], shoot_mm: limb[:shoot_mm], seasons: @horizon + 1,
                                rulebook: @rulebook)[:shares]
          worth = tree[:worth] * limb[:share] * limb[:take]
          taken = limb[:headed] ? 0.0 : limb[:share].to_f
          Choice.new(place: place, tree: at, id: limb[:id], share: taken, fixed: limb[:fixed],
                   values: Array.new(@seasons) { |season| season > @horizon ? 0.0 : worth * grown[@horizon - season] },
                   uses: Array.new(@seasons) { |season| uses(limb, season) })
        end

        def uses(limb, season)
          { [limb[:variety], season] => limb[:sticks].to_f, [MINUTES, season] => limb[:minutes].to_f }
            .select { |limit, amount| limits.key?(limit) && amount.positive? }.to_a
        end
      end
    end
  end
end
