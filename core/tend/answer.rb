# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # What a visit means and what to do: the answer given at the tree.
      module Answer
        module_function

        # @param seen [Hash] the latest visit, as care takes it
        # @param care [Hash] what care says with it
        # @param patience_on [Date]
        # @param slip [Hash] +slips+ (bark lifts now), +ahead+ (it will, this season), +sticks+ (of its variety at hand)
        # @param regraft_until [Date] the last sensible day for another graft
        # @param budding [Range<Date>] in which its regrowth can be budded
        # @param planned [Integer, nil] the season for which its limb is decided to be worked again
        # @param safe_mm [Float, nil] how long its shoot may be unbraced
        # @return [Array<Hash>] reasons, what it means first
        def of(seen, care:, patience_on:, slip:, regraft_until:, budding:, today:, planned: nil, safe_mm: nil)
          if care[:state] == "failed"
            return [planned ? { code: "answer_planned", season: planned } : dead(slip, regraft_until, budding, today)]
          end

          [meaning(seen, care, patience_on, today), *asides(seen, care, safe_mm)].compact
        end

        def meaning(seen, care, patience_on, today)
          case care[:state]
          when "false-start" then { code: "answer_false_start", knit_on: care[:knit_on] }
          when "growing" then { code: seen[:snapped] ? "answer_snapped" : "answer_growing" }
          when "knitting" then { code: "answer_knitting", knit_on: care[:knit_on], share: care[:knit_share] }
          when "callused" then { code: "answer_callused" }
          when "sleeping" then { code: "answer_sleeping" }
          else still(seen, patience_on, today)
          end
        end

        def still(seen, patience_on, today)
          return { code: "answer_swelling" } if seen[:buds] == "swelling"

          today < patience_on ? { code: "answer_wait", until: patience_on } : { code: "answer_open_it" }
        end

        def dead(slip, regraft_until, budding, today)
          return { code: "answer_this_spring" } if slip[:ahead]

          if slip[:slips] && today <= regraft_until
            return { code: slip[:sticks].positive? ? "answer_regraft_now" : "answer_regraft_no_wood",
                     until: regraft_until, sticks: slip[:sticks], from: budding.begin }
          end

          { code: today <= budding.end ? "answer_bud" : "answer_spring", from: [budding.begin, today].max,
            until: budding.end }
        end

        def asides(seen, care, safe_mm)
          open = care[:tasks].select { |task| %w[open late].include?(task[:status]) }.map { |task| task[:rule] }
          long = safe_mm && (seen[:longest_shoot_mm] || 0) > safe_mm
          [*mended(seen), *uncovered(open), ("answer_shorten" if long), ("answer_choose" if open.include?("choose")),
           ("answer_brace" if open.include?("brace") && !long), *cleaned(seen, open)].compact
            .map { |code| { code: code, mm: safe_mm } }
        end

        def mended(seen)
          [("answer_reseal" if %w[cracked gone].include?(seen[:seal])), ("answer_slit" if seen[:wrap] == "biting"),
           ("answer_rewrap" if seen[:wrap] == "loose")]
        end

        def uncovered(open)
          [("answer_light" if open.include?("let-light-in")), ("answer_uncover" if open.include?("uncover"))]
        end

        def cleaned(seen, open)
          [("answer_stock" if seen[:stock_shoots] == "many"),
           ("answer_pests" if seen[:pests] && seen[:pests] != "none"),
           ("answer_fruit" if seen[:fruit] && open.include?("fruit-off"))]
        end
        private_class_method :meaning, :still, :dead, :asides, :mended, :uncovered, :cleaned
      end
    end
  end
end
