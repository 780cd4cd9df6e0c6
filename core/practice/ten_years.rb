# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A tree planned limb by limb, and ten years of it under past springs and luck: in which spring each limb is
      # worked, with how many sticks, braced or not, and when the nurse goes.
      module TenYears
        extend Exercise
        SPRINGS = 3
        # Many limbs lean on the choice of one, so that the rest of a plan is told in few words.
        COSTLIEST = 2
        private_constant :SPRINGS, :COSTLIEST

        exercise "ten-years", "A plan for a tree, and ten years of it" do
          list :limbs, longest: 12, unique: :id do
            key :id
            integer :spring, least: 1, most: SPRINGS, help: "in which it is worked"
            integer :sticks, least: 1, most: 4
            flag :braced, default: false, help: "whether its shoots are tied in their first summers"
          end
          integer :nurse_off, least: 1, most: 10, help: "year in whose autumn the nurse is taken off"
        end

        class << self
          private

          def make(random, level, rulebook)
            book = book(rulebook, "ten_years")
            limbs = limbs(random, 2 + level, book)
            shown = { limbs: limbs, nurse_share: book["nurse"], cap: rulebook.value("reckoning.allot.cap"),
                      springs: SPRINGS, years: book["years"], thickens_mm: thickens(rulebook),
                      **wood(limbs, random, book["wood"][level - 1]), **work(random, level, book),
                      past: Array.new(book["past"]) { spring(random, level, book) } }
            { shown: shown, best: nil }
          end

          # From left to right; the thicker of them carry more of what the nurse leaves of the head.
          def limbs(random, count, book)
            stubs = Array.new(count) { between(random, *book["stub"]).round }
            sections = stubs.sum { |mm| mm**2 }.to_f
            stubs.zip("A".."L").map do |mm, id|
              { id: id, stub_mm: mm, most: (mm / book["stub_a_stick"]).floor.clamp(1, 4),
                share: (mm**2 / sections * (1 - book["nurse"])).round(3), windy: random.rand < book["windy_limbs"] }
            end
          end

          # What a graft gains in thickness from one year to the next.
          def thickens(rulebook)
            first, second = Plan::Regrowth.call(stub_mm: 50.0, shoot_mm: 0.0, seasons: 2,
                                                rulebook: rulebook)[:diameters_mm]
            second - first
          end

          # Sticks in the first winter, a share of what filling every stub would take, and in every later one.
          def wood(limbs, random, share)
            first = (limbs.sum { |limb| limb[:most] } * share * between(random, 0.9, 1.1)).round
            { sticks: [first, limbs.size].max, sticks_a_winter: [first / 3, 1].max }
          end

          def work(random, level, book)
            { take: between(random, *book["take"]).round(2), minutes_a_stub: book["minutes"]["stub"],
              minutes_a_stick: book["minutes"]["stick"],
              braces: [((level + 2) * book["braces"][level - 1]).ceil, 1].max }
          end

          # One that is past: how long bark slipped for so many limbs, and how hard its strongest gust was.
          def spring(random, level, book)
            { minutes: (between(random, *book["springs"][level - 1]) * (level + 2) / 2).round,
              gust: between(random, *book["gusts"][level - 1]).round(2) }
          end

          def judge(made, answer, rulebook)
            shown, plan = made[:shown], plan(made[:shown], answer)
            years = PlannedYears.new(shown, rulebook)
            faults, best = years.faults(plan), years.best
            { score: faults.any? ? 0.0 : score(years, plan, best), fatal: faults.any?, best: best,
              feedback: faults.any? ? faults : feedback(years, plan, best),
              fans: { mine: plan, best: best }.transform_values { |each| years.fan(each) } }
          end

          # In the order of what is drawn.
          def plan(shown, answer)
            given = answer[:limbs].to_h { |limb| [limb[:id], limb.slice(:id, :spring, :sticks, :braced)] }
            limbs!(shown[:limbs], given)
            { limbs: shown[:limbs].map { |limb| given[limb[:id]] }, nurse_off: answer[:nurse_off] }
          end

          def limbs!(drawn, given)
            ids = drawn.map { |limb| limb[:id] }
            raise BadInput.new("answer.limbs", "each of #{ids.join(', ')} once") if given.keys.sort_by(&:to_s) != ids

            over = drawn.find { |limb| given[limb[:id]][:sticks] > limb[:most] }
            raise BadInput.new("answer.limbs", "at most #{over[:most]} sticks on #{over[:id]}") if over
          end

          # What is won over a plan without a thought, of what can be.
          def score(years, plan, best)
            plain, most = [years.plain, best].map { |each| years.worth(each) }
            (years.worth(plan) - plain) / [most - plain, years.least].max
          end

          # What costs most of what could have been chosen otherwise, the rest of the plan as it is.
          def feedback(years, plan, best)
            costs = years.costs(plan, best).first(COSTLIEST)
            costs.empty? ? [{ code: "practice_planned_well" }] : costs
          end
        end
      end
    end
  end
end
