# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # What a visit means and what to do: the answer given at the tree.
      module Answer
        module_function

        # @param seen [Hash] the latest visit, as care takes it
        # @param care [Hash] what care says with it
        # @param slip [Hash] +slips+ (bark lifts now, or another like it is made without), +ahead+ (it will, this
        #   season) and perhaps +opens_on+; +at_rest+ (it needs no bark that slips); +sticks+ (of its variety, at
        #   hand and not wanted by stubs that wait), +wanted+ (there are some, and all are), +woken+ (none can be cut
        #   any more), +leafy+ (its wood is cut on the day) and perhaps +also+ (other limbs that lost a graft of it);
        #   +no_room+: its stub is too near the fork to be cut again
        # @param regraft_until [Date] the last sensible day for another graft
        # @param budding [Range<Date>] in which its regrowth can be budded, or a bud be set again
        # @param instead [Hash, nil] a reason: what stands in the place of one that was lost, or is decided for it
        # @param safe_mm [Float, nil] how long its shoot may be unbraced
        # @param hand_mm [Float] a shorter shoot is not shortened, for it does not feed itself yet
        # @param asleep [Boolean] whether the leaves have fallen since it was made, and none have come since
        # @param lost [String, nil] by what it was lost, where somebody said so
        # @return [Array<Hash>] reasons, what it means first
        def of(seen, care:, slip:, regraft_until:, budding:, today:, instead: nil, safe_mm: nil, hand_mm: 0,
               asleep: false, lost: nil)
          kind = care[:kind]
          if care[:state] == "failed"
            told = instead || dead(kind, slip, regraft_until, budding, today)
            return [lost ? { **told, lost: lost } : told]
          end

          [meaning(kind, seen, care, today, asleep), *asides(seen, care, safe_mm, hand_mm)].compact
        end

        def meaning(kind, seen, care, today, asleep)
          return growing(seen, care) if care[:state] == "growing"

          case kind
          when "bud" then of_bud(seen, care, today)
          when "approach" then of_approach(seen, care)
          else undecided(seen, care, today, asleep) || of_stick(kind, seen, care, today)
          end
        end

        def growing(seen, care)
          return { code: "answer_snapped" } if seen[:snapped]

          { code: care[:limb] ? "answer_limb" : "answer_growing" }
        end

        # Of one that should have knit, once what was to be waited for is past.
        def undecided(seen, care, today, asleep)
          return if care[:state] == "knitting"
          return { code: "answer_unjudged" } if begun?(care, "unjudged", today)
          return { code: "answer_asleep" } if asleep

          { code: "answer_grows_on" } if seen[:buds] == "swelling" && begun?(care, "moving-look", today)
        end

        # Whether a rule's days have come, be they over or not, and nothing answered it.
        def begun?(care, rule, today)
          care[:tasks].any? do |task|
            task[:rule] == rule && task[:opens_on] <= today && !%w[done waived].include?(task[:status])
          end
        end

        def of_stick(kind, seen, care, today)
          side = kind == "side"
          case care[:state]
          when "false-start" then { code: "answer_false_start", knit_on: care[:knit_on] }
          when "knitting" then { code: "answer_knitting", knit_on: care[:knit_on], share: care[:knit_share] }
          when "callused" then { code: side ? "answer_side_callused" : "answer_callused" }
          else
            return { code: swelling_code(care) } if seen[:buds] == "swelling"
            return { code: "answer_wait", until: care[:patience_on] } if today < care[:patience_on]

            { code: side ? "answer_side_late" : "answer_open_it" }
          end
        end

        def swelling_code(care) = care[:state] == "late" ? "answer_swelling_late" : "answer_swelling"

        # A bud sleeps until the spring after it was set.
        def of_bud(seen, care, today)
          woken = today >= care[:waking_on]
          { code: bud_code(GraftLife::MOVING.include?(seen[:buds]), care[:state], woken), knit_on: care[:knit_on] }
        end

        def bud_code(moving, state, woken)
          return woken ? "answer_bud_wakes" : "answer_bud_early" if moving
          return "answer_bud_slow" if woken

          { "sleeping" => "answer_sleeping", "knitting" => "answer_bud_knitting" }.fetch(state, "answer_bud_unseen")
        end

        # Whatever its leaves do, for they are fed by the donor's root: only callus tells.
        def of_approach(seen, care)
          { code: approach_code(seen, care), knit_on: care[:knit_on] }
        end

        def approach_code(seen, care)
          return "answer_joined" if (open_rules(care) & APPROACH_CUTS).any?
          return "answer_parted" if care[:parted_on]
          return "answer_approach_late" if care[:state] == "late" && seen[:callus] == "none"

          { "callused" => "answer_joining", "knitting" => "answer_approach_knitting" }
            .fetch(care[:state], "answer_approach_wait")
        end

        # What parts a joined plant from its donor.
        APPROACH_CUTS = %w[approach-half approach-off approach-head].freeze
        private_constant :APPROACH_CUTS

        # What becomes of a dead one: a stub is cut lower, another is set beside one in a side, a bud has its own days,
        # and a plant alongside is joined again.
        def dead(kind, slip, regraft_until, budding, today)
          return dead_bud(budding, today) if kind == "bud"
          return no_room(budding, today) if kind == "stub" && slip[:no_room]
          return { code: MADE_AGAIN.fetch(kind)["spring"], **slip.slice(:leafy) } if slip[:ahead] && !slip[:woken]

          if (slip[:slips] || slip[:ahead]) && today <= regraft_until
            return again(kind, slip, regraft_until).merge(from: budding.begin)
          end
          return { code: MADE_AGAIN.fetch(kind)["later"] } unless kind == "stub"

          { code: today <= budding.end ? "answer_bud" : "answer_spring", from: (budding.begin if today < budding.begin),
            until: budding.end }
        end

        # Its own shoots can be budded, this season or when their buds are ripe in the next.
        def no_room(budding, today)
          return { code: "answer_no_room" } if today > budding.end

          { code: "answer_no_room", from: (budding.begin if today < budding.begin), until: budding.end }
        end

        # While bark slips, or another like it can be made without, or soon will.
        def again(kind, slip, regraft_until)
          wood = kind == "approach" || slip[:sticks].positive?
          code = wood ? "now" : "no_wood"
          { code: MADE_AGAIN.fetch(kind)[slip[:slips] ? code : "soon"], until: regraft_until, sticks: slip[:sticks],
            opens: (slip[:opens_on] unless slip[:slips]), wanted: (slip[:wanted] unless wood),
            at_rest: slip[:at_rest], also: (slip[:also] if wood && kind != "approach") }.compact
        end

        MADE_AGAIN = { "stub" => { "spring" => "answer_this_spring", "now" => "answer_regraft_now",
                              "soon" => "answer_regraft_soon", "no_wood" => "answer_regraft_no_wood" },
                  "side" => { "spring" => "answer_beside_spring", "now" => "answer_beside_now",
                              "soon" => "answer_beside_soon", "no_wood" => "answer_beside_no_wood",
                              "later" => "answer_beside_later" },
                  "approach" => { "spring" => "answer_rejoin_spring", "now" => "answer_rejoin_now",
                                  "soon" => "answer_rejoin_soon", "later" => "answer_rejoin_spring" } }.freeze
        private_constant :MADE_AGAIN

        def dead_bud(budding, today)
          return { code: "answer_rebud_later", from: budding.begin, until: budding.end } if today < budding.begin

          { code: today <= budding.end ? "answer_rebud" : "answer_rebud_next", until: budding.end }
        end

        def open_rules(care)
          care[:tasks].select { |task| %w[open late].include?(task[:status]) }.map { |task| task[:rule] }
        end

        # What the last visit saw is answered as long as its task is open.
        def asides(seen, care, safe_mm, hand_mm)
          open = open_rules(care)
          long = too_long(seen, care, safe_mm, hand_mm)
          [*ASIDES.filter_map { |code, rules| code if (rules & open).any? }, *long,
           ("answer_choose" if open.include?("choose")),
           ("answer_brace" if open.include?("brace") && long.nil?), *cleaned(seen, open)].compact
            .map { |code| { code: code, mm: safe_mm } }
        end

        ASIDES = { "answer_reseal" => %w[reseal], "answer_slit" => %w[slit-now], "answer_untie" => %w[untie],
                   "answer_rewrap" => %w[rewrap], "answer_light" => %w[let-light-in],
                   "answer_free_buds" => %w[free-buds],
                   "answer_uncover" => %w[uncover] }.freeze
        # Those that ask for what a visit saw much of.
        STOCK = %w[stock-shoots-now stock-shoots stock-shoots-later stock-shoots-beside stock-shoots-parted
                   year-stock-shoots].freeze
        PESTS = %w[pests-treat aphids year-pests].freeze
        FRUIT = %w[fruit-off no-fruit].freeze
        private_constant :ASIDES, :STOCK, :PESTS, :FRUIT

        # A shoot that was seen longer than is safe, until it was shortened, where it is not braced; one below a hand
        # feeds nothing yet and is not cut.
        def too_long(seen, care, safe_mm, hand_mm)
          mm = seen[:longest_shoot_mm] || 0
          return unless safe_mm && mm > safe_mm && mm >= hand_mm
          return if care[:braced] || (care[:shortened_on] && seen[:on] && care[:shortened_on] >= seen[:on])

          safe_mm < hand_mm ? "answer_tie" : "answer_shorten"
        end

        def cleaned(seen, open)
          [("answer_stock" if seen[:stock_shoots] == "many" && (STOCK & open).any?),
           ("answer_pests" if seen[:pests] && seen[:pests] != "none" && (PESTS & open).any?),
           ("answer_fruit" if seen[:fruit] && (FRUIT & open).any?)]
        end
        private_class_method :meaning, :growing, :undecided, :begun?, :of_stick, :swelling_code, :of_bud, :bud_code,
                             :of_approach, :approach_code, :dead, :dead_bud, :open_rules, :asides, :too_long, :cleaned
      end
    end
  end
end
