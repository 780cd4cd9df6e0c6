# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A stick is slid down behind the bark of a stub: its face against wood as far as it goes, and a little of it left
      # showing above the rim.
      module Seat
        extend Exercise

        OWN = proc do
          number :face_mm, unit: "mm", above: 12, most: 120
          number :scion_mm, unit: "mm", above: 0, most: 60
          number :bark_mm, unit: "mm", above: 0, most: 20
        end
        private_constant :OWN

        exercise "seat", "How far a stick is slid behind the bark", own: OWN do
          number :in_mm, unit: "mm", least: -50, most: 200, help: "of its face, below the rim"
        end

        class << self
          private

          # +slant_mm+ is how much lower the rim is on the other side; +slit_mm+ how deep the bark was opened.
          def make(random, level, rulebook, own: nil)
            book = book(rulebook, "seat")
            face = own ? own[:face_mm].round : between(random, *book["face"]).round
            showing = book["showing"][level - 1]
            slit = slit(random, level, face, showing)
            figures = figures(random, level).merge((own || {}).slice(:scion_mm, :bark_mm))
            { shown: { face_mm: face, showing_mm: showing, slit_mm: slit, **figures },
              best: { in_mm: (face - showing.sum / 2.0).clamp(0, slit).round(1) } }
          end

          def slit(random, level, face, showing)
            level < 3 ? face + 20 : (face - between(random, showing[0] + 0.5, showing[1] - 0.5)).round(1)
          end

          def figures(random, level)
            { scion_mm: between(random, 7, 11).round(1), bark_mm: between(random, 2, 4).round(1),
              slant_mm: level < 4 ? 0.0 : between(random, -12, 12).round(1) }
          end

          def judge(made, answer, rulebook)
            shown, down = made[:shown], answer[:in_mm]
            showing = shown[:face_mm] - down
            off = [shown[:showing_mm][0] - showing, showing - shown[:showing_mm][1], 0].max
            { score: score(shown, showing, off, book(rulebook, "seat")), feedback: feedback(shown, down, showing),
              fatal: off > Near::TOLERANCE || down > shown[:slit_mm] + Near::TOLERANCE }
          end

          # The less of the face shows, of what may, the more of it lies on wood; outside of that it falls with
          # each millimetre.
          def score(shown, showing, off, book)
            low, high = shown[:showing_mm]
            within = 1 - book["least_face"] * ((showing - low) / (high - low).to_f).clamp(0, 1)
            off.positive? ? [book["outside"] - off * book["a_mm"], 0].max : within
          end

          def feedback(shown, down, showing)
            low, high = shown[:showing_mm]
            found = [({ code: "practice_seat_below", mm: -showing } if showing.negative?),
                     ({ code: "practice_seat_forced", mm: down - shown[:slit_mm] } if down > shown[:slit_mm] +
                       Near::TOLERANCE),
                     ({ code: "practice_seat_deep", mm: showing } if showing.between?(0, low - Near::TOLERANCE)),
                     ({ code: "practice_seat_high", mm: showing } if showing > high + Near::TOLERANCE)].compact
            found.empty? ? [{ code: "practice_seat_well", mm: showing }] : found
          end
        end
      end
    end
  end
end
