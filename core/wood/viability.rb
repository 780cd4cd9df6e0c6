# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # Whether stored wood still lives, by three tests: a cut into a stick, some sticks forced in the warm, and how
      # much of its weight the bundle has lost.
      module Viability
        CUTS = %w[green dull brown].freeze

        module_function

        # What is weighed is water: wood that lost 8 % of its weight in store is used now, and at 15 % it is in doubt.
        # Between weighings of as many sticks what is lost is water; where sticks came or went in between, it begins
        # anew from the next weighing, and what was lost before stays lost.
        # Of n sticks forced, m of which moved, (m + 1) / (n + 2) of the rest are expected to live (Laplace), and no
        # more is claimed of three.
        #
        # @param tests [Array<Hash>] in order, each +on+ and, where it was made, +cut+ (one of CUTS), +forced+ and
        #   +forced_moved+, +weight_g+ with +sticks+ (how many were weighed; nil where nobody knows)
        # @return [Array<Hash>] reasons, the gravest first
        def of(tests, rulebook: Rulebook.shipped)
          [forced(tests, rulebook), cut(tests), weight(tests, rulebook)].compact.sort_by.with_index do |reason, place|
            [GRAVE.index(reason[:code]) || GRAVE.size, place]
          end
        end

        # Whether it is taken as dead: of the sticks that were forced last, none moved.
        #
        # @param tests [Array<Hash>] in order
        def dead?(tests) = tests.reverse.find { |test| test[:forced] }&.fetch(:forced_moved) == 0

        # Whether it is leafy wood that was kept beyond its life: of kinds that never sleep, nothing keeps longer.
        #
        # @param days [Numeric] since it was cut
        def withered?(species, days, rulebook)
          rulebook.evergreen?(species) && days > rulebook.value("species.#{species}.wood_life")
        end

        GRAVE = %w[wood_forced_none wood_cut_brown wood_dried_doubt wood_forced_some wood_cut_dull
                   wood_dried_use].freeze
        private_constant :GRAVE

        def cut(tests)
          last = tests.reverse.find { |test| test[:cut] }
          last && { code: "wood_cut_#{last[:cut]}", on: last[:on] }
        end

        def forced(tests, rulebook)
          last = tests.reverse.find { |test| test[:forced] } or return
          moved, all = last.values_at(:forced_moved, :forced)
          kind = moved.zero? ? "none" : moved < all ? "some" : "all"
          { code: "wood_forced_#{kind}", on: last[:on], moved: moved, forced: all, live: (moved + 1) / (all + 2.0),
            days: rulebook.value("reckoning.wood.forcing_days") }
        end

        def weight(tests, rulebook)
          weighed = tests.select { |test| test[:weight_g] }
          lost = 1 - (left(weighed) or return)
          use, doubt = %w[dried_use dried_doubt].map { |figure| rulebook.value("reckoning.wood.#{figure}") }
          kind = Near.at_least?(lost, doubt) ? "doubt" : Near.at_least?(lost, use) ? "use" : "well"
          { code: "wood_dried_#{kind}", on: weighed.last[:on], lost: lost }
        end

        # The share of its weight that it kept, while there were as many sticks; nil where it was not weighed twice so.
        def left(weighed)
          same = weighed.chunk_while { |one, after| one[:sticks] == after[:sticks] }.select { |some| some.size > 1 }
          same.map { |some| some.last[:weight_g] / some.map { |each| each[:weight_g] }.max }.inject(:*)
        end
        private_class_method :cut, :forced, :weight, :left
      end
    end
  end
end
