# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A finished graft whose openings are closed: every cut that lies bare, and nothing that has to meet or to grow.
      module Seal
        extend Exercise
        # What may be seen on it, and whether it is sealed. Between two faces is where they have to knit.
        OPEN = %w[tip slit rim shoulder split].freeze
        SHUT = %w[bud scar lenticel].freeze
        FACE = "face"
        private_constant :OPEN, :SHUT, :FACE

        exercise "seal", "Closing every opening of a finished graft" do
          list :sealed, item(:integer, least: 1, most: 100), longest: 100, help: "numbers of the places pressed"
        end

        class << self
          private

          def make(random, level, rulebook)
            places = places(random, level, book(rulebook, "seal")["others"][level - 1])
            open = places.select { |place| OPEN.include?(place[:is]) }.map { |place| place[:id] }
            { shown: { sticks: sticks(random, level), places: places }, open: open, best: { sealed: open } }
          end

          def sticks(_random, level) = level < 3 ? 1 : 2

          # Each stick has its tip, its shoulder and the slit that it sits in; the stub its rim; bark may have split.
          def places(random, level, others)
            own = (1..sticks(random, level)).flat_map { |stick| %w[tip shoulder slit].map { |is| [is, stick] } }
            own << ["rim", 0]
            own << ["split", 0] if random.rand < 0.3 + 0.1 * level
            more = Array.new(others) { [SHUT.sample(random: random), 1 + random.rand(sticks(random, level))] }
            more += (1..sticks(random, level)).map { |stick| [FACE, stick] } if level > 1
            (own + more).shuffle(random: random).each_with_index.map do |(is, stick), i|
              { id: i + 1, is: is, stick: stick, at: random.rand.round(3), side: random.rand < 0.5 ? -1 : 1 }
            end
          end

          def judge(made, answer, _rulebook)
            places = made[:shown][:places].to_h { |place| [place[:id], place[:is]] }
            said = drawn!(answer[:sealed].uniq, places.keys, "sealed")
            missed, wrong = made[:open] - said, said - made[:open]
            { score: 1 - (missed + wrong).size / (made[:open] | wrong).size.to_f, fatal: faces(places, wrong).any?,
              feedback: feedback(places, missed, wrong) }
          end

          def faces(places, ids) = ids.select { |id| places[id] == FACE }

          def feedback(places, missed, wrong)
            faces = faces(places, wrong)
            found = [({ code: "practice_seal_face", places: faces } if faces.any?),
                     *missed.map { |id| { code: "practice_seal_missed", place: id, is: places[id] } },
                     *(wrong - faces).map { |id| { code: "practice_seal_needless", place: id, is: places[id] } }]
              .compact
            found.empty? ? [{ code: "practice_seal_tight" }] : found
          end
        end
      end
    end
  end
end
