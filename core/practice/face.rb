# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # The long face of a stick, cut in one draw of the blade: where the stick ends, on which side it is cut, and the
      # path of the blade.
      module Face
        extend Exercise
        SIDES = %w[up down].freeze
        LONG = 150
        private_constant :SIDES, :LONG

        exercise "face", "Cutting a long face" do
          number :base_mm, unit: "mm", least: 0, most: 150, help: "where the stick is cut off: the thin end of its face"
          name :side, -> { SIDES }, help: "on which it is cut, as it is drawn"
          list :points, longest: 400 do
            number :at_mm, unit: "mm", least: 0, most: 150, help: "along the stick"
            number :depth_mm, unit: "mm", least: -20, most: 60, help: "of the blade, under that side's bark"
          end
        end

        class << self
          private

          def make(random, level, rulebook)
            book = book(rulebook, "face")
            buds = buds(random)
            shown = { scion_mm: between(random, 7, 11).round(1), long_mm: LONG, buds: buds, lengths_mm: book["length"],
                      above_mm: [book["above"] - book["near"][level - 1], book["above"] + book["near"][level - 1]],
                      strays_mm: book["strays"][level - 1] * (random.rand < 0.5 ? -1 : 1) }
            { shown: shown, flat_mm: book["flat"][level - 1], best: best(shown, book) }
          end

          def buds(random)
            at, side = between(random, 28, 50), random.rand(2)
            found = []
            while at < LONG - 10
              found << { at_mm: at.round(1), side: SIDES[(side + found.size) % 2] }
              at += between(random, 22, 36)
            end
            found
          end

          # Under the lowest bud, on its other side, and evenly to half of the stick.
          def best(shown, book)
            bud = shown[:buds].first
            base, long = bud[:at_mm] - book["above"], book["length"].sum / 2.0
            { base_mm: base.round(1), side: (SIDES - [bud[:side]]).first,
              points: (0..10).map { |step| point(shown, base + long * step / 10, 1 - step / 10.0) } }
          end

          # Drawn against where the hand strays to.
          def point(shown, at, share)
            { at_mm: at.round(2), depth_mm: (shown[:scion_mm] / 2 * share - stray(shown, share)).round(3) }
          end

          # How much deeper than it was drawn the blade runs, most of all in the middle of its way.
          def stray(shown, share) = shown[:strays_mm] * 4 * share * (1 - share)

          # The cut as it is made.
          def made_by(shown, points)
            from, to = points.map { |point| point[:at_mm] }.minmax
            points.map do |point|
              share = to > from ? (point[:at_mm] - from) / (to - from).to_f : 0.0
              { at_mm: point[:at_mm], depth_mm: point[:depth_mm] + stray(shown, share) }
            end
          end

          def judge(made, answer, rulebook)
            raise BadInput.new("answer.points", "two points or more") if answer[:points].size < 2

            book = book(rulebook, "face")
            cut = made_by(made[:shown], answer[:points])
            flat = Flatness.call(points: cut, tolerance_mm: made[:flat_mm])[:contact_share]
            wrong = wrong(made[:shown], { **answer, points: cut }, book)
            { score: score(book["weights"], flat, wrong), fatal: false, cut: cut,
              feedback: feedback(flat < book["lies"], flat, wrong) }
          end

          def score(weights, flat, wrong)
            weights.fetch("flat") * flat + weights.except("flat", *wrong.map { |each| each[:part] }).values.sum
          end

          def wrong(shown, answer, book)
            at, depth = answer[:points].sort_by { |point| point[:at_mm] }.then do |points|
              [points.last[:at_mm] - points.first[:at_mm], points.first[:depth_mm]]
            end
            [length(shown, at), depth(shown, depth, book), bud(shown, answer)].compact
          end

          def length(shown, mm)
            low, high = shown[:lengths_mm]
            { part: "length", code: "practice_face_length", mm: mm, from_mm: low, to_mm: high } unless
              mm.between?(low - Near::TOLERANCE, high + Near::TOLERANCE)
          end

          # At its thin end it has taken half of the stick.
          def depth(shown, mm, book)
            half = shown[:scion_mm] / 2
            return if Near.at_most?((mm - half).abs, book["depth"] * half)

            { part: "depth", code: mm < half ? "practice_face_shallow" : "practice_face_deep", mm: (mm - half).abs }
          end

          # The lowest bud stands on the other side, a little above the thin end.
          def bud(shown, answer)
            bud = shown[:buds].find { |each| each[:at_mm] > answer[:base_mm] }
            return { part: "bud", code: "practice_face_bud_cut" } if bud.nil? || bud[:side] == answer[:side]

            above, (low, high) = bud[:at_mm] - answer[:base_mm], shown[:above_mm]
            { part: "bud", code: "practice_face_bud_far", mm: above } unless above.between?(low, high)
          end

          def feedback(wavy, flat, wrong)
            found = wrong.map { |each| each.except(:part) }
            found.unshift({ code: "practice_face_wavy", share: flat }) if wavy
            found.empty? ? [{ code: "practice_face_true" }] : found
          end
        end
      end
    end
  end
end
