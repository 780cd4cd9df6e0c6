# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # Cut sticks lie either way up: their buds lean towards the tip, above the scar of their leaf.
      module RightWay
        extend Exercise

        exercise "right-way", "Which sticks lie upside down" do
          list :turned, item(:integer, least: 1, most: 100), longest: 100, help: "numbers of sticks to be turned round"
          number :seconds, unit: "seconds", least: 0, most: 86_400, optional: true, help: "that it took"
        end

        class << self
          private

          def make(random, level, rulebook)
            book = book(rulebook, "right_way")
            sticks = Array.new(book["sticks"][level - 1]) do |i|
              stick(random, i + 1, random.rand < 0.5, book["lean"][level - 1], level)
            end
            wrong = sticks.reject { |stick| stick.delete(:up) }.map { |stick| stick[:id] }
            { shown: { sticks: sticks, seconds: book["seconds"][level - 1] }, wrong: wrong, best: { turned: wrong } }
          end

          # Buds in turn on either side, each leaning to the tip and standing above its scar; +bend+ tells nothing.
          def stick(random, id, up, lean, level)
            buds = Array.new(3 + random.rand(2)) do |n|
              { at: (0.16 + n * 0.24 + between(random, -0.03, 0.03)).round(3), side: (n + id).even? ? 1 : -1,
                lean_deg: ((up ? 1 : -1) * between(random, lean * 0.7, lean * 1.3)).round(1), scar: up ? -1 : 1 }
            end
            { id: id, up: up, long_mm: between(random, 80, 110).round, wide_mm: between(random, 6, 9).round(1),
              bend: level > 2 ? between(random, -1, 1).round(2) : 0.0, buds: buds }
          end

          def judge(made, answer, rulebook)
            sticks = made[:shown][:sticks].map { |stick| stick[:id] }
            said = drawn!(answer[:turned].uniq, sticks, "turned")
            outcome((said | made[:wrong]) - (said & made[:wrong]), slow(answer[:seconds], made[:shown][:seconds]), made,
                 rulebook)
          end

          def outcome(wrong, slow, made, rulebook)
            all = made[:shown][:sticks].size
            { score: 1 - wrong.size / all.to_f, feedback: feedback(wrong.sort, slow, made),
              fatal: !slow.nil? || too_many?(wrong.size, all, rulebook) }
          end

          def too_many?(wrong, all, rulebook) = wrong * 20 >= book(rulebook, "right_way")["fails"] * all

          def slow(seconds, most) = seconds && seconds > most ? seconds : nil

          def feedback(wrong, seconds, made)
            found = []
            found << { code: "practice_upside_down", sticks: wrong } if wrong.any?
            found << { code: "practice_slow", seconds: seconds, most: made[:shown][:seconds] } if seconds
            found.empty? ? [{ code: "practice_all_up", sticks: made[:shown][:sticks].size }] : found
          end
        end
      end
    end
  end
end
