# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # What to do when there are fewer sticks of a variety than its stubs want: which stubs get them, and how far
      # the wood can be stretched.
      module Shortage
        # A spare stub is worth so little beside one that is to stay that it gets wood last.
        SPARE = 1e-6
        private_constant :SPARE

        module_function

        # Sticks go where they do most (Wood::Scarce); backups come last.
        #
        # @param stubs [Array<Hash>] +id+, +sticks+, +role+, +share+ (of its tree's head, or what stands for it;
        #   nil where it is not known: it counts as the mean of the others), +take+ (of single sticks) and +stock_mm+
        # @param have [Integer] sticks there are or will be
        # @param stick_mm [Numeric] how long sticks are cut here
        # @return [Hash] +wanted+, +have+, +short+ (sticks), +allotted+ (sticks by id), +drop+ (ids that go without,
        #   first to go first), +thin+ (sticks saved by one stick a stub), +short_sticks+ (sticks there would be, cut to
        #   two buds), +one_bud+ (cut to one, for stubs that are thick enough), +single_buds+ (buds there would be, for
        #   thin shoots) and +enough+: the least that would do, of "thin", "short_sticks", "one_bud", "single_buds", or
        #   nil
        def of(stubs:, have:, stick_mm:, rulebook: Rulebook.shipped)
          wanted = stubs.sum { |each| each[:sticks] }
          allotted, worth = allot(stubs, have), worth(stubs)
          { wanted: wanted, have: have, short: [wanted - have, 0].max, allotted: allotted,
            drop: stubs.select { |each| allotted[each[:id]].zero? && each[:sticks].positive? }
              .sort_by.with_index { |each, place| [worth[each[:id]] * each[:take], -place] }.map { |each| each[:id] },
            **stretched(stubs, have, wanted, stick_mm, rulebook) }
        end

        # How many sticks each stub gets.
        #
        # @return [Hash] by id
        def allot(stubs, have)
          worth = worth(stubs)
          places = stubs.map do |each|
            { id: each[:id], worth: worth[each[:id]], take: each[:take], most_sticks: each[:sticks] }
          end
          most = stubs.sum { |each| each[:sticks] }
          Wood::Scarce.call(stubs: places, sticks: [have, most].min)[:stubs]
            .to_h { |each| each.values_at(:id, :sticks) }
        end

        # As a share of the dearest, so that what it is measured in does not matter.
        #
        # @return [Hash] by id
        def worth(stubs)
          known = stubs.map { |each| each[:share].to_f }.select(&:positive?)
          most, mean = known.empty? ? [1.0, 1.0] : [known.max, known.sum / known.size]
          stubs.to_h do |each|
            share = each[:share].to_f.positive? ? each[:share].to_f : mean
            [each[:id], share / most * (each[:role] == "backup" ? SPARE : 1)]
          end
        end

        # How far shorter sticks, sticks of one bud and buds go: one bud wants a stub that holds it, and buds a young
        # shoot.
        def stretched(stubs, have, wanted, stick_mm, rulebook)
          book = ->(key) { rulebook.value("reckoning.wood.#{key}") }
          from_stick = %w[short_stick one_bud bud_spacing].map { |key| (stick_mm / book[key].to_f) }
          short_sticks, one_bud, buds = (have * from_stick[0]).floor, from_stick[1].floor, from_stick[2].floor
          { thin: stubs.sum { |each| [each[:sticks] - 1, 0].max }, short_sticks: short_sticks, one_bud: one_bud * have,
            single_buds: buds * have,
            enough: enough(stubs, have, wanted, short_sticks) || by_buds(stubs, have, wanted, [one_bud, buds], book) }
        end

        def enough(stubs, have, wanted, short_sticks)
          return nil if wanted <= have
          return "thin" if stubs.size <= have

          "short_sticks" if short_sticks >= wanted
        end

        # Thick stubs take sticks of one bud, and thin shoots buds.
        def by_buds(stubs, have, wanted, (one_bud, buds), book)
          return nil if wanted <= have || one_bud.zero?

          thick, thin = stubs.partition { |each| each[:stock_mm].to_f >= book["one_bud_from"] }.map(&:size)
          sticks = (thick / one_bud.to_f).ceil + (thin / buds.to_f).ceil
          (thick.positive? ? "one_bud" : "single_buds") if sticks <= have
        end
        private_class_method :enough, :by_buds
        private_class_method :worth, :stretched
      end
    end
  end
end
