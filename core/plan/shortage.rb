# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # What to do when there are fewer sticks of a variety than its stubs want: which to drop
      # first, and how far the wood can be stretched.
      module Shortage
        module_function

        # Backups are dropped before main limbs, then the stubs that give back the least head for
        # a stick, until what is left can be served.
        #
        # @param stubs [Array<Hash>] +id+, +sticks+, +role+, +share+ (of its tree's head)
        # @param have [Integer] sticks there are or will be
        # @param stick_mm [Numeric] how long sticks are cut here
        # @return [Hash] +wanted+, +have+, +short+ (sticks), +drop+ (ids, first to go first), +thin+ (sticks
        #   saved by one stick a stub), +short_sticks+ (sticks there would be, cut to two buds),
        #   +single_buds+ (places there would be, worked as single buds) and +enough+: the least that
        #   would do, of "thin", "short_sticks", "single_buds", or nil
        def of(stubs:, have:, stick_mm:, rulebook: Rulebook.shipped)
          wanted = stubs.sum { |each| each[:sticks] }
          short = [wanted - have, 0].max
          gone = 0
          drop = short.zero? ? [] : order(stubs).take_while { |stub| (gone < short).tap { gone += stub[:sticks] } }
          stretched = (have * stick_mm / rulebook.value("reckoning.wood.short_stick")).floor
          buds = have * (stick_mm / rulebook.value("reckoning.wood.bud_spacing")).floor
          thin = stubs.sum { |each| each[:sticks] - 1 }
          enough = if short.zero? then nil
                   elsif thin >= short then "thin"
                   elsif stretched >= wanted then "short_sticks"
                   elsif buds >= stubs.size then "single_buds"
                   end
          { wanted: wanted, have: have, short: short, drop: drop.map { |each| each[:id] }, thin: thin,
            short_sticks: stretched, single_buds: buds, enough: enough }
        end

        def order(stubs)
          stubs.sort_by.with_index do |stub, place|
            [stub[:role] == "backup" ? 0 : 1, stub[:share].to_f / [stub[:sticks], 1].max, place]
          end
        end
        private_class_method :order
      end
    end
  end
end
