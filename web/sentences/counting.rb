# frozen_string_literal: true

module Vestry
  module Web
    module Sentences
      # Words for what came of it: limbs, rates, and no more than the numbers bear.
      module Counting
        def say_scaffold_unmeasured(_) = "Its thickness was not measured yet."
        def say_scaffold_is_limb(r)
          "It is a limb: its own wood has #{percent(r[:share])} of the section it stands on."
        end
        def say_scaffold_grows(r)
          "Still a graft: its own wood has #{percent(r[:share])} of the section it stands on."
        end
        def say_scaffold_pinched(_) = "A waist shows at the union: brace it, and look whether tape bites."
        def say_scaffold_spread(r) = "Rises #{r[:angle_deg].round}°: spread it or tie it down this winter."
        def say_scaffold_lift(r)
          "Only #{r[:angle_deg].round}° above the level: prop it, or cut it back to an upward shoot."
        end
        def say_scaffold_thin(r)
          "#{r[:sticks]} sticks stand on the stub: keep the strongest at full length and shorten the others."
        end
        def say_scaffold_others_off(_) = "The stub has closed: the shortened sticks can come off."
        def say_scaffold_head_back(r)
          "Grew #{length(r[:growth_mm])}: shorten it by a third, so that it branches and stands."
        end

        # How a head stands round the compass, by the wood that stands today. Along a wall two sides are always bare.
        def say_balance(balance, tree)
          if balance[:leans]
            return "By the wood that stands, the head leans #{bearing(balance[:towards_deg])}: " \
                   "#{percent(balance[:lean])} out of balance."
          end
          return "By the wood that stands, the head is even along its wall." if tree.form == "wall-trained"

          bare = balance[:bare]
          return "By the wood that stands, the head is even round the compass." if bare.empty?
          return "What stands is the leader alone." if bare.size == 4

          "By the wood that stands, the head leans nowhere, but is bare to the #{listed(bare)}."
        end

        def say_took_too_few(r)
          few = r[:trials].zero? ? "Nothing was counted so far" :
            "Only #{r[:trials]} #{r[:trials] == 1 ? 'was' : 'were'} counted so far"
          if r[:kinds] > 1 && r[:trials] >= r[:least]
            few = "None of the #{number_word(r[:kinds]).downcase} was counted #{r[:least]} times yet"
          end
          "#{few}: from #{r[:least]} on the numbers begin to say something."
        end
        def say_took_one(r)
          "#{r[:takes]} of #{r[:trials]} took with #{r[:kind]}: the true rate lies between #{percent(r[:low])} " \
          "and #{percent(r[:high])}.#{' The others were counted too seldom to compare.' if r[:others]}"
        end
        def say_took_differ(r)
          "#{r[:best]} took more often (#{percent(r[:best_rate])}) than #{r[:worst]} (#{percent(r[:worst_rate])}), " \
          "by more than chance explains. Why is another question."
        end
        def say_took_alike(r)
          "The #{number_word(r[:kinds]).downcase} do not differ by more than chance would make them " \
          "on #{counted(r[:trials], 'count')}."
        end

        # How much of what is reckoned with is the orchard's own.
        def say_learned(lines)
          own = lines.count { |line| line[:used].start_with?("yes") }
          return "Every figure here is still the book's: visits, walks and counts teach the orchard's own." if own.zero?

          "#{counted(own, 'figure')} of this orchard's own #{own == 1 ? 'is' : 'are'} reckoned with."
        end

        # A kind against the others on like work, in a few words.
        def say_like(like)
          return "nothing like it was done otherwise" unless like && like[:strata].positive?
          return "none differed on like work" unless like[:difference]

          sign = ->(share) { "#{share.negative? ? '−' : '+'}#{percent(share.abs)}" }
          "#{sign[like[:difference]]}, between #{sign[like[:low]]} and #{sign[like[:high]]}" \
            "#{'; more than chance explains' if like[:stands]}"
        end

        # The season in which a stub shuts; nil where it does not.
        def closing_year(graft, closure)
          closure[:closes_in_season] && orchard.season.name_of(graft.grafted_on) + closure[:closes_in_season] - 1
        end

        # When a stub shuts, in words.
        def say_closing(graft, closure)
          closing_year(graft, closure)&.to_s || "not at this pace"
        end
      end
    end
  end
end
