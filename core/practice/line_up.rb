# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A stick with thin bark is set on a stub with thick bark: it is the cambium that has to meet, not the outside.
      module LineUp
        extend Exercise

        OWN = proc do
          number :length_mm, unit: "mm", above: 0, most: 200
          number :scion_mm, unit: "mm", above: 0, most: 60
          number :stock_bark_mm, unit: "mm", above: 0, most: 20
          number :stick_bark_mm, unit: "mm", above: 0, most: 20
        end
        private_constant :OWN

        exercise "line-up", "Cambium on cambium", own: OWN do
          number :in_mm, unit: "mm", least: -20, most: 20, help: "of the stick's outside, in from the stock's"
          number :tilt_deg, unit: "degrees", least: -20, most: 20, default: 0.0
        end

        class << self
          private

          # The barks are told between two figures; the harder, the further these lie apart.
          def make(random, level, rulebook, own: nil)
            book = book(rulebook, "line_up")
            spread = book["spread"][level - 1]
            plain = own || figures(random, book)
            barks = plain.values_at(:stock_bark_mm, :stick_bark_mm)
            hidden = barks.map { |bark| bark + between(random, -spread, spread) / 2 }
            { shown: { **plain.slice(:length_mm, :scion_mm), drawn: level < 3,
                       stock_bark_mm: bounds(barks[0], spread), stick_bark_mm: bounds(barks[1], spread) },
              offset: hidden[0] - hidden[1],
              best: { in_mm: (barks[0] - barks[1]).round(2), tilt_deg: 0.0, barks_mm: hidden } }
          end

          def figures(random, book)
            { length_mm: between(random, 38, 60).round, scion_mm: between(random, 7, 11).round(1),
              stock_bark_mm: between(random, *book["stock_bark"]), stick_bark_mm: between(random, *book["stick_bark"]) }
          end

          def bounds(bark, spread) = [bark - spread / 2, bark + spread / 2].map { |mm| mm.round(2) }

          def judge(made, answer, rulebook)
            length = made[:shown][:length_mm]
            off = made[:offset] - answer[:in_mm]
            met = Contact.call(length_mm: length, offset_mm: off, tilt_deg: answer[:tilt_deg])
            { score: met[:share], feedback: [reason(met, off, answer, length, rulebook)], fatal: false }
          end

          def reason(met, off, answer, length, rulebook)
            return { code: "practice_line_full" } if met[:share] >=
              rulebook.value("reckoning.practice.pass") - Near::TOLERANCE

            code = if met[:share].positive? then "practice_line_crosses"
                   elsif answer[:in_mm].abs < book(rulebook, "line_up")["flush"] then "practice_line_flush"
                   else
                     "practice_line_off"
                   end
            { code: code, off_mm: off.abs, met_mm: met[:contact_mm], of_mm: length }
          end
        end
      end
    end
  end
end
