# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # Plans of TenYears that are tried for the best of them.
      class PlansTried
        PASSES = 3
        private_constant :PASSES

        # One limb's choice changed.
        def self.changed(plan, id, **other)
          { **plan, limbs: plan[:limbs].map { |each| each[:id] == id ? { **each, **other } : each } }
        end

        # @param shown [Hash] the exercise
        # @param years [PlannedYears]
        def initialize(shown, years)
          @shown = shown
          @years = years
          @limbs = shown[:limbs].to_h { |limb| [limb[:id], limb] }
          @by_share = shown[:limbs].sort_by { |limb| -limb[:share] }
          @rough = {}
        end

        # Each limb, the thickest first, into the first of some springs that has room for it, with a stick.
        #
        # @param order [Array<Integer>] the springs
        # @return [Hash] a plan
        def seat(order)
          room = order.to_h { |spring| [spring, @shown[:cap]] }
          chosen = @by_share.to_h do |limb|
            spring = order.find { |each| Near.at_most?(limb[:share], room[each]) } || order.last
            room[spring] -= limb[:share]
            [limb[:id], { id: limb[:id], spring: spring, sticks: 1, braced: false }]
          end
          { limbs: @limbs.keys.map { |id| chosen[id] }, nurse_off: @shown[:years] }
        end

        # As early as can be, the first sticks to the larger stubs, ties to what stands in the wind.
        def start
          @start ||= begin
            plan = @by_share.sort_by { |limb| [limb[:windy] ? 0 : 1, -limb[:share]] }.first(@shown[:braces])
              .reduce(seat(springs.to_a)) { |tied, limb| changed(tied, limb[:id], braced: true) }
            most = @by_share.map { |limb| limb[:most] }.max
            (1...most).reduce(plan) { |more, _| @by_share.reduce(more) { |one, limb| with_one_more(one, limb) } }
          end
        end

        # The start, changed limb by limb for as long as that is worth more.
        def improved
          PASSES.times.reduce(start) { |plan, _| moves.reduce(plan) { |best, move| tried(best, move) } }
        end

        private

        def changed(...) = self.class.changed(...)
        def springs = 1..@shown[:springs]

        def with_one_more(plan, limb)
          sticks = choice(plan, limb[:id])[:sticks] + 1
          more = changed(plan, limb[:id], sticks: sticks)
          sticks > limb[:most] || !@years.allowed?(more) ? plan : more
        end

        def choice(plan, id) = plan[:limbs].find { |each| each[:id] == id }

        # One limb's choice, a stick or a tie given by one limb to another, or two that change springs.
        def moves
          ids = @limbs.keys
          ids.flat_map { |id| [[:spring, id], [:sticks, id]] } + ids.permutation(2).map { |pair| [:stick_to, *pair] } +
            ids.combination(2).flat_map { |pair| [[:tie_to, *pair], [:exchange, *pair]] }
        end

        def tried(best, move)
          candidates(best, *move).select { |plan| @years.allowed?(plan) }
            .reduce(best) { |one, other| quick(other) > quick(one) + Near::TOLERANCE ? other : one }
        end

        def quick(plan) = (@rough[plan[:limbs]] ||= @years.roughly(plan))

        def candidates(plan, kind, id, other = nil)
          mine, theirs = choice(plan, id), other && choice(plan, other)
          case kind
          when :spring then springs.map { |spring| changed(plan, id, spring: spring) }
          when :sticks then (1..@limbs.fetch(id)[:most]).map { |sticks| changed(plan, id, sticks: sticks) }
          when :stick_to then given(plan, mine, theirs)
          when :tie_to then exchanged(plan, mine, theirs, :braced)
          when :exchange then exchanged(plan, mine, theirs, :spring)
          end
        end

        def given(plan, mine, theirs)
          return [] if mine[:sticks] < 2 || theirs[:sticks] >= @limbs.fetch(theirs[:id])[:most]

          [changed(changed(plan, mine[:id], sticks: mine[:sticks] - 1), theirs[:id], sticks: theirs[:sticks] + 1)]
        end

        def exchanged(plan, mine, theirs, what)
          return [] if mine[what] == theirs[what]

          [changed(changed(plan, mine[:id], what => theirs[what]), theirs[:id], what => mine[what])]
        end

      end
    end
  end
end
