# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A stub in its first June: what grows from the sticks stays, what grows from the stock goes, and a nurse's shoots
      # are neither.
      module WhichShoot
        extend Exercise

        exercise "which-shoot", "Which shoots of a worked stub go" do
          list :cuts, longest: 40, unique: :shoot do
            key :shoot, help: "the number of the shoot that is cut"
            number :up_mm, unit: "mm", least: 0, most: 1000, default: 0.0, help: "along it from where it grows"
          end
        end

        # In mm from the middle of the stub's rim; up is above it.
        STUB_DEEP, NURSE_AT = 170.0, 150.0
        private_constant :STUB_DEEP, :NURSE_AT

        class << self
          private

          def make(random, level, rulebook)
            book = book(rulebook, "which_shoot")
            half = between(random, *book["half"]).round
            sticks = sticks(random, half, [1 + random.rand(level < 3 ? 2 : 4), half / 9].min)
            shoots = shoots(random, level, half, sticks, book)
            shown = { half_mm: half, deep_mm: STUB_DEEP, sticks: sticks, nurse: nurse?(shoots),
                      leaves: leaves(random, shoots, book["leaves"][level - 1]),
                      shoots: shoots.map { |shoot| shoot.slice(:id, :points) }, stroke_mm: book["stroke"] }
            { shown: shown, shoots: shoots, best: best(shoots) }
          end

          def nurse?(shoots) = shoots.any? { |shoot| shoot[:of] == "nurse" }

          def best(shoots)
            { cuts: shoots.select { |shoot| goes?(shoot) }.map { |shoot| { shoot: shoot[:id], up_mm: 0.0 } },
              of: shoots.to_h { |shoot| [shoot[:id], shoot[:of]] } }
          end

          def goes?(shoot) = shoot[:of] == "stock"

          # Where they stand on the rim, and how long they are.
          def sticks(random, half, count)
            Array.new(count) do |i|
              across = count == 1 ? 0.0 : (i / (count - 1.0) - 0.5) * 2 * (half - 7)
              { x_mm: across.round(1), long_mm: between(random, 70, 110).round }
            end
          end

          # Numbered in no order.
          def shoots(random, level, half, sticks, book)
            scions = sticks.flat_map { |stick| from_stick(random, stick) }
            stock = Array.new(between(random, *book["stock"][level - 1]).round) { from_stock(random, half, level) }
            nurse = Array.new(level < 2 ? 0 : 2) { from_nurse(random, half) }
            (scions + stock + nurse).shuffle(random: random).each_with_index.map do |shoot, i|
              shoot.merge(id: i + 1)
            end
          end

          def from_stick(random, stick)
            Array.new(1 + random.rand(2)) do
              from = between(random, 0.45, 0.95) * stick[:long_mm]
              { of: "scion", points: path(random, stick[:x_mm], from, random.rand < 0.5 ? -1 : 1, 150) }
            end
          end

          # From the bark below the rim, at its sides and on its face; the harder, the nearer to the rim, and the more
          # they lean in among the scions.
          def from_stock(random, half, level)
            side = random.rand < 0.5 ? -1 : 1
            x = side * half * (random.rand < 0.6 ? 1 : between(random, 0.2, 0.9))
            { of: "stock", points: path(random, x, -between(random, 6, 110 - 15 * level), level > 2 ? -side : side,
                                        190 - 12 * level) }
          end

          def from_nurse(random, half)
            { of: "nurse", points: path(random, half + NURSE_AT * between(random, 0.55, 0.7), between(random, -60, 20),
                                        -1, 130) }
          end

          # Out to a side, then up.
          def path(random, x, y, side, long)
            long *= between(random, 0.8, 1.15)
            out = between(random, 0.18, 0.4) * long * side
            [[0, 0], [0.35, 0.22], [0.75, 0.6], [1.0, 1.0]].map do |across, up|
              [(x + out * across).round(1), (y + long * up).round(1)]
            end
          end

          # Leaves lie over the feet of some of them.
          def leaves(random, shoots, share)
            shoots.select { random.rand < share }.map do |shoot|
              x, y = shoot[:points].first
              { x_mm: (x + between(random, -5, 5)).round(1), y_mm: (y + between(random, 0, 10)).round(1),
                turn_deg: random.rand(360) }
            end
          end

          def judge(made, answer, rulebook)
            shoots = made[:shoots].to_h { |shoot| [shoot[:id], shoot] }
            cuts = answer[:cuts].map { |cut| [find(shoots, cut[:shoot]), cut[:up_mm]] }
            outcome(shoots.values, cuts, book(rulebook, "which_shoot"))
          end

          def find(shoots, id) = shoots[id] || raise(BadInput.new("answer.cuts", "shoots that are drawn"))

          def outcome(shoots, cuts, book)
            killed = killed(shoots, cuts, book["stroke"])
            missed = shoots.select { |shoot| goes?(shoot) } - cuts.map(&:first)
            stubs = cuts.select { |shoot, up| goes?(shoot) && up > book["stub"] }.map(&:first)
            score = 1 - book["missed"] * missed.size - book["left"] * stubs.size
            { score: killed.any? ? 0.0 : score, fatal: killed.any?, feedback: feedback(killed, missed, stubs) }
          end

          # What must not die and was cut, or lay within the blade's stroke.
          def killed(shoots, cuts, stroke)
            stay = shoots.reject { |shoot| goes?(shoot) }
            hit = cuts.flat_map do |cut, up|
              x, y = along(cut[:points], up)
              stay.select { |shoot| shoot.equal?(cut) || near?(shoot, x, y, stroke) }
                .map { |shoot| { shoot: shoot, own: shoot.equal?(cut) } }
            end
            hit.uniq { |each| each[:shoot][:id] }
          end

          def near?(shoot, x, y, stroke)
            foot = shoot[:points].first
            Math.hypot(foot[0] - x, foot[1] - y) < stroke
          end

          # The point so far along a path.
          def along(points, mm)
            points.each_cons(2) do |(ax, ay), (bx, by)|
              long = Math.hypot(bx - ax, by - ay)
              return [ax + (bx - ax) * mm / long, ay + (by - ay) * mm / long] if mm <= long

              mm -= long
            end
            points.last
          end

          def feedback(killed, missed, stubs)
            found = killed.map do |each|
              code = each[:own] ? "practice_cut_#{each[:shoot][:of]}" : "practice_overrun"
              { code: code, shoot: each[:shoot][:id] }
            end
            found += missed.map { |shoot| { code: "practice_missed", shoot: shoot[:id] } }
            found += stubs.map { |shoot| { code: "practice_left_stub", shoot: shoot[:id] } }
            found.empty? ? [{ code: "practice_all_gone" }] : found
          end
        end
      end
    end
  end
end
