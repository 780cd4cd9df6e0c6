# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A knife slips: where the hand that holds must be, so that it is not in the blade's way. One mistake fails.
      module Hands
        extend Exercise

        exercise "hands", "Where the hand goes that holds" do
          number :x_mm, unit: "mm", least: -400, most: 400, help: "of its middle, right of where the blade begins"
          number :y_mm, unit: "mm", least: -400, most: 400, help: "above it"
        end

        class << self
          private

          # The stick lies at +stick_deg+ through where the blade begins, and the blade is drawn towards +blade_deg+.
          def make(random, level, rulebook)
            book = book(rulebook, "hands")
            blade = between(random, 0, 360).round(1)
            stick = (blade + between(random, -1, 1) * book["askew"][level - 1]) % 360
            shown = { blade_deg: blade, stick_deg: stick.round(1), sweep_deg: book["sweep"],
                      slip_mm: book["slip"], hand_mm: book["hand"], near_mm: book["near"],
                      stop: level > 2 && random.rand < 0.5 }
            { shown: shown, best: best(shown) }
          end

          # Behind the blade, on the stick.
          def best(shown)
            far = (shown[:near_mm][0] + shown[:near_mm][1]) / 2.0
            ends = [0, 180].map { |turn| along(shown[:stick_deg] + turn, far) }
            { x_mm: 0.0, y_mm: 0.0 }.merge(ends.max_by { |at| clear(shown, *at.values) })
          end

          def along(degrees, far)
            way = degrees * Math::PI / 180
            { x_mm: (far * Math.cos(way)).round(1), y_mm: (far * Math.sin(way)).round(1) }
          end

          def judge(made, answer, _rulebook)
            shown, at = made[:shown], answer.values_at(:x_mm, :y_mm)
            wrong = clear(shown, *at).negative? ? "practice_hand_in_the_way" : hold(shown, *at)
            { score: wrong ? 0.0 : 1.0, fatal: !wrong.nil?, feedback: [{ code: wrong || "practice_hand_safe" }] }
          end

          # How far the hand's edge is from the sector that the blade may sweep; below 0 where they meet.
          def clear(shown, x, y)
            far, turn = Math.hypot(x, y), (Math.atan2(y, x) * 180 / Math::PI - shown[:blade_deg] + 180) % 360 - 180
            from_sector(far, [turn.abs - shown[:sweep_deg], 0].max * Math::PI / 180, shown[:slip_mm]) - shown[:hand_mm]
          end

          # A point so far out, and so far beside the sector's edge.
          def from_sector(far, beside, slip)
            return [far - slip, 0].max if beside.zero?
            return far if beside >= Math::PI / 2

            along = [far * Math.cos(beside), slip].min
            Math.hypot(far * Math.cos(beside) - along, far * Math.sin(beside))
          end

          # It has to hold the stick, near enough to the cut.
          def hold(shown, x, y)
            way = shown[:stick_deg] * Math::PI / 180
            aside, far = (x * Math.sin(way) - y * Math.cos(way)).abs, Math.hypot(x, y)
            return "practice_hand_holds_nothing" if aside > shown[:hand_mm] / 2

            far > shown[:near_mm][1] ? "practice_hand_too_far" : nil
          end
        end
      end
    end
  end
end
