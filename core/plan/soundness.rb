# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # What is wrong with a plan as it stands, limb by limb and as a whole, worst first.
      module Soundness
        WORKED = %w[work later backup].freeze
        # In the order a steward must deal with them.
        ORDER = %w[plan_all_lifted plan_nothing_worked plan_trunk_bare plan_refused plan_protected plan_limb_gone
                   plan_cut_beyond plan_comes_off plan_lift_waits plan_measured_anew plan_no_cut plan_overdue
                   plan_over_cap plan_only_limb plan_no_nurse plan_long_shoots plan_overtopped plan_nurse_too_strong
                   plan_all_arms plan_strong_high plan_weak_low plan_many_varieties plan_doubtful plan_delayed].freeze

        module_function

        # @param limbs [Array<Hash>] each with +id+, +tag+, +role+ (or nil), +share+ (0..1), +season+,
        #   +gone+, +grafted+, and +again+ where that was lost and it is to be worked again; for one to be worked also
        #   +compatibility+ ({value, why, delayed}), +variety+, +unpermitted+ (protected, with no permission recorded),
        #   +length_mm+, +cut_mm+, +conflict+ (limits without a place to cut), +stock_then_mm+, +stock_now_mm+,
        #   +overdue+ (its season is over); and of any that stands on wood to be cut off +comes_off+: +with+ (the tag of
        #   the limb that is cut below it), +cut_mm+ (nil where all of that one comes off) and +season+; of one whose
        #   top is not to come off yet +waits_for+: +branch+ (the tag of the one that takes over) and its +state+, as
        #   TopOff has it
        # @param nurses_wanted [Integer] by the school
        # @param cap [Float, nil] the most of the head one season may take
        # @param removed [Hash{Integer=>Float}] share of the head taken, by season
        # @param vigour [Hash, nil] the vigour reckoning's answer for the season that is driven hardest
        # @param trained [Boolean] a tree trained to a wall
        # @param few [Boolean] the school keeps to few varieties on a tree
        # @param wounds [Array<Hash>] where the trunk was stripped: +share+ of the girth, the +course+ that is taken,
        #   and +state+ as the mending reckoning has it
        # @param stretches [Array<Hash>] bare stretches to be filled that stand on wood to be cut off: +limb+ (the id
        #   of the one they are on), +tag+ and +comes_off+, as a limb has it
        # @return [Array<Hash>] +code+, +limb+ (an id, or nil for the whole tree) and figures
        def of(limbs:, nurses_wanted:, cap:, removed:, vigour:, few: false, trained: false, wounds: [],
               stretches: [], rulebook: Rulebook.shipped)
          decided = limbs.select { |each| each[:role] }
          stripped = stripped(wounds, limbs, rulebook)
          return stripped if decided.empty?

          found = stripped + whole(limbs, decided, nurses_wanted) + cap_faults(cap, removed, limbs)
          found.concat(driven(vigour, limbs, rulebook))
          found.concat(decided.flat_map { |limb| about(limb, rulebook) }, comes_off(limbs), stretches_off(stretches),
                       lifts_waiting(decided), family(limbs, few, rulebook), arms(limbs, trained))
          found.sort_by.with_index { |fault, place| [ORDER.index(fault[:code]), place] }
        end

        # A trunk with half its bark gone feeds its roots through what bridges carry: until they do, every leaf is
        # wanted.
        #
        # @return [Array<Hash>] one fault, or none
        def stripped(wounds, limbs, rulebook)
          return [] if limbs.all? { |each| each[:gone] || each[:grafted] }

          mending = Repair::Mending
          open = wounds.select do |each|
            mending::BRIDGED.include?(each[:course]) && !mending.settled?(each[:state])
          end
          share = open.map { |each| each[:share] }.max
          return [] unless share && Near.at_least?(share, rulebook.value("reckoning.bridge.needed"))

          [{ code: "plan_trunk_bare", limb: nil, share: share }]
        end

        # What the roots would make of it.
        VIGOUR = { "vigour_keep_more" => "plan_long_shoots", "vigour_overtopped" => "plan_overtopped",
                   "vigour_nurse_too_strong" => "plan_nurse_too_strong" }.freeze
        private_constant :VIGOUR

        # What stands above grafts, and what feeds them, matters once there are some.
        def driven(vigour, limbs, rulebook)
          return [] if limbs.none? { |each| each[:grafted] || WORKED.include?(each[:role]) }

          (vigour ? vigour[:reasons] : []).filter_map do |reason|
            code = VIGOUR[reason[:code]]
            code && { code: code, limb: nil, long_mm: rulebook.value("reckoning.vigour.long_shoot"),
                      **reason.slice(:shoot_mm, :above, :largest_kept) }
          end
        end

        # Several varieties on one tree: strong ones belong low, where they are easily checked, weak ones high in the
        # sun.
        def family(limbs, few, rulebook)
          kinds = limbs.reject { |each| each[:gone] }.select { |each| each[:variety] && each[:height_mm] }
          found = few ? many(kinds.map { |each| each[:variety] }.uniq.size, rulebook) : []
          return found unless kinds.map { |each| each[:variety_vigour] }.uniq.size > 1

          middle = kinds.sum { |each| each[:height_mm] } / kinds.size.to_f
          found + kinds.filter_map { |limb| misplaced(limb, middle) }
        end

        def many(count, rulebook)
          most = rulebook.value("reckoning.pace.varieties_few")
          count > most ? [{ code: "plan_many_varieties", limb: nil, count: count, most: most }] : []
        end

        def misplaced(limb, middle)
          high = limb[:height_mm] > middle + Near::TOLERANCE
          code = { ["strong", true] => "plan_strong_high", ["weak", false] => "plan_weak_low" }[
            [limb[:variety_vigour], high]]
          code && { code: code, limb: limb[:id], tag: limb[:tag], variety: limb[:variety] }
        end

        # Half of a wall-trained tree's arms in a season: the others feed it and keep the wall green.
        def arms(limbs, trained)
          main = limbs.reject { |each| each[:gone] || each[:parent] }
          return [] unless trained && main.size > 1

          main.select { |each| WORKED.include?(each[:role]) && !each[:grafted] }.group_by { |each| each[:season] }
            .select { |_, all| all.size * 2 > main.size }
            .map { |season, all| { code: "plan_all_arms", limb: nil, season: season, arms: all.size, of: main.size } }
        end

        def whole(limbs, decided, nurses_wanted)
          standing = limbs.reject { |each| each[:gone] }
          worked = decided.select { |each| WORKED.include?(each[:role]) || each[:grafted] }
          if standing.any? && standing.all? { |each| each[:role] == "lift" && !each[:above] }
            return [{ code: "plan_all_lifted", limb: nil, tags: standing.map { |each| each[:tag] } }]
          end
          return [{ code: "plan_nothing_worked", limb: nil }] if worked.empty?

          only(standing) || nurses(standing, nurses_wanted)
        end

        # The only limb of a tree, to be worked and not grafted yet.
        def only(standing)
          one = standing.first
          return nil unless standing.one? && !one[:grafted] && WORKED.include?(one[:role])

          [{ code: "plan_only_limb", limb: one[:id], tag: one[:tag] }]
        end

        # Too few nurses, where a limb that still has its head could be one.
        def nurses(standing, wanted)
          return [] if standing.all? { |each| each[:grafted] || each[:role] == "nurse" }

          kept = standing.reject { |each| %w[work later backup lift renew].include?(each[:role]) }
          have = standing.count { |each| each[:role] == "nurse" }
          have < wanted && kept.size < wanted ? [{ code: "plan_no_nurse", limb: nil, wanted: wanted, have: have }] : []
        end

        def cap_faults(cap, removed, limbs)
          return [] unless cap

          removed.reject { |_, share| Near.at_most?(share, cap) }.map do |season, share|
            one = limbs.find { |each| WORKED.include?(each[:role]) && each[:season] == season &&
                               !Near.at_most?(each[:share], cap) }
            { code: "plan_over_cap", limb: one&.fetch(:id), tag: one&.fetch(:tag), season: season,
              share: one ? one[:share] : share, cap: cap }
          end
        end

        def about(limb, rulebook)
          named = { limb: limb[:id], tag: limb[:tag] }
          return [{ code: "plan_limb_gone", **named }] if limb[:gone] && !limb[:grafted] && WORKED.include?(limb[:role])
          return [] if limb[:gone] || (limb[:grafted] && !limb[:again]) || !WORKED.include?(limb[:role])

          kin(limb, named) + place(limb, named, rulebook) +
            (limb[:overdue] ? [{ code: "plan_overdue", **named, season: limb[:season] }] : [])
        end

        # What is to be worked, or lives there, on wood that is to be cut off; a nurse, where that is before any graft
        # that it could feed.
        def comes_off(limbs)
          first = limbs.filter_map { |each| each[:season] if WORKED.include?(each[:role]) && !each[:grafted] }.min
          limbs.select { |each| each[:comes_off] && !each[:gone] && lost_with?(each, first) }
            .map { |each| { code: "plan_comes_off", limb: each[:id], tag: each[:tag], **each[:comes_off] } }
        end

        # A top comes off once what takes over below it lives and grows.
        def lifts_waiting(limbs)
          limbs.select { |each| each[:waits_for] && !each[:gone] }.map do |each|
            { code: "plan_lift_waits", limb: each[:id], tag: each[:tag], season: each[:season], **each[:waits_for] }
          end
        end

        def stretches_off(stretches)
          stretches.map do |each|
            { code: "plan_comes_off", limb: each[:limb], tag: each[:tag], stretch: true, **each[:comes_off] }
          end
        end

        def lost_with?(limb, first)
          return true if limb[:grafted] || WORKED.include?(limb[:role])

          limb[:role] == "nurse" && limb[:comes_off][:season].to_i <= first.to_i
        end

        # Whether a place lies beyond the end of its limb as that stands: one that was sawn there beforehand ends at it.
        #
        # @param cut_mm [Numeric] from the fork
        def beyond?(cut_mm, length_mm, rulebook)
          !Near.at_most?(cut_mm.to_f, length_mm.to_f + rulebook.value("reckoning.cut.as_sawn"))
        end

        def kin(limb, named)
          pair = limb[:compatibility]
          found = []
          if pair && pair["value"] == "refused"
            found << { code: "plan_refused", **named, variety: limb[:variety], why: pair["why"] }
          end
          if pair && pair["value"] == "doubtful"
            found << { code: "plan_doubtful", **named, variety: limb[:variety], why: pair["why"],
                       delayed: pair["delayed"] }
          end
          if pair && pair["value"] == "workable" && pair["delayed"]
            found << { code: "plan_delayed", **named, variety: limb[:variety], delayed: pair["delayed"] }
          end
          found << { code: "plan_protected", **named, variety: limb[:variety] } if limb[:unpermitted]
          found
        end

        def place(limb, named, rulebook)
          unless limb[:cut_mm]
            return limb[:conflict].to_a.any? ? [{ code: "plan_no_cut", **named, conflict: limb[:conflict] }] : []
          end
          if beyond?(limb[:cut_mm], limb[:length_mm], rulebook)
            return [{ code: "plan_cut_beyond", **named, cut_mm: limb[:cut_mm], length_mm: limb[:length_mm] }]
          end

          was, is = limb.values_at(:stock_then_mm, :stock_now_mm)
          return [] unless was && is && (is - was).abs > was * rulebook.value("reckoning.pace.measured_anew")

          [{ code: "plan_measured_anew", **named, was_mm: was, now_mm: is }]
        end
        private_class_method :whole, :only, :nurses, :many, :driven, :family, :misplaced, :arms, :cap_faults, :about,
                             :kin, :place, :comes_off, :stretches_off, :lifts_waiting, :lost_with?
      end
    end
  end
end
