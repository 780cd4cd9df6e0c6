# frozen_string_literal: true

module Vestry
  module Web
    module Sentences
      # Words for what a visit means, why something may have failed, and what nurses are for.
      module Tending
        def say_answer_false_start(r)
          "Still on probation: buds moved before callus can have knit (about #{day(r[:knit_on])}), and leaves alone " \
          "prove nothing. Callus does, or a shoot a hand long at two looks " \
          "#{book_words('care.figures.probation')} apart. Shade it, close every opening, cut nothing off, and look " \
          "again within a week."
        end
        def say_answer_knitting(r)
          "Not knit yet#{r[:share] ? " by its temperatures (#{percent(r[:share])} of the way)" : ''}: leave it " \
          "closed until about #{day(r[:knit_on])}."
        end
        def say_answer_wait(r) = "It should have knit, and nothing moves yet. Patience until #{day(r[:until])}."
        def say_answer_swelling(_) = "It is moving at the right time. Leave it alone for another week."
        def say_answer_swelling_late(_)
          "It moves, though late. Leave it alone for another week, and see whether it grows on."
        end

        def say_answer_grows_on(_)
          "It was seen to move: see now whether it grows on. Leaves or a shoot, and it has taken; stopped or dried, " \
          "look for callus."
        end
        def say_answer_asleep(_)
          "It sleeps with its tree and was not seen to take. Scratch it where that must be known now: green and " \
          "moist, it lives; brown and dry, it is dead. Spring shows it."
        end
        def say_answer_unjudged(_)
          "A spring has come since, and nobody has seen that it took. Leaves or shoots from it, and it lives; dry, " \
          "loose or black, it failed. Say which."
        end

        def say_answer_callused(_)
          "It has knit and sleeps. Close it again as it was and look every fortnight; it stays until the leaves " \
          "fall. From the tenth week set a bud into its regrowth as insurance."
        end
        def say_answer_side_callused(_)
          "It has knit and sleeps. Leave it bound and look every fortnight; it stays until the leaves fall."
        end
        def say_answer_side_late(_)
          "Late. Leave it bound and scratch the stick: green and moist, it lives and is waited for; brown and dry, " \
          "it is dead."
        end
        def say_answer_bud_knitting(r)
          "Not knit yet: leave it tied, and touch its leaf stalk about #{day(r[:knit_on])}."
        end
        def say_answer_bud_unseen(_)
          "A bud that lives sleeps until spring. While its leaf stalk is on, touch it: it falls and the bud is " \
          "plump, alive; dry and clinging, dead. After leaf fall it shows when buds swell."
        end
        def say_answer_bud_early(_)
          "It moves before its spring. Leave the stock above it on; callus, or a shoot a hand long, shows that it " \
          "lives."
        end
        def say_answer_bud_wakes(_) = "It wakes: head the stock above it now, if that is not done."
        def say_answer_bud_slow(_)
          "It should wake now. Head the stock above it, if that is not done: a plump bud is waited for, a brown and " \
          "shrunken one is dead."
        end
        def say_answer_approach_knitting(r)
          "Not knit yet: leave it tied until about #{day(r[:knit_on])}, and keep the donor watered."
        end
        def say_answer_approach_wait(_)
          "Its leaves prove nothing, for the donor's root feeds them: look for callus along both sides, and keep the " \
          "donor watered."
        end
        def say_answer_approach_late(_)
          "Late, with no callus to be seen: see whether the faces still touch. Where they do not, part them, and " \
          "join fresh faces a little higher."
        end
        def say_answer_joining(_)
          "Callus shows. Keep it tied and the donor watered: it is cut half through when callus is all round and " \
          "#{book_words('care.figures.approach_days')} are over."
        end
        def say_answer_parted(_)
          "Its donor is off. Leaves that stay fresh for #{book_words('care.figures.probation')} show that it lives " \
          "from the stock."
        end
        def say_answer_joined(_)
          "It has joined. The donor is cut half through, a week later off, and then the stock above it, as its " \
          "tasks say."
        end
        def say_answer_sleeping(_)
          "The bud has knit and lives. It sleeps until spring: its tie comes off, and the stock is headed above it " \
          "as it swells."
        end
        def say_answer_open_it(_)
          "Late. Open the wrap on one side: callus and plump bark, close it and wait; none and dry, it is dead."
        end
        def say_answer_limb(_) = "It has taken, and carries itself as a limb: a look a year is enough."
        def say_answer_growing(_) = "It has taken. From now on wind takes more than failure does."
        def say_answer_snapped(_)
          "The stick lives, so this is no failure: cut the snapped shoot to a sound bud above the union, and go on."
        end
        def say_answer_regraft_now(r)
          "#{gone(r)}. #{while_it_can(r)} and there #{r[:sticks] == 1 ? 'is one stick' : "are #{r[:sticks]} sticks"} " \
          "of it left#{also_lost(r)}: regraft now, a little lower. After that day: bud its regrowth from " \
            "#{day(r[:from])}."
        end
        # Until when it can be made again, and why until then.
        def while_it_can(r)
          r[:at_rest] ? "Another like it can be set until about #{day(r[:until])}" :
            "Bark slips until about #{day(r[:until])}"
        end
        def say_answer_regraft_no_wood(r)
          "#{gone(r)}. There is time for another graft until #{day(r[:until])}, but #{no_stick(r)}: another " \
          "variety's, or bud its regrowth from #{day(r[:from])}."
        end
        def say_answer_regraft_soon(r)
          "#{gone(r)}. #{once_it_can(r)}; until #{day(r[:until])} it can be grafted again, a little lower: " \
            "#{sticks_left(r)}."
        end
        def sticks_left(r)
          return "#{no_stick(r)}, take another variety's" unless r[:sticks].positive?

          "#{r[:sticks] == 1 ? 'one stick of it is left' : "#{r[:sticks]} sticks of it are left"}#{also_lost(r)}"
        end
        # Who else is told of the same sticks.
        def also_lost(r)
          ", which #{listed_some(r[:also], 3)} #{r[:also].size == 1 ? 'wants' : 'want'} too" if r[:also]
        end
        def once_it_can(r) = "#{r[:at_rest] ? 'Another like it can be set' : 'Its bark slips'} #{from_about(r)}"
        def from_about(r) = r[:opens] ? "from about #{day(r[:opens])}" : "later this spring"
        def no_stick(r)
          r[:wanted] ? "all its sticks are wanted by stubs that wait" : "no stick of it is left"
        end
        def bud_days(r) = r[:from] ? "between #{day(r[:from])} and #{day(r[:until])}" : "by #{day(r[:until])}"
        def say_answer_bud(r)
          days = bud_days(r)
          "#{gone(r)}, and the days for another like it are over this season: where it throws shoots, keep two or " \
          "three and bud them #{days}, or plan it for spring."
        end
        def say_answer_no_room(r)
          buds = r[:until] ? bud_days(r) : "when their buds are ripe next summer"
          "#{gone(r)}, and its stub is too near the fork to be cut again: where it throws shoots, keep two or three " \
          "and bud them #{buds}, or decide under Plan what else becomes of the limb."
        end
        def say_answer_this_spring(r)
          "#{gone(r)}. Plan it again for spring, a little lower, with #{wood_of_season(r)}."
        end
        def wood_of_season(r) = r[:leafy] ? "leafy wood that is cut on the day" : "wood that is cut while it sleeps"
        def say_answer_beside_now(r)
          "#{gone(r)}. #{while_it_can(r)} and there #{r[:sticks] == 1 ? 'is one stick' : "are #{r[:sticks]} sticks"} " \
          "of it left#{also_lost(r)}: set another a hand's breadth beside it, into fresh bark."
        end
        def say_answer_beside_no_wood(r)
          "#{gone(r)}. There is time for another beside it until #{day(r[:until])}, but #{no_stick(r)}: another " \
          "variety's, or plan it for spring."
        end
        def say_answer_beside_soon(r)
          "#{gone(r)}. #{once_it_can(r)}; until #{day(r[:until])} another can be set beside it: #{sticks_left(r)}."
        end
        def say_answer_beside_spring(r) = "#{gone(r)}. Plan another beside it for spring, with #{wood_of_season(r)}."
        def say_answer_beside_later(r)
          "#{gone(r)}, and the days for another like it are over this season: plan one beside it for spring, and " \
          "cut wood for it in winter."
        end
        def say_answer_rejoin_now(r)
          "#{gone(r)}. If its donor lives, part the two and join fresh faces a little higher by " \
          "#{day(r[:until])}; else plan it for spring with another plant."
        end
        def say_answer_rejoin_soon(r)
          "#{gone(r)}. #{once_it_can(r)}: join it again then, with a donor that is well rooted, by " \
          "#{day(r[:until])}."
        end
        def say_answer_rejoin_spring(r)
          "#{gone(r)}. Plan it again for spring, with a donor that is well rooted by then."
        end
        def say_answer_rebud(r)
          "#{gone(r)}. Set another bud into the same shoot, on its other side, or into another shoot, by " \
            "#{day(r[:until])}."
        end
        def say_answer_rebud_later(r)
          "#{gone(r)}. Keep the shoot, and bud it again between #{day(r[:from])} and #{day(r[:until])}."
        end
        def say_answer_rebud_next(r)
          "#{gone(r)}, and too late for another bud this season: keep the shoot, and bud it again next summer."
        end
        def say_answer_mate(r)
          "#{gone(r)}, but #{r[:variety]} of #{day(r[:on])} stands on the same stub: take the dead sticks out, and " \
            "cut nothing back."
        end
        def say_answer_followed(r) = "#{gone(r)}. The limb was grafted again on #{day(r[:on])}, with #{r[:variety]}."
        def say_answer_decided(r) = "#{gone(r)}. The limb #{say_unworked(r)}."
        def say_answer_planned(r) = "#{gone(r)}. It is planned again for #{r[:season]}."
        def say_answer_missed(r)
          bud = ", or bud its regrowth #{bud_days(r)}" if r[:until]
          "#{gone(r)}. It was planned again for #{r[:season]}, and its last sensible day is over: move it to " \
          "#{r[:to]} under Plan#{bud}."
        end
        def say_answer_spring(r)
          "#{gone(r)}, and too late even for a bud: plan it again for spring, and cut wood for it in winter."
        end
        def say_answer_reseal(_) = "Mend the seal today: a stick dries through a crack in days."
        def say_answer_slit(_) = "The wrap bites: slit it lengthwise on the side away from the stick, today."
        def say_answer_untie(_)
          "The tie bites: cut it on the side away from what was set, today; where it has not knit yet, tie it again."
        end
        def say_answer_rewrap(_) = "Bind it again without moving the stick."
        def say_answer_light(_) = "Let light in, a little more at each visit, on dull days first."
        def say_answer_free_buds(_) = "Slit the film over a bud that pushes under it and does not come through."
        def say_answer_uncover(_) = "Take the cover off on a dull day."
        def say_answer_shorten(r)
          "About #{safe_length(r[:mm])} of shoot is safe in this site's gusts at its age: brace it, or shorten it to " \
          "that."
        end
        def say_answer_tie(r)
          "Only #{safe_length(r[:mm])} of shoot is safe in this site's gusts at its age, and less than a hand does " \
          "not feed itself: brace it."
        end
        def say_answer_choose(_) = "Choose the strongest well-placed shoot on each stick, and pinch its rivals."
        def say_answer_brace(_) = "Brace it: tie the strongest shoot in two places."
        def say_answer_stock(_) = "Rub off the stock shoots; follow each to where it leaves the wood."
        def say_answer_pests(_) = "Squash or wash off what eats the tips. Sprays only by their label and local law."
        def say_answer_fruit(_) = "Take the fruit off: the union is too young for it."

        CIRCUMSTANCES = { "several-sticks" => "several sticks on the stub",
                          "time-left" => "while there is time for another graft",
                          "planned-again" => "until its limb is decided again",
                          "room" => { "yes" => "where its stub can be cut lower",
                                      "no" => "where its stub is too near the fork to be cut again" },
                          "head-off" => { "yes" => "where the head above it is off",
                                          "no" => "while the head stands above it" },
                          "on-donor" => "while its donor stands",
                          "first-summer" => "in its first summer",
                          "slit" => "where its tie was not slit",
                          "moving" => { "yes" => "where its buds move", "no" => "where none of its buds moves" },
                          "too-young" => "while the union is too young for fruit",
                          "braced" => { "yes" => "where it is braced", "no" => "where it is not braced" },
                          "trained" => "where it is trained to a wall",
                          "kind" => { "stub" => "on a stub", "side" => "in the side of what stays", "bud" => "a bud",
                                      "approach" => "joined to a rooted plant" },
                          "filled" => "not in a bare stretch", "evergreen" => "on a kind that keeps its leaves",
                          "dead" => { "yes" => "where one has died", "no" => "where none has died" },
                          "half" => "where half the girth or more is bare",
                          "in-leaf" => { "yes" => "found in leaf, before autumn", "no" => "found out of leaf" } }.freeze

        # When a rule of care asks for its task, in a few words.
        #
        # @param rule [Hash] as it stands in the rulebook
        def say_rule_days(rule)
          event = event_words(rule["waits-for"] || rule["after"])
          opens, closes = rule.values_at("opens", "closes").map do |days|
            days.zero? ? "the day" : "#{counted(days.abs, 'day')} #{days.negative? ? 'before' : 'after'}"
          end
          opens = opens.delete_suffix(" after") if closes.end_with?(" after")
          ["from #{opens} to #{closes} #{event}", *say_rule_rounds(rule),
           *rule["by"]&.then { |name| "until #{event_words(name)} at the latest" }, *say_rule_unless(rule)].join(", ")
        end

        def say_rule_unless(rule)
          titles = (rule["unless"] || []).map { |name| Core::Rulebook.shipped.task(name)["title"].downcase }.uniq
          "not where “#{titles.join('” or “')}” asks for it" if titles.any?
        end

        # How often it comes again, and until when.
        def say_rule_rounds(rule)
          last = rule["until"]&.then { |name| " until #{event_words(name)}" }
          return "every #{counted(rule['every'], 'day')}#{last}" if rule["every"]

          return unless rule["yearly"]

          "every year#{last || rule['years']&.then { |years| " for #{counted(years, 'year')}" }}" \
            "#{' until it is done' if rule['once']}"
        end
        private :say_rule_rounds, :say_rule_unless

        # What a rule is limited to, in a few words.
        def say_limit_to(point, choices)
          known = CIRCUMSTANCES[point]
          return known if known.is_a?(String)
          return choices.map { |choice| known[choice] }.join(" or ") if known
          return choices.map { |choice| say_course(choice) }.join(" or ") if point == "course"
          return choices.map { |choice| Repairs::CAUSES[choice] }.join(" or ") if point == "cause"

          choices.map { |choice| choice_name(point, choice) }.join(" or ")
        end

        def cause_name(cause) = Core::Rulebook.shipped.book("cause").dig("causes", cause, "name")
        def loss_name(cause) = Core::Rulebook.shipped.book("cause").dig("losses", cause, "name")

        # How it ended, where somebody said so.
        def gone(r) = Core::Rulebook.shipped.book("cause").dig("losses", r[:lost], "gone") || "Dead"

        # A sign with its figures.
        def say_sign(sign)
          words = Core::Rulebook.shipped.book("cause").dig("signs", sign[:sign], "why")
          words = words.delete_suffix(".")
          figures = [(short_day(sign[:on]) if sign[:on]), (percent(sign[:share]) if sign[:share]),
                     (counted(sign[:days], "day") + " behind" if sign[:days]),
                     (degree_hours(sign[:hours]) if sign[:hours]),
                     ("#{sign[:failed]} failed, #{sign[:took]} took" if sign[:failed]),
                     ("#{sign[:took]} took" if sign[:took] && !sign[:failed])].compact
          "#{words}#{" (#{figures.join(', ')})" if figures.any?}."
        end

        # How sure, in a word: never more than the evidence.
        def say_likely(share)
          return "most likely" if share >= 0.5

          share >= 0.3 ? "likely" : "possible"
        end

        def say_nurse(nurse)
          held = nurse.reasons.reject { |reason| reason[:code] == "nurse_#{nurse.action}" }
          # What weighs most is enough to say.
          held = held.sort_by.with_index { |reason, i| [reason[:code] == "nurse_no_stub" ? 0 : 1, i] }.first(2)
          [say(code: "nurse_#{nurse.action}"), *held.map { |reason| say(reason) }].join(" ")
        end

        def say_nurse_off(_) = "Take it off now, while the tree rests or in dry weather."
        def say_nurse_shorten(_)
          "Shorten it by about #{percent(orchard.rulebook.value('reckoning.nurse.shorten'))}, in leaf and on a dry " \
            "day, so that the grafts get the light."
        end
        def say_nurse_shortened(_) = "It was shortened already."
        def say_nurse_keep(_) = "Keep it: it feeds the roots."
        def say_nurse_no_stub(_) = "No graft of this tree lives yet."
        def say_nurse_worked_later(_) = "It is to be worked itself."
        def say_nurse_waiting(r)
          "#{counted_are(r[:stubs], 'limb')} still to be worked or to take."
        end
        def say_nurse_dead(r)
          "#{counted(r[:stubs], 'graft')} died and #{r[:stubs] == 1 ? 'is' : 'are'} to be made again."
        end
        def say_nurse_young(r) = "It is to stand for #{counted(r[:seasons].ceil, 'season')} after the latest graft."
        def say_nurse_open(r) = "The least closed stub is #{percent(r[:closed])} closed."
        def say_nurse_little_leaf(r)
          "Without it #{percent(r[:kept])} of the head would feed the roots; #{percent(r[:wanted])} is enough."
        end
      end
    end
  end
end
