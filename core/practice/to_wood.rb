# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A stick is shaved for a flap graft: each face down to wood under bark whose thickness is told only between two
      # figures, with a strip of bark left at each corner.
      module ToWood
        extend Exercise
        OWN = proc do
          number :scion_mm, unit: "mm", above: 0, most: 60
          number :stock_wood_mm, unit: "mm", above: 0, most: 60
          integer :flaps, least: 3, most: 4
        end
        private_constant :OWN

        exercise "to-wood", "Shaving a stick to wood for a flap graft", own: OWN do
          list :faces, longest: 4 do
            number :at_deg, unit: "degrees", least: 0, below: 360, help: "round the stick, where the face's middle is"
            number :depth_mm, unit: "mm", least: 0, most: 60, help: "of the cut, under the bark's outside"
          end
        end

        class << self
          private

          def make(random, level, rulebook, own: nil)
            book = book(rulebook, "to_wood")
            stick = own || made_stick(random, level, book)
            barks, shown = barks(random, stick, book["spread"][level - 1], book["bark"])
            strip = book["strips"][level - 1]
            { shown: { **stick, bark_mm: shown, strip_mm: strip }, barks: barks,
              best: { faces: best(stick, strip, barks), barks_mm: barks } }
          end

          def made_stick(random, level, book)
            scion = between(random, *book["scion"])
            { scion_mm: scion.round(1), flaps: level == 1 ? 3 : 3 + random.rand(2),
              stock_wood_mm: (scion * between(random, *book["stock"])).round(2) }
          end

          def barks(random, stick, spread, share)
            mean = stick[:scion_mm] * share
            [Array.new(stick[:flaps]) { (mean * between(random, 1 - spread, 1 + spread)).round(2) },
             [1 - spread, 1 + spread].map { |each| (mean * each).round(2) }]
          end

          # Evenly round the stick, as deep as leaves the middle of the strip that is wanted; deeper where the bark is.
          def best(stick, strip, barks)
            flaps = Graft::Flaps.call(**stick, strip_mm: strip.sum / 2.0)
            depth = [flaps[:depth_mm] || 0.0, barks.max + 0.05].max
            Array.new(stick[:flaps]) { |i| { at_deg: i * 360.0 / stick[:flaps], depth_mm: depth.round(2) } }
          end

          def judge(made, answer, rulebook)
            stick = made[:shown]
            faces = cut(stick, answer[:faces].sort_by { |face| face[:at_deg] })
            strips = strips(stick, faces)
            short = faces.zip(made[:barks]).map { |face, bark| bark - face[:depth_mm] }
            book = book(rulebook, "to_wood")
            { score: score(stick, faces, strips, short, book), fatal: short.any? { |mm| mm >= 0 },
              feedback: feedback(stick, faces, strips, short, book["covered"]) }
          end

          # Each face with its half angle and its width.
          def cut(stick, faces)
            if faces.size != stick[:flaps]
              raise BadInput.new("answer.faces", "#{stick[:flaps]} faces, one for each flap")
            end

            faces.map do |face|
              half = Math.acos((1 - 2 * face[:depth_mm] / stick[:scion_mm]).clamp(-1.0, 1.0))
              flat = stick[:scion_mm] * Math.sin(half)
              face.merge(half: half, covered: flat.zero? ? 1.0 : [1.0, flap(stick) / flat].min)
            end
          end

          def flap(stick) = Math::PI * stick[:stock_wood_mm] / stick[:flaps]

          # Bark left from one face to the next, in mm round the stick; below 0 where they run into each other.
          def strips(stick, faces)
            faces.each_index.map do |i|
              one, other = faces[i], faces[(i + 1) % faces.size]
              turn = (other[:at_deg] - one[:at_deg]) % 360 * Math::PI / 180
              (turn - one[:half] - other[:half]) * stick[:scion_mm] / 2
            end
          end

          def score(stick, faces, strips, short, book)
            weights = book["weights"]
            parts = { "wood" => short.count(&:negative?) / short.size.to_f,
                      "strips" => mean(strips.map { |mm| 1 - off(mm, stick[:strip_mm]).clamp(0, 1) }),
                      "covered" => mean(faces.map { |face| [1.0, face[:covered] / book["covered"]].min }),
                      "even" => even(faces) }
            parts.sum { |part, share| weights.fetch(part) * share }
          end

          def mean(values) = values.sum / values.size.to_f
          # How far a strip lies out of what is wanted, in mm.
          def off(strip, (low, high)) = [low - strip, strip - high, 0.0].max

          def even(faces)
            low, high = faces.map { |face| face[:depth_mm] }.minmax
            high.zero? ? 0.0 : low / high
          end

          def feedback(stick, faces, strips, short, least)
            green = short.each_with_index.select { |mm, _| mm >= 0 }.map do |mm, i|
              { code: "practice_green", face: i + 1, short_mm: mm }
            end
            bare = faces.each_with_index.select { |face, _| face[:covered] < least - Near::TOLERANCE }.map do |face, i|
              { code: "practice_bare", face: i + 1, covered: face[:covered] }
            end
            found = green + wrong_strips(stick, strips) + bare
            found.empty? ? [{ code: "practice_all_white", faces: faces.size }] : found
          end

          def wrong_strips(stick, strips)
            low, high = stick[:strip_mm]
            strips.each_with_index.filter_map do |mm, i|
              code = mm < low - Near::TOLERANCE ? "practice_strip_narrow" : mm > high + Near::TOLERANCE ?
                "practice_strip_wide" : nil
              code && { code: code, face: i + 1, other: (i + 1) % strips.size + 1, strip_mm: mm }
            end
          end
        end
      end
    end
  end
end
