# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # What a plan of TenYears comes to, by many futures of it, and the best that is found.
      class PlannedYears
        GROUP = "all"
        SEED = 1
        private_constant :GROUP, :SEED

        # @param shown [Hash] the exercise
        def initialize(shown, rulebook)
          @shown = shown
          @limbs = shown[:limbs].to_h { |limb| [limb[:id], limb] }
          @rulebook = rulebook
          @futures = {}
        end

        # @return [Float] difference of worth below which plans are the same
        def least = figure("least")

        # Limits that a plan passes, each a fault that nothing makes good: more of the head in a spring than roots bear,
        # more sticks than there are, the nurse gone before the grafts carry the tree.
        #
        # @param plan [Hash] +limbs+ (+id+, +spring+, +sticks+, +braced+) and +nurse_off+
        # @return [Array<Hash>] reasons
        def faults(plan)
          over = over_limits(plan)
          return over if over.any?

          from = nurse_from(plan)
          return [] if plan[:nurse_off] >= from

          [{ code: "practice_nurse_early", year: plan[:nurse_off], from: from,
             kept: @rulebook.value("reckoning.nurse.kept_after") }]
        end

        # The crop of a full head that it bears on the mean from the sixth year on, less what a nurse takes that stands
        # longer than it has to.
        #
        # @return [Float]
        def worth(plan, runs: figure("replays"))
          late = [plan[:nurse_off] - nurse_from(plan, runs: runs), 0].max
          crop(plan, runs) - late * figure("nurse_late")
        end

        # @return [Array<Hash>] +year+ and the crop's +p10+, +p50+, +p90+ and +mean+
        def fan(plan)
          futures(plan, figure("replays"))[:seasons].map { |season| { year: season[:season] + 1, **season[:crop] } }
        end

        # A plan without a thought: as late as can be, one stick each, none braced.
        def plain = search.seat(springs.to_a.reverse)

        # The best that is found: with the first sticks to the larger stubs, or that changed limb by limb for as long as
        # it is worth more.
        def best
          @best ||= [search.start, search.improved].map { |plan| settled(plan) }.max_by { |plan| worth(plan) }
        end

        # Which choices of a plan cost most, the rest of it as it is, the dearest first.
        #
        # @return [Array<Hash>] reasons with +limb+ where it is one's
        def costs(plan, best)
          before = worth(settled(plan))
          dear = differing(plan, best).filter_map do |reason, other|
            gain = allowed?(other) ? worth(settled(other)) - before : 0
            { **reason, share: gain } if gain > least
          end
          late = plan[:nurse_off] - nurse_from(plan)
          dear << { code: "practice_nurse_late", years: late, share: late * figure("nurse_late") } if late.positive?
          dear.sort_by { |reason| -reason[:share] }
        end

        # @return [Boolean] whether there is wood, are ties, and roots enough for it
        def allowed?(plan) = over_limits(plan).empty?

        # The same as worth, roughly and without the nurse, by which plans are compared that see the same luck.
        def roughly(plan) = crop(plan, figure("tries"))

        private

        def search = @search ||= PlansTried.new(@shown, self)

        def figure(name) = @rulebook.value("reckoning.practice_ten_years.#{name}")

        def crop(plan, runs)
          later = futures(plan, runs)[:seasons].drop(figure("from_year") - 1)
          later.sum { |season| season[:crop][:mean] } / later.size
        end

        def futures(plan, runs)
          @futures[[plan[:limbs], runs]] ||= Plan::Foresee.call(
            groups: [{ id: GROUP, mean: @shown[:take], strength: figure("strength") }], stubs: stubs(plan),
            seasons: @shown[:years], years: @shown[:past], runs: runs, seed: SEED, rulebook: @rulebook,
            regraft: { tries: @rulebook.value("reckoning.foresee.tries"),
                       takes_factor: @rulebook.value("reckoning.foresee.takes_factor") },
            wood: [{ id: GROUP, sticks: spare(plan), a_winter: @shown[:sticks_a_winter].to_f, gives: 0 }]
          )
        end

        def stubs(plan)
          in_order(plan).map do |choice|
            limb = @limbs.fetch(choice[:id])
            { id: choice[:id], group: GROUP, season: choice[:spring] - 1, share: limb[:share], stub_mm: limb[:stub_mm],
              sticks: choice[:sticks], wood: GROUP, minutes: minutes(choice), needs_slip: true,
              shoot_mm: shoot(plan, choice[:spring]), wind: wind(limb, choice[:braced]) }
          end
        end

        # The larger of a spring's limbs come first.
        def in_order(plan) = plan[:limbs].sort_by { |choice| [choice[:spring], -@limbs.fetch(choice[:id])[:share]] }

        def minutes(choice)
          (@shown[:minutes_a_stub] + @shown[:minutes_a_stick] * (choice[:sticks] - 1)).to_f
        end

        # What is kept drives what is grafted.
        def shoot(plan, spring)
          worked = plan[:limbs].select { |choice| choice[:spring] <= spring }
          kept = 1 - worked.sum { |choice| @limbs.fetch(choice[:id])[:share] }
          Plan::Vigour.call(kept: kept.clamp(0.0, 1.0), stubs: worked.size, rulebook: @rulebook)[:shoot_mm]
        end

        def wind(limb, braced)
          shares = @rulebook.value("reckoning.foresee.wind").fetch(braced ? "brace-strongest" : "brace-after-year")
          shares.map { |share| (share * figure(limb[:windy] ? "exposed" : "sheltered")).clamp(0.0, 0.9) }
        end

        def sticks_by(plan, spring) = plan[:limbs].sum { |each| each[:spring] <= spring ? each[:sticks] : 0 }
        def sticks_at_hand(spring) = @shown[:sticks] + (spring - 1) * @shown[:sticks_a_winter]
        def springs = 1..@shown[:springs]
        def spare(plan) = springs.map { |spring| sticks_at_hand(spring) - sticks_by(plan, spring) }.min.clamp(0, 1000)

        def over_limits(plan)
          springs.flat_map { |spring| too_much(plan, spring) + no_wood(plan, spring) } + too_many_braced(plan)
        end

        def too_much(plan, spring)
          share = plan[:limbs].sum { |each| each[:spring] == spring ? @limbs.fetch(each[:id])[:share] : 0 }
          return [] if Near.at_most?(share, @shown[:cap])

          [{ code: "practice_too_much", spring: spring, share: share, cap: @shown[:cap] }]
        end

        def no_wood(plan, spring)
          wanted = sticks_by(plan, spring)
          return [] if wanted <= sticks_at_hand(spring)

          [{ code: "practice_no_wood", spring: spring, wanted: wanted, have: sticks_at_hand(spring) }]
        end

        def too_many_braced(plan)
          braced = plan[:limbs].count { |each| each[:braced] }
          braced > @shown[:braces] ? [{ code: "practice_no_braces", wanted: braced, have: @shown[:braces] }] : []
        end

        # The year from which half of the futures carry enough of the head without the nurse.
        def nurse_from(plan, runs: figure("replays"))
          enough = @rulebook.value("reckoning.nurse.kept_after")
          last = plan[:limbs].map { |each| each[:spring] }.max
          carried = futures(plan, runs)[:seasons].find do |season|
            season[:season] + 1 >= last && Near.at_least?(season[:living][:p50], enough)
          end
          carried ? carried[:season] + 1 : @shown[:years]
        end

        def settled(plan) = { **plan, nurse_off: nurse_from(plan) }

        CODES = { spring: "practice_other_spring", sticks: "practice_other_sticks",
                  braced: "practice_other_brace" }.freeze
        private_constant :CODES

        # Each choice that the best plan makes otherwise, with the plan that makes only that one as it does.
        def differing(plan, best)
          plan[:limbs].flat_map do |mine|
            theirs = best[:limbs].find { |each| each[:id] == mine[:id] }
            CODES.filter_map do |what, code|
              next if mine[what] == theirs[what]

              [{ code: code, limb: mine[:id], mine: mine[what], best: theirs[what] },
               PlansTried.changed(plan, mine[:id], what => theirs[what])]
            end
          end
        end
      end
    end
  end
end
