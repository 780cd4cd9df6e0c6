# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Which limbs of an orchard to work in which season, for the most living scaffold some seasons on, with the wood
      # and the hours that there are.
      module Allotment
        extend Reckoning

        contract "allotment", "Which limbs to work in which season with the wood and hours there are" do
          list :trees, longest: 5000, unique: :id do
            key :id
            number :worth, least: 0, most: 1000, default: 1.0
            number :cap, least: 0, most: 1, default: 1.0, help: "the most of its head that one season may take"
            list :limbs, longest: 60, unique: :id do
              key :id
              number :share, least: 0, most: 1, help: "of the head, that goes with it"
              number :stub_mm, unit: "mm", above: 0
              number :shoot_mm, unit: "mm", least: 0, help: "of its first year"
              number :take, least: 0, most: 1, help: "chance that the stub takes"
              integer :sticks, least: 0, most: 12, default: 1
              number :minutes, unit: "minutes", least: 0, default: 0.0
              key :variety, optional: true
              flag :headed, default: false, help: "its head is off already: working it takes nothing more"
              integer :fixed, least: 0, most: 59, optional: true, help: "the season it is to be worked in"
            end
          end
          integer :seasons, above: 0, most: 12
          integer :horizon, least: 0, most: 60, help: "the season whose living scaffold counts; 0 is the first"
          list :wood, longest: 5000, help: "what is not named is enough" do
            key :variety
            integer :season, least: 0, most: 59
            integer :sticks, least: 0
          end
          list :minutes, item(:number, unit: "minutes", least: 0), longest: 12, help: "by season; none given is enough"
          integer :exact_to, least: 0, most: 14, default: 12, help: "so many limbs are searched through"
        end

        # A limb worked in season s is worth its tree's worth x its share x its take x what Regrowth has brought back of
        # it by the horizon. Each is worked once at most; a tree gives its cap in a season, and sticks by variety and
        # minutes are those of each season. Up to +exact_to+ limbs by branch and bound; beyond, the shared limits are
        # priced (Lagrangian relaxation, 200 rounds of Polyak's steps, each tree exactly by itself), every round gives a
        # bound that is never passed, and what it chooses is filled by gain and exchanged limb by limb.
        #
        # @return [Hash] +chosen+, each +limb+, +tree+ and +season+, in order; +value+, +bound+ and +gap+ (0..1);
        #   +exact+; and +binding+, the limits that bind, each +what+ (a variety or "minutes"), +season+ and +price+,
        #   what one more stick or minute is worth
        # @raise [BadInput] where what is fixed passes a limit
        def self.call(trees:, seasons:, horizon:, wood: [], minutes: [], exact_to: 12, rulebook: Rulebook.shipped)
          problem = AllotmentProblem.new(trees, seasons, horizon, wood, minutes, rulebook)
          problem.check
          exact = problem.limbs.size <= exact_to
          found = exact ? AllotmentSearch.new(problem).best : AllotmentPrices.new(problem).best
          { chosen: problem.told(found[:chosen]), value: found[:value], bound: [found[:bound], found[:value]].max,
            gap: gap(found), exact: exact, binding: exact ? worth_more(problem, found[:value]) : found[:binding] }
        end

        # The same, where a solver may find better: its choice is taken only if it keeps every limit.
        #
        # @param asked [Hash] as the contract has it, with nothing left out
        # @yieldparam problem [AllotmentProblem] yielded where it is not searched through here
        # @yieldreturn [Array(Hash, Boolean), nil] what it chose, as limb => season, and whether it proved it the best
        #   within SOLVER_GAP
        # @return [Hash] as #call
        def self.solved(asked, rulebook: Rulebook.shipped)
          told = reckon(asked, rulebook: rulebook)
          return told if told[:exact]

          problem = AllotmentProblem.new(*asked.values_at(:trees, :seasons, :horizon, :wood, :minutes), rulebook)
          chosen, proved = yield problem
          chosen && problem.keeps?(chosen) ? better_of(told, problem, chosen, proved) : told
        end

        # So near the best a solver stops.
        SOLVER_GAP = 1e-4

        # What a choice is worth, whether it keeps the limits or not.
        #
        # @param asked [Hash] as the contract has it
        # @param chosen [Array<Hash>] each +limb+ and +season+
        # @return [Float]
        def self.worth_of(asked, chosen, rulebook: Rulebook.shipped)
          problem = AllotmentProblem.new(asked[:trees], asked[:seasons], asked[:horizon], [], [], rulebook)
          seasons = chosen.to_h { |each| each.values_at(:limb, :season) }
          problem.value(problem.limbs.select { |limb| seasons.key?(limb.id) }.to_h { |limb| [limb, seasons[limb.id]] })
        end

        def self.better_of(found_here, problem, chosen, proved)
          value = problem.value(chosen)
          bound = [found_here[:bound], (value * (1 + SOLVER_GAP) if proved)].compact.min
          found = value > found_here[:value] ? { chosen: problem.told(chosen), value: value } :
            found_here.slice(:chosen, :value)
          bound = [bound, found[:value]].max
          found_here.merge(found, bound: bound, gap: gap(found.merge(bound: bound)))
        end

        def self.gap(found)
          found[:bound].positive? ? [(found[:bound] - found[:value]) / found[:bound], 0.0].max : 0.0
        end

        # What one more stick, or an hour, would bring.
        def self.worth_more(problem, value)
          problem.limits.keys.filter_map do |what, season|
            step = what == AllotmentProblem::MINUTES ? WorkTime::AN_HOUR : 1.0
            more = AllotmentSearch.new(problem.with_more([what, season], step)).best[:value]
            price = (more - value) / step
            { what: what, season: season, price: price } if price > Near::TOLERANCE
          end.sort_by { |each| [-each[:price], each[:season]] }
        end
        private_class_method :better_of, :gap, :worth_more
      end
    end
  end
end
