# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A trunk stripped of bark: where its bridging scions go, how long each is cut, and which way up.
      module Bridge
        extend Exercise
        exercise "bridge", "Bridging a stripped trunk" do
          list :scions, longest: 12 do
            number :bearing_deg, unit: "degrees", least: 0, most: 360
            number :length_mm, unit: "mm", least: 0, most: 3000
          end
          number :trim_mm, unit: "mm", least: 0, most: 100, default: 0.0, help: "cut off both margins"
          list :turned, item(:integer, least: 1, most: 12), longest: 12, default: [].freeze,
                        help: "numbers of scions that are turned round"
        end

        class << self
          private

          def make(random, level, rulebook)
            book = book(rulebook, "bridge")
            girth = between(random, *book["girth"]).round
            wound = wound(random, level)
            figures = { seat_mm: rulebook.value("reckoning.bridge.seat"), bow: rulebook.value("reckoning.bridge.bow") }
            bridges = Repair::Bridge.call(girth_mm: girth, wound: wound, rulebook: rulebook,
                                          spacing_mm: rulebook.value("reckoning.bridge.spacing"), **figures)
            lies = bridges[:scions].each_index.map { random.rand < 0.5 }
            shown = { girth_mm: girth, wound: wound, count: bridges[:count], **figures,
                      dead_mm: book["dead"][level - 1], within_mm: book["within"][level - 1],
                      scions: lies.map { |up| { lean: up ? 1 : -1 } } }
            { shown: shown, down: upside_down(lies), best: best(bridges, lies, shown) }
          end

          def best(bridges, lies, shown)
            bearings = bridges[:scions].map { |each| each[:bearing_deg].round(1) }
            longs = lengths(shown, bearings, shown[:dead_mm].to_f)
            { scions: bearings.zip(longs).map { |at, mm| { bearing_deg: at, length_mm: mm.round(1) } },
              trim_mm: shown[:dead_mm].to_f, turned: upside_down(lies) }
          end

          def upside_down(lies) = lies.each_index.reject { |i| lies[i] }.map { |i| i + 1 }

          # Margins that wander round the trunk: the harder, the more.
          def wound(random, level)
            low, high = between(random, 60, 140), between(random, 260, 420)
            Array.new(8) do |i|
              { bearing_deg: i * 45.0, low_mm: (low + between(random, -12, 12) * level).clamp(10, 240).round.to_f,
                high_mm: (high + between(random, -16, 16) * level).round.to_f }
            end
          end

          def judge(made, answer, rulebook)
            shown = made[:shown]
            scions = as_many(answer[:scions], shown[:count])
            off = lengths_off(shown, scions, answer[:trim_mm])
            spread = spread(scions.map { |each| each[:bearing_deg] }, scions.size)
            wrong = trim(shown, answer[:trim_mm], book(rulebook, "bridge")) +
                    turned(made[:down], answer[:turned])
            { score: (fits(off, shown) + spread) / 2, fatal: wrong.any?,
              feedback: feedback(wrong, off, spread < rulebook.value("reckoning.practice.pass"), shown) }
          end

          # Bark that is dead carries nothing, and sound bark that was cut off is missing.
          def trim(shown, mm, book)
            dead = shown[:dead_mm]
            return [{ code: "practice_bridge_dead", mm: dead - mm }] unless Near.at_least?(mm, dead)

            Near.at_most?(mm, dead + book["over"]) ? [] : [{ code: "practice_bridge_cut_away", mm: mm - dead }]
          end

          def turned(down, said)
            wrong = ((down | said) - (down & said)).sort
            wrong.any? ? [{ code: "practice_bridge_upside_down", scions: wrong }] : []
          end

          def as_many(scions, count)
            return scions if scions.size == count

            raise BadInput.new("answer.scions", "#{count} scions, as many as the trunk wants")
          end

          def fits(off, shown) = off.count { |mm| mm.abs <= shown[:within_mm] } / off.size.to_f

          # By how much each is longer than its gap wants.
          def lengths_off(shown, scions, trim_mm)
            wanted = lengths(shown, scions.map { |each| each[:bearing_deg] }, trim_mm)
            scions.zip(wanted).map { |each, mm| each[:length_mm] - mm }
          end

          # How long a scion is cut at some bearings, once both margins are trimmed.
          def lengths(shown, bearings, trim_mm)
            trimmed = shown[:wound].map do |each|
              { **each, low_mm: [each[:low_mm] - trim_mm, 0.0].max, high_mm: each[:high_mm] + trim_mm }
            end
            margins = Repair::WoundShape.new(trimmed)
            bearings.map do |at|
              Repair::Bridge.scion(margins, at % 360, shown[:seat_mm], shown[:bow])[:length_mm]
            end
          end

          # One where they stand evenly; nothing where one gap is twice as wide as it should be.
          def spread(bearings, count)
            ordered = bearings.map { |at| at % 360 }.sort
            widest = [*ordered, ordered.first + 360].each_cons(2).map { |one, other| other - one }.max
            (2 - widest * count / 360.0).clamp(0, 1)
          end

          def feedback(wrong, off, uneven, shown)
            found = wrong.dup
            off.each_with_index do |mm, i|
              next if mm.abs <= shown[:within_mm]

              code = mm.negative? ? "practice_bridge_short" : "practice_bridge_long"
              found << { code: code, scion: i + 1, mm: mm.abs }
            end
            found << { code: "practice_bridge_uneven" } if uneven
            found.empty? ? [{ code: "practice_bridged" }] : found
          end
        end
      end
    end
  end
end
