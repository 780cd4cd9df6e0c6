# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Which limbs to take in which season, so that no season takes too much of the head, the
      # head stays balanced, and high limbs go first.
      module Stages
        extend Reckoning

        EXACT = 12
        # So many part-made assignments are looked at before the best so far stands.
        NODES = 200_000

        contract "stages", "Which limbs to take in which season" do
          list :limbs, longest: 200, unique: :id do
            key :id
            number :share, least: 0, most: 1, help: "of the head, that goes with it"
            number :bearing_deg, unit: "degrees from north", least: 0, below: 360, optional: true,
                   help: "none for the leader, which draws to no side"
            number :height_mm, unit: "mm", least: 0
          end
          number :cap, least: 0, most: 1, help: "the most of the head one season may take"
          integer :seasons_max, above: 0, most: 60
        end

        # Fewest seasons first, then least cost = the greatest season's removal
        # + 0.5 x the mean over seasons of how far each leans
        # + 0.3 x the sum of share x height (0 lowest, 1 highest) x season (from 0).
        #
        # How few seasons do is found by packing (Packing), exactly up to 16 limbs. The cost is exact to 12 limbs
        # by branch and bound, as long as that looks at no more than NODES part-made assignments; else it is the
        # best found (+exact+ is false), by moving and exchanging single limbs, and +bound+ is a cost that no
        # assignment goes below.
        #
        # @return [Hash] +feasible+ (nil where many limbs neither were seen to fit nor cannot), +seasons+ (ids by
        #   season), +removed+ (share by season), +cost+, +bound+, +exact+; where not feasible: +reasons+ with what
        #   cap or how many seasons would do
        def self.call(limbs:, cap:, seasons_max:, rulebook: Rulebook.shipped)
          raise BadInput.new("limbs", "at least one limb") if limbs.empty?

          packing = Packing.new(limbs.map { |each| each[:share] })
          most = [seasons_max, limbs.size].min
          count = packing.fewest(cap)
          return infeasible(limbs, cap, most, packing, count) if count.nil? || count > most

          search = StagesSearch.new(limbs, cap, count, packing.assignment(cap), rulebook)
          answer = search.best(nodes: limbs.size <= EXACT ? NODES : 0)
          exact = answer[:complete] && packing.proved?(cap)
          { feasible: true, seasons: answer[:seasons].map { |season| season.map { |limb| limb[:id] } },
            removed: answer[:seasons].map { |season| season.sum { |limb| limb[:share] } },
            cost: answer[:cost], bound: exact ? answer[:cost] : answer[:bound], exact: exact, reasons: [] }
        end

        def self.infeasible(limbs, cap, most, packing, enough)
          large = limbs.find { |each| !Near.at_most?(each[:share], cap) }
          unknown = large.nil? && !packing.proved?(cap) && packing.least(cap) <= most
          reasons = []
          reasons << { code: "stages_limb_over_cap", limb: large[:id], share: large[:share], cap: cap } if large
          reasons << { code: "stages_not_known" } if unknown
          reasons << { code: "stages_more_seasons", seasons: enough } if enough
          reasons << { code: "stages_higher_cap", cap: packing.least_cap(most) }
          { feasible: unknown ? nil : false, seasons: [], removed: [], cost: nil, bound: nil, exact: !unknown,
            reasons: reasons }
        end
        private_class_method :infeasible
      end
    end
  end
end
