# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # Reads the limbs as a head: how it is balanced round the compass, and which limbs offer
      # themselves for work, as nurse, or to be lifted, and why.
      module Head
        QUARTERS = { "north" => 0, "east" => 90, "south" => 180, "west" => 270 }.freeze

        module_function

        # @param limbs [Array<Hash>] +share+ (0..1), +bearing_deg+ (nil for the leader, which draws to no side)
        # @return [Hash] +lean+ (0 even, 1 all on one side), +towards_deg+ (nil when even), +quarters+ (the share
        #   growing towards each), +upright+ (the leader's share), +bare+ (the quarters with next to nothing) and
        #   +leans+ (whether by enough to be seen)
        def balance(limbs, rulebook: Rulebook.shipped)
          aside = limbs.select { |each| each[:bearing_deg] }
          lean, towards = pull(aside)
          quarters = QUARTERS.transform_values do |middle|
            aside.select { |each| (each[:bearing_deg] - middle + 45) % 360 < 90 }.sum { |each| each[:share] }
          end
          { upright: (limbs - aside).sum { |each| each[:share] }, lean: lean, towards_deg: towards,
            leans: lean >= rulebook.value("reckoning.head.even_lean"), quarters: quarters,
            bare: quarters.select { |_, share| share < rulebook.value("reckoning.head.bare_quarter") }.keys }
        end

        # @return [Array(Float, Float)] how far it leans, and where to (nil when even)
        def pull(limbs)
          x = limbs.sum { |each| each[:share] * Math.sin(radians(each[:bearing_deg])) }
          y = limbs.sum { |each| each[:share] * Math.cos(radians(each[:bearing_deg])) }
          lean = Math.hypot(x, y)
          [lean, lean > Near::TOLERANCE ? (Math.atan2(x, y) * 180 / Math::PI) % 360 : nil]
        end

        # How many nurse limbs a head wants.
        #
        # @param limbs [Integer] that leave the trunk
        # @param practice [String] the choice at the point +nurses+
        def nurses_wanted(limbs, practice, rulebook)
          return 0 if practice == "none"

          limbs > rulebook.value("reckoning.pace.nurses_several") ? 2 : 1
        end

        # What each limb of the trunk offers itself for.
        #
        # @param limbs [Array<Hash>] +id+, +share+, +bearing_deg+, +fork_height_mm+, +tip_height_mm+,
        #   +cuttable+ (whether some method finds a place), +own+ (whether that is one of the school's; it is where
        #   that is not said), +stock_mm+ (there), +conflict+ (limits that fail), +damaged+
        # @param lowest_mm [Numeric] what animals reach
        # @param nurses [Integer] how many nurse limbs are wanted
        # @return [Hash] id => { +role+, +reasons+ }
        def candidates(limbs, lowest_mm:, nurses:, rulebook: Rulebook.shipped)
          roles = limbs.to_h { |each| [each[:id], first_thought(each, limbs, lowest_mm, rulebook)] }
          open = limbs.select { |each| roles[each[:id]][:role] == "work" }
          if open.size == 1 && limbs.size == 1
            roles[open.first[:id]][:reasons] += [{ code: "head_only_limb" }]
          elsif open.size > 1 && nurses.positive?
            choose_nurses(open, [nurses, open.size - 1].min, roles, rulebook)
          end
          roles
        end

        # Those fit to be nurses become so; where none is, the lowest is said to be shortened.
        def choose_nurses(open, count, roles, rulebook)
          chosen = nurses(open, rulebook).first(count)
          chosen.each do |each|
            roles[each[:id]] = { role: "nurse", reasons: [{ code: "head_nurse", share: each[:share],
                tip_height_mm: each[:tip_height_mm] }] }
          end
          return if chosen.any?

          lowest = open.min_by { |each| [each[:tip_height_mm], each[:share]] }
          roles[lowest[:id]][:reasons] += [{ code: "head_none_small", share: lowest[:share] }]
        end

        # Limbs fit to nurse the others, the lowest first: small enough not to take the tree over, and below the grafts
        # or on the side away from them.
        def nurses(open, rulebook)
          most = rulebook.value("reckoning.head.nurse_most")
          open.select do |each|
            others = open - [each]
            each[:share] <= most + Near::TOLERANCE &&
              (each[:tip_height_mm] < others.sum { |other| other[:tip_height_mm] } / others.size.to_f ||
               away?(each, others))
          end.sort_by { |each| [each[:tip_height_mm], each[:share]] }
        end

        # Whether it points away from where the others lean, by a right angle or more.
        def away?(limb, others)
          return false unless limb[:bearing_deg]

          towards = balance(others)[:towards_deg]
          towards.nil? || Near.at_least?(((limb[:bearing_deg] - towards + 180) % 360 - 180).abs, 90)
        end

        # How much of some leaf stands higher than a place, each limb's spread evenly from its fork to its tip.
        #
        # @param leaf [Array<Hash>] +share+, +from_mm+ and +to_mm+ in height
        # @return [Float] 0..1
        def above(leaf, height_mm)
          all = leaf.sum { |each| each[:share] }
          return 0.0 unless all.positive?

          leaf.sum do |each|
            low, high = each.values_at(:from_mm, :to_mm).minmax
            each[:share] * (high > low ? ((high - height_mm) / (high - low)).clamp(0.0, 1.0) :
              (low > height_mm ? 1.0 : 0.0))
          end / all
        end

        def first_thought(limb, limbs, lowest_mm, rulebook)
          if eaten?(limb, lowest_mm) && !limbs.all? { |each| eaten?(each, lowest_mm) }
            { role: "lift", reasons: [{ code: "head_under_browse", tip_height_mm: limb[:tip_height_mm],
                                        lowest_mm: lowest_mm }] }
          elsif (rival = crowding(limb, limbs, rulebook))
            { role: "lift", reasons: [{ code: "head_crowds", other: rival[:id] }] }
          elsif limb[:cuttable] && !large?(limb, rulebook)
            reasons = [{ code: "head_cuttable", share: limb[:share], own: limb.fetch(:own, true) }]
            reasons << { code: "head_damaged" } if limb[:damaged]
            { role: "work", reasons: reasons }
          else
            { role: "nurse", reasons: [limb[:cuttable] ? { code: "head_large", mm: limb[:stock_mm] } :
              { code: "head_no_cut", conflict: limb[:conflict] }] }
          end
        end

        # A stub that the school has no method for, and that stays open for years.
        def large?(limb, rulebook)
          !limb.fetch(:own, true) && limb[:stock_mm] > rulebook.value("reckoning.large.from") + Near::TOLERANCE
        end

        # Whether animals reach all of it. A head that they reach all of is not lifted off its tree.
        def eaten?(limb, lowest_mm) = lowest_mm.positive? && Near.at_most?(limb[:tip_height_mm], lowest_mm)

        # A larger limb that points the same way from about the same height.
        def crowding(limb, limbs, rulebook)
          return nil unless limb[:bearing_deg]

          apart = rulebook.value("reckoning.head.crowd_deg")
          above = rulebook.value("reckoning.head.crowd_mm")
          limbs.find do |other|
            other[:id] != limb[:id] && other[:bearing_deg] && other[:share] > limb[:share] &&
              ((other[:bearing_deg] - limb[:bearing_deg] + 180) % 360 - 180).abs < apart &&
              (other[:fork_height_mm] - limb[:fork_height_mm]).abs < above
          end
        end

        def radians(degrees) = degrees * Math::PI / 180
        private_class_method :pull, :first_thought, :crowding, :choose_nurses, :nurses, :away?, :eaten?, :large?,
                             :radians
      end
    end
  end
end
