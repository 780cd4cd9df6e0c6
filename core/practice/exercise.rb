# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # What every exercise answers to. It is generated from a seed and a level, the same for the same; without an
      # answer it shows what is drawn and asked, with one what that came to.
      module Exercise
        include Reckoning
        LEVELS = (1..5).freeze

        # Declares its contract.
        #
        # @param own [Proc] fields of a limb's own numbers, where it can be practised with them
        # @yield the fields of an answer
        def exercise(name, summary, own: nil, &answer)
          contract "practice-#{name}", summary do
            integer :seed, least: 0, most: 2**31
            integer :level, least: 1, most: 5, help: "narrower and with more traps from one to the next"
            record(:own, optional: true, help: "a limb's own numbers, in place of made ones", &own) if own
            record :answer, optional: true, help: "what was done; without it the exercise itself is answered", &answer
          end
        end

        # @return [Hash] +exercise+, all that is drawn and asked; or +score+ (0..1), +passed+, +feedback+ (reasons, the
        #   gravest first) and +best+, an answer that passes with what was hidden
        def call(seed:, level:, answer: nil, rulebook: Rulebook.shipped, **own)
          made = make(Random.new(seed * LEVELS.size + level), level, rulebook, **own)
          return { exercise: made[:shown] } unless answer

          judged = judge(made, answer, rulebook)
          passed = judged[:score] >= rulebook.value("reckoning.practice.pass") - Near::TOLERANCE && !judged[:fatal]
          { best: made[:best], **judged.except(:fatal), score: judged[:score].clamp(0.0, 1.0), passed: passed }
        end

        private

        # @raise [BadInput] for a number of nothing that is drawn
        def drawn!(said, all, field)
          (said - all).any? ? raise(BadInput.new("answer.#{field}", "what is drawn")) : said
        end

        def book(rulebook, name) = ->(key) { rulebook.value("reckoning.practice_#{name}.#{key}") }
        def between(random, low, high) = low + (high - low) * random.rand
      end
    end
  end
end
