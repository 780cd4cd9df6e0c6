# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # What a look at a graft says of whether it lives.
      module Read
        extend Reckoning
        BUDS = %w[asleep swelling leafing dead].freeze
        CALLUS = %w[none some full].freeze
        BARK = %w[plump shrivelled].freeze

        contract "read", "How likely a graft lives, by what is seen of it" do
          number :callus_share, least: 0, most: 50, help: "of the warm days that knitting takes"
          integer :days, least: 0, most: 1000, help: "since it was set"
          number :expected_take, least: 0, most: 1
          record :seen, default: {} do
            name :buds, -> { BUDS }, optional: true
            name :callus, -> { CALLUS }, optional: true
            name :bark, -> { BARK }, optional: true
          end
        end

        # Bayes: the expected take, times how likely what is seen would be in a graft that lives and in one that is
        # dead. A living one moves as its callus joins; a dead one may move on what its stick holds, and shrivels. What
        # was not seen is left out.
        #
        # @return [Hash] +alive+, 0..1
        def self.call(callus_share:, days:, expected_take:, seen: {}, rulebook: Rulebook.shipped)
          book = ->(key) { rulebook.value("reckoning.read.#{key}") }
          alive = likely(alive(callus_share.clamp(0, 2), book), seen) * expected_take
          dead = likely(dead(days, book), seen) * (1 - expected_take)
          { alive: (alive + dead).positive? ? alive / (alive + dead) : expected_take.to_f }
        end

        def self.likely(table, seen)
          %i[buds callus bark].reduce(1.0) { |product, part| seen[part] ? product * table[part][seen[part]] : product }
        end

        def self.alive(share, book)
          moving = 1 / (1 + Math.exp(-(share - 1) / book["moves_within"]))
          { buds: buds(moving * (1 - book["bud_lost"]), book["bud_lost"]), callus: callus(share, book["callus_least"]),
            bark: bark(book["plump"]) }
        end

        def self.dead(days, book)
          moves = book["false_start"] * Math.exp(-days / book["false_days"].to_f)
          none, some, full = book["callus_dead"]
          { buds: buds(moves, 1 - Math.exp(-days / book["bud_days"].to_f)),
            callus: { "none" => none, "some" => some, "full" => full },
            bark: bark(Math.exp(-days / book["plump_days"].to_f)) }
        end

        def self.buds(moving, dead)
          { "swelling" => moving / 2, "leafing" => moving / 2, "dead" => dead, "asleep" => 1 - moving - dead }
        end

        def self.bark(plump) = { "plump" => plump, "shrivelled" => 1 - plump }

        def self.callus(share, least)
          none = [least, 1 - share].max
          full = [least, [0.9, share - 0.5].min].max
          some = [least, 1 - none - full].max
          all = none + some + full
          { "none" => none / all, "some" => some / all, "full" => full / all }
        end
        private_class_method :likely, :alive, :dead, :buds, :bark, :callus
      end
    end
  end
end
