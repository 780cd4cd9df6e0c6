# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A stub is never round: sticks are set where its rim is flattest, and not all on one side.
      module WhichFace
        extend Exercise
        POINTS, STEP = 36, 10
        private_constant :POINTS, :STEP

        exercise "which-face", "Where on a stub the sticks sit best" do
          list :bearings_deg, item(:number, least: 0, below: 360), longest: 4, help: "where each stick is set"
        end

        class << self
          private

          def make(random, level, rulebook)
            book = book(rulebook, "which_face")
            shown = { radii_mm: outline(random, level, book), width_mm: between(random, 7, 11).round(1),
                      sticks: level < 3 ? level : 3, apart_deg: book["apart"],
                      wind_from_deg: level >= book["wind_from"] ? random.rand(360) : nil,
                      windward_deg: book["windward"] }
            { shown: shown, best: best(shown) }
          end

          # Round but for two swellings, a flat or two, and ridges: the harder, the smaller they are.
          def outline(random, level, book)
            mean = between(random, *book["radius"])
            waves = [2, 3, 5].map do |times|
              [times, between(random, 0.3, 1) * mean * book["swell"][level - 1] / times, random.rand(360)]
            end
            flats = Array.new(1 + random.rand(2)) { [random.rand(360), between(random, 0.05, 0.1) * mean] }
            Array.new(POINTS) { |i| radius(mean, i * STEP, waves, flats).round(2) }
          end

          def radius(mean, at, waves, flats)
            swollen = mean + waves.sum { |times, high, from| high * Math.cos((at - from) * times * Math::PI / 180) }
            flats.reduce(swollen) do |least, (middle, depth)|
              turn = ((at - middle + 180) % 360 - 180) * Math::PI / 180
              turn.abs < 0.9 ? [least, (mean - depth) / Math.cos(turn)].min : least
            end
          end

          def gap(shown, bearing)
            Seating.call(radii_mm: shown[:radii_mm], bearing_deg: bearing % 360, width_mm: shown[:width_mm])[:gap_mm]
          end

          def gaps(shown) = (0...POINTS).to_h { |i| [i * STEP, gap(shown, i * STEP)] }

          # Of all places ten degrees apart, those far enough from each other with the least gap together.
          def best(shown)
            gaps = gaps(shown)
            sets = apart_sets(gaps.keys, shown[:sticks], shown[:apart_deg]).select { |few| windward?(shown, few) }
            { bearings_deg: sets.min_by { |few| few.sum { |at| gaps[at] } }.map(&:to_f) }
          end

          # So many of the places, in rising order, each far enough from the next and the last from the first.
          def apart_sets(places, many, least, chosen = [])
            return [chosen] if chosen.size == many

            places.select { |at| chosen.empty? || (at - chosen.last >= least && chosen.first + 360 - at >= least) }
              .flat_map { |at| apart_sets(places.select { |other| other > at }, many, least, [*chosen, at]) }
          end

          # Whether a stick stands where it is pushed against the stub, where wind is asked about.
          def windward?(shown, bearings)
            wind = shown[:wind_from_deg] or return true
            bearings.any? { |at| ((at - wind + 180) % 360 - 180).abs <= shown[:windward_deg] }
          end

          def apart?(bearings, least)
            bearings.combination(2).all? { |one, other| ((one - other + 180) % 360 - 180).abs >= least }
          end

          # What is lost against the best places, as a share of what would be lost at middling ones.
          def judge(made, answer, rulebook)
            shown, bearings = made[:shown], answer[:bearings_deg]
            if bearings.size != shown[:sticks]
              raise BadInput.new("answer.bearings_deg", "#{shown[:sticks]} bearings, one for each stick")
            end

            mine, least = [bearings, made[:best][:bearings_deg]].map { |few| few.map { |at| gap(shown, at) } }
            wrong = misplaced(shown, bearings)
            { score: score(mine.sum, least.sum, shown), fatal: wrong.any?,
              feedback: feedback(wrong, mine, least.max, book(rulebook, "which_face")["felt"]) }
          end

          # What no flat place makes good.
          def misplaced(shown, bearings)
            least = shown[:apart_deg]
            [({ code: "practice_crowded", apart_deg: least } unless apart?(bearings, least)),
             ({ code: "practice_leeward" } unless windward?(shown, bearings))].compact
          end

          def score(mine, least, shown) = 1 - ((mine - least) / [middling(shown) - least, 0.05].max).clamp(0, 1)

          def middling(shown) = gaps(shown).values.sort[POINTS / 2] * shown[:sticks]

          def feedback(wrong, mine, least, felt)
            found = wrong.dup
            mine.each_with_index do |gap, i|
              found << { code: "practice_gap", stick: i + 1, gap_mm: gap, best_mm: least } if gap > least + felt
            end
            found.empty? ? [{ code: "practice_seated" }] : found
          end
        end
      end
    end
  end
end
