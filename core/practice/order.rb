# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # The steps of a method, shuffled: put into the order in which the hands do them, and with which of them a bare
      # face begins to dry and with which it is closed.
      module Order
        extend Exercise
        METHODS = %w[rind bark inlay four-flap cleft whip-and-tongue].freeze
        KINDS = %w[apple pear plum cherry walnut chestnut].freeze
        CLOCK = %w[starts stops].freeze
        private_constant :METHODS, :KINDS, :CLOCK

        exercise "order", "The steps of a method in their order" do
          list :order, item(:integer, least: 1, most: 40), longest: 40, help: "numbers of the steps, the first first"
          integer :starts, least: 1, most: 40, optional: true, help: "step with which a bare face begins to dry"
          integer :stops, least: 1, most: 40, optional: true, help: "step with which it is closed"
        end

        class << self
          private

          # Further levels take longer pieces of more methods.
          def make(random, level, rulebook)
            known = METHODS & rulebook.method_names
            method, kind = known[random.rand([1 + level, known.size].min)], KINDS[random.rand(KINDS.size)]
            few = piece(random, steps(method, kind, rulebook), book(rulebook, "order")["steps"][level - 1])
            mixed = shuffled(random, few)
            right, clock = few.map { |step| mixed.index(step) + 1 }, clock(mixed)
            { shown: shown(method, kind, mixed, clock, rulebook), right: right, clock: clock,
              best: { order: right, **clock } }
          end

          # The numbers of the steps with which a face begins to dry and is closed, where they are among some.
          def clock(steps)
            CLOCK.to_h { |which| [which.to_sym, steps.index { |step| step[:clock] == which }&.next] }.compact
          end

          def shown(method, kind, shuffled, clock, rulebook)
            { method: method, kind: kind, minutes: rulebook.value("species.#{kind}.clock"),
              asks_clock: CLOCK.map(&:to_sym) & clock.keys,
              steps: shuffled.each_with_index.map { |step, i| { id: i + 1, does: step[:does] } } }
          end

          def steps(method, kind, rulebook)
            figures = Graft::Figures.of(method, stub_mm: 40.0, scion_mm: 9.0, bark_mm: 3.0, rulebook: rulebook)
            listed = Graft::Steps.of(method, figures, stub_mm: 40.0, species: kind, rulebook: rulebook,
                                                     school: rulebook.school_names.first) { |mm| "#{mm.round} mm" }
            listed.uniq { |step| step[:does] }
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
          def judge(made, answer, rulebook)
            wrong = misplaced(answer[:order], made[:right])
            dried = made[:clock].reject { |which, step| answer[which] == step }
            pairs = [made[:right].size * (made[:right].size - 1) / 2.0, 1].max
            { score: 1 - wrong.size / pairs - dried.size * book(rulebook, "order")["clock"], fatal: false,
              feedback: feedback(wrong, made[:right], dried) }
          end

          # Pairs of which the later comes first.
          def misplaced(said, right)
            raise BadInput.new("answer.order", "each of the #{right.size} steps once") if said.sort != right.sort

            said.combination(2).select { |one, other| right.index(one) > right.index(other) }
          end

          # The two that lie furthest from their order, first.
          def feedback(wrong, right, dried)
            early = wrong.sort_by { |one, other| right.index(other) - right.index(one) }.first(3)
              .map { |one, late| { code: "practice_too_early", step: late, before: one } }
            clock = dried.map { |which, step| { code: "practice_clock_#{which}", step: step } }
            early + clock == [] ? [{ code: "practice_in_order" }] : early + clock
          end
        end
      end
    end
  end
end
