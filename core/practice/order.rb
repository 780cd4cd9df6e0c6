# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # The steps of a method, shuffled: put into the order in which the hands do them.
      module Order
        extend Exercise
        METHODS = %w[rind bark inlay flap-four cleft whip].freeze
        private_constant :METHODS

        exercise "order", "The steps of a method in their order" do
          list :order, item(:integer, least: 1, most: 40), longest: 40, help: "numbers of the steps, the first first"
        end

        class << self
          private

          # Further levels take longer pieces of more methods.
          def make(random, level, rulebook)
            known = METHODS & rulebook.method_names
            method = known[random.rand([1 + level, known.size].min)]
            steps = steps(method, rulebook)
            few = piece(random, steps, book(rulebook, "order")["steps"][level - 1])
            shuffled = shuffled(random, few)
            { shown: { method: method, steps: shuffled.each_with_index.map { |does, i| { id: i + 1, does: does } } },
              right: few.map { |does| shuffled.index(does) + 1 },
              best: { order: few.map { |does| shuffled.index(does) + 1 } } }
          end

          def steps(method, rulebook)
            figures = Graft::Figures.of(method, stub_mm: 40.0, scion_mm: 9.0, bark_mm: 3.0, rulebook: rulebook)
            listed = Graft::Steps.of(method, figures, stub_mm: 40.0, species: "apple", rulebook: rulebook,
                                                     school: rulebook.school_names.first) { |mm| "#{mm.round} mm" }
            listed.map { |step| step[:does] }.uniq
          end

          def piece(random, steps, count)
            count = [count, steps.size].min
            steps[random.rand(steps.size - count + 1), count]
          end

          # Never nearly as it is.
          def shuffled(random, few)
            place = few.each_with_index.to_h
            loop do
              mixed = few.shuffle(random: random)
              wrong = mixed.combination(2).count { |one, other| place[one] > place[other] }
              return mixed if wrong * 3 >= few.size * (few.size - 1) / 2
            end
          end

          # One less the pairs that are the wrong way round, of all pairs.
          def judge(made, answer, _rulebook)
            said, right = answer[:order], made[:right]
            if said.sort != right.sort
              raise BadInput.new("answer.order", "each of the #{right.size} steps once")
            end

            place = right.each_with_index.to_h
            wrong = said.combination(2).select { |one, other| place[one] > place[other] }
            { score: 1 - wrong.size / [right.size * (right.size - 1) / 2.0, 1].max, fatal: false,
              feedback: feedback(wrong, place) }
          end

          # The two that lie furthest from their order, first.
          def feedback(wrong, place)
            return [{ code: "practice_in_order" }] if wrong.empty?

            wrong.sort_by { |one, other| place[other] - place[one] }.first(3)
              .map { |early, late| { code: "practice_too_early", step: late, before: early } }
          end
        end
      end
    end
  end
end
