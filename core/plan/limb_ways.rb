# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # What is to be minded about a limb before it is cut: that it is the only one, or trained to a wall, or thick;
      # that its kind bleeds, or knits only in warmth.
      module LimbWays
        module_function

        # @param limb [Hash] +length_mm+ and whether its +taper+ was measured; +diameter_mm+ where it would be cut;
        #   +branches+ on it, each +tag+ and +diameter_mm+; +only+
        #   (the tree has no other); +trained+ (to a wall); +shoot_mm+, the first-year shoot to expect;
        #   the +method+ of its graft, where one is chosen; +donor+ (it joins a rooted plant); +bleeds+ (its tree was
        #   seen to)
        # @param cover [String] the practice's
        # @return [Array<Hash>] codes with figures, what weighs most first; none for an ordinary limb
        def of(limb, species:, cover:, rulebook:)
          long = !limb[:taper] && limb[:length_mm] > rulebook.value("reckoning.large.guess_from")
          [*([{ code: "limb_only" }] if limb[:only]), *trained(limb, rulebook), *large(limb, rulebook),
           *kind(species, cover, rulebook, limb), *([{ code: "limb_taper" }] if long)]
        end

        # An arm on a wall comes back in seasons, not years: it is cut near the trunk.
        def trained(limb, rulebook)
          return [] unless limb[:trained]

          shares = Regrowth.call(stub_mm: limb[:diameter_mm], shoot_mm: limb[:shoot_mm], seasons: 12,
                                 rulebook: rulebook)[:shares]
          back = shares.index { |share| share >= rulebook.value("reckoning.projection.back_at") } || 12
          [{ code: "limb_trained", seasons: [back, 1].max }]
        end

        # Its branches first, then its side, then a ring and patience.
        def large(limb, rulebook)
          mm = limb[:diameter_mm]
          return [] unless mm > rulebook.value("reckoning.large.from") + Near::TOLERANCE

          low, high = rulebook.value("reckoning.large.branches")
          fit = limb[:branches].select { |each| Near.within?(each[:diameter_mm], low, high) }
          ring = rulebook.value("reckoning.sticks.ring_most")
          seasons = Near.ceil(mm * StickChoice.farthest(ring) / rulebook.value("reckoning.closure.fed").to_f)
          [{ code: "large_branches", tags: fit.map { |each| each[:tag] }, from_mm: low, to_mm: high },
           { code: "large_side", mm: mm }, { code: "large_ring", mm: mm, sticks: ring, seasons: seasons }]
        end

        # How many days before it is grafted a stub that bleeds is cut.
        #
        # @param method [String, nil] of its graft; nil while none is chosen
        # @param seen [Boolean] whether its tree was seen to bleed when it was last looked at
        # @return [Numeric, nil] days; nil where neither its kind bleeds nor its tree was seen to, and where nothing is
        #   cut
        def bleed_days(species, method, rulebook, seen: false)
          return unless rulebook.heads?(method)
          return unless seen || rulebook.book("species").dig("names", species, "bleeds")

          rulebook.value("reckoning.graft_day.bleed_days")
        end

        def kind(species, cover, rulebook, limb)
          days = bleed_days(species, limb[:method], rulebook, seen: limb[:bleeds])
          warm = rulebook.value("reckoning.graft_day.callus_kinds").key?(species)
          [*([{ code: "kind_bleeds", days: days }] if days),
           *(evergreen(rulebook, limb[:donor]) if rulebook.evergreen?(species)),
           *([{ code: "kind_warm", species: species, bag: cover != "foil-and-bag" }] if warm)]
        end
        # A plant that keeps its leaves and its roots wants no bag.
        def evergreen(rulebook, donor)
          night = rulebook.value("reckoning.graft_day.evergreen_night")
          return [{ code: "kind_evergreen_joined", night_c: night }] if donor

          [{ code: "kind_evergreen", night_c: night, days: rulebook.value("care.figures.evergreen_shade") }]
        end
        private_class_method :trained, :large, :kind, :evergreen
      end
    end
  end
end
