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
        # @param slip [Hash] +slips+ (bark lifts now), +closes_on+, +sticks+ (of its variety at hand)
        # @return [Array<Hash>] reasons, what it means first
        def of(seen, care:, patience_on:, slip:, last_regraft_on:, bud_from:, today:, rulebook: Rulebook.shipped)
          bud_until = bud_from + rulebook.task("regraft-bud")["closes"]
          [meaning(seen, care, patience_on, slip, last_regraft_on, bud_from..bud_until, today),
           *asides(seen, care, rulebook.value("care.figures.shorten"))].compact
        end

        def meaning(seen, care, patience_on, slip, last_regraft_on, budding, today)
          case care[:state]
          when "failed" then dead(slip, last_regraft_on, budding, today)
          when "false-start" then { code: "answer_false_start", knit_on: care[:knit_on] }
          when "growing" then { code: seen[:snapped] ? "answer_snapped" : "answer_growing" }
          when "knitting" then { code: "answer_knitting", knit_on: care[:knit_on], share: care[:knit_share] }
          else still(seen, patience_on, today)
          end
        end

        def still(seen, patience_on, today)
          return { code: "answer_rewrap_wait" } if %w[some full].include?(seen[:callus])
          return { code: "answer_swelling" } if seen[:buds] == "swelling"

          today < patience_on ? { code: "answer_wait", until: patience_on } : { code: "answer_open_it" }
        end

        def dead(slip, last_regraft_on, budding, today)
          if slip[:slips] && today <= last_regraft_on && slip[:sticks].positive?
            return { code: "answer_regraft_now", until: [slip[:closes_on], last_regraft_on].min, sticks: slip[:sticks] }
          end
          if slip[:slips] && today <= last_regraft_on
            return { code: "answer_regraft_no_wood", until: [slip[:closes_on], last_regraft_on].min }
          end

          { code: today <= budding.end ? "answer_bud" : "answer_spring", from: budding.begin }
        end

        def asides(seen, care, long)
          open = care[:tasks].select { |task| %w[open late].include?(task[:status]) }.map { |task| task[:rule] }
          [("answer_reseal" if %w[cracked gone].include?(seen[:seal])), ("answer_slit" if seen[:wrap] == "biting"),
           ("answer_rewrap" if seen[:wrap] == "loose"), ("answer_light" if open.include?("let-light-in")),
           ("answer_uncover" if open.include?("uncover")), ("answer_shorten" if (seen[:longest_shoot_mm] || 0) >= long),
           ("answer_choose" if open.include?("choose")), ("answer_brace" if open.include?("brace")),
           ("answer_stock" if seen[:stock_shoots] == "many"),
           ("answer_pests" if seen[:pests] && seen[:pests] != "none"),
           ("answer_fruit" if seen[:fruit] && open.include?("fruit-off"))].compact
             .map { |code| { code: code, mm: long } }
        end
        private_class_method :meaning, :still, :dead, :asides
      end
    end
  end
end
