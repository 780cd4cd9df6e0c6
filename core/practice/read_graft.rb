# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A graft as it is found on a visit: what is to be done, when nobody can see whether it lives.
      module ReadGraft
        extend Exercise
        CHOICES = %w[leave open slit rewrap regraft].freeze
        private_constant :CHOICES

        exercise "read-graft", "What to do with a graft as it is found" do
          name :choice, -> { CHOICES }
        end

        class << self
          private

          # Whether it lives is drawn first, and what is seen from that: the same likelihoods as Read reads it by.
          def make(random, level, rulebook)
            prior = between(random, 0.55, 0.9)
            alive = random.rand < prior
            share = between(random, 0.3, 1.9)
            days = (between(random, 16, 26) * share).round
            seen = seen(random, alive, share, level)
            shown = { days: days, callus_share: share.round(2), expected_take: prior.round(2), seen: seen,
                      wrap: random.rand < 0.18 * level ? %w[biting loose].sample(random: random) : "sound",
                      regraft: random.rand < 0.6 }
            worth = worth(shown, rulebook)
            { shown: shown, worth: worth, alive: alive(shown, rulebook), best: { choice: worth.max_by(&:last).first } }
          end

          # The harder, the less is seen.
          def seen(random, alive, share, level)
            buds = alive ? pick(random, "leafing" => share - 0.6, "swelling" => 0.4, "asleep" => 1.2 - share) :
              pick(random, "asleep" => 0.5, "swelling" => 0.25, "dead" => 0.35)
            callus = alive ? pick(random, "none" => 1 - share, "some" => 0.6, "full" => share - 0.5) :
              pick(random, "none" => 0.9, "some" => 0.1)
            { buds: buds, **(level < 4 || random.rand < 0.5 ? { callus: callus } : {}),
              **(level < 2 || random.rand < 0.4 ? { bark: alive ? "plump" : "shrivelled" } : {}) }
          end

          def pick(random, weights)
            weights = weights.select { |_, weight| weight.positive? }
            at = random.rand * weights.values.sum
            weights.find { |_, weight| (at -= weight).negative? }&.first || weights.keys.last
          end

          def alive(shown, rulebook)
            Read.call(**shown.slice(:callus_share, :days, :expected_take, :seen), rulebook: rulebook)[:alive]
          end

          # What each choice is worth: where it lives, and where it is dead.
          def worth(shown, rulebook)
            chance, book = alive(shown, rulebook), book(rulebook, "read_graft")
            wrap = book["wrap"]
            book["worth"].to_h do |choice, (lives, dead)|
              lives += for_wrap(choice, shown[:wrap], wrap)
              [choice, chance * lives + (1 - chance) * for_dead(choice, dead, shown)]
            end
          end

          # A wrap that bites strangles what lives; one that is loose lets it dry.
          def for_wrap(choice, wrap, worth)
            return 0.0 if wrap == "sound"

            { "biting" => "slit", "loose" => "rewrap" }.fetch(wrap) == choice ? worth["seen_to"] : worth["left"]
          end

          def for_dead(choice, dead, shown) = choice == "regraft" && !shown[:regraft] ? 0.0 : dead

          def judge(made, answer, _rulebook)
            worth, best = made[:worth], made[:worth].values.max
            mine = worth.fetch(answer[:choice])
            { score: [mine / best, 0].max, fatal: false,
              feedback: [{ code: mine >= best - Near::TOLERANCE ? "practice_read_well" : "practice_read_better",
                           choice: answer[:choice], best: made[:best][:choice], alive: made[:alive] }] }
          end
        end
      end
    end
  end
end
