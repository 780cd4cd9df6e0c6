# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A limb laid straight: where the saw goes, which cut comes first, and what to do when bark tears.
      module WhereToCut
        extend Exercise
        METHODS = %w[rind bark inlay cleft].freeze
        FIRST, TORN = %w[under top].freeze, %w[trim again].freeze
        # So many limbs are made by an orchard's own figures.
        TRIES = 200
        private_constant :METHODS, :FIRST, :TORN, :TRIES

        exercise "where-to-cut", "Where the saw goes, and how" do
          number :at_mm, unit: "mm", least: 0, most: 20_000, help: "from the fork"
          name :first, -> { FIRST }, help: "the cut that is made first"
          name :torn, -> { TORN }, help: "what is done about the tear"
        end

        class << self
          private

          # Made again until there is a place for the cut; by the book as it ships where an orchard's own figures
          # leave none.
          def make(random, level, rulebook)
            1.step.each do |tries|
              made = tried(random, level, tries > TRIES ? Rulebook.shipped : rulebook)
              return made if made
            end
          end

          def tried(random, level, rulebook)
            book = book(rulebook, "where_to_cut")
            limb = limb(random, level, book, rulebook)
            window = CutPointOf.call(limb, rulebook)
            return unless window[:feasible] && window[:to_mm] - window[:from_mm] > book["room"]

            tear = between(random, 2, 40).round
            { shown: { **limb, tear_mm: tear }, window: window, best: best(window, tear, book) }
          end

          def limb(random, level, book, rulebook)
            length = between(random, 1600, 3000).round
            { method: (METHODS & rulebook.stub_methods).sample(random: random), length_mm: length,
              base_diameter_mm: between(random, *book["base"]).round, fork_height_mm: between(random, 600, 1300).round,
              rise_deg: between(random, 25, 65).round, lowest_mm: 1300, highest_mm: 2400,
              branches: branches(random, level, length), unsound: unsound(random, level, length) }
          end

          # Forks, one of them of a nurse that stays.
          def branches(random, level, length)
            Array.new([level - 1, 3].min) do |i|
              { fork_at_mm: (length * between(random, 0.15, 0.7)).round, diameter_mm: between(random, 18, 34).round,
                nurse: i.zero? && level > 3 }
            end
          end

          def unsound(random, level, length)
            Array.new(level > 2 ? 1 : 0) do
              from = (length * between(random, 0.1, 0.6)).round
              { from_mm: from, to_mm: from + between(random, 60, 220).round }
            end
          end

          def best(window, tear, book)
            { at_mm: window[:at_mm].round, first: "under", torn: tear > book["trim"] ? "again" : "trim" }
          end

          # The limits kept first; then how near it lies to the best place, of all there is room for.
          def judge(made, answer, rulebook)
            book = book(rulebook, "where_to_cut")
            wrong = broken(made[:window], answer[:at_mm], book["slack"])
            right = right(answer, made[:best])
            place = wrong.any? ? 0.0 : near(made[:window], answer[:at_mm])
            { score: book["weights"]["place"] * place + book["weights"].slice(*right).values.sum,
              fatal: wrong.any? || answer[:first] == "top", feedback: feedback(wrong, answer, made) }
          end

          def right(answer, best) = %w[first torn].select { |name| answer[name.to_sym] == best[name.to_sym] }

          def near(window, at)
            room = [window[:at_mm] - window[:from_mm], window[:to_mm] - window[:at_mm], 1].max
            (1 - (at - window[:at_mm]).abs / room.to_f).clamp(0, 1)
          end

          # The limits that a cut would break, and the gaps that it would lie in.
          def broken(window, at, slack)
            limits = window[:limits].select { |limit| limit[:from_mm] }
              .reject { |limit| at.between?(limit[:from_mm] - slack, limit[:to_mm] + slack) }
            gaps = window[:gaps].select { |gap| at.between?(gap[:from_mm] + slack, gap[:to_mm] - slack) }
            (limits + gaps).map { |each| each[:name] }.uniq
          end

          def feedback(wrong, answer, made)
            found = wrong.map { |name| { code: "practice_place_#{name}" } }
            found << { code: "practice_top_first" } if answer[:first] == "top"
            if answer[:torn] != made[:best][:torn]
              found << { code: "practice_torn_#{made[:best][:torn]}", mm: made[:shown][:tear_mm] }
            end
            found.empty? ? [{ code: "practice_cut_well", at_mm: made[:window][:at_mm] }] : found
          end
        end

        # The limb as the reckoning of its cut takes it.
        module CutPointOf
          # @return [Hash] see Survey::CutPoint
          def self.call(limb, rulebook) = Survey::CutPoint.call(**limb, rulebook: rulebook)
        end
        private_constant :CutPointOf
      end
    end
  end
end
