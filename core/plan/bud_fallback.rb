# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # The bud that stands in for a stub's graft where that fails: how many buds, on which shoots of the regrowth, and
      # the wood that they want.
      module BudFallback
        module_function

        # So many buds that one of them takes at the confidence of a wood reserve, from two to three of the stub's
        # shoots; a stick of this summer's growth gives its length by the spacing of its buds. A shoot is as thick at
        # its foot as Tend::Union takes it by its length.
        #
        # @param take [Float] share of single buds that take, 0..1
        # @param shoot_mm [Numeric] a shoot of the stub by late summer
        # @param days [Range<Date>] in which the regrowth can be budded
        # @param stick_mm [Numeric] length of a stick of wood
        # @return [Hash] +buds+, +shoots_mm+ (thin, thick) or nil where the regrowth stays too thin, +sticks+, +from+,
        #   +until+ and +take+ (that one of them takes)
        def of(take:, shoot_mm:, days:, stick_mm:, rulebook: Rulebook.shipped)
          count = count(take, rulebook)
          { buds: count, shoots_mm: shoots(shoot_mm, rulebook),
            sticks: sticks(1, take, stick_mm, rulebook), from: days.begin, until: days.end,
            take: 1 - (1 - take)**count }
        end

        # Sticks of this summer's wood for the buds of so many stubs.
        #
        # @return [Integer]
        def sticks(stubs, take, stick_mm, rulebook)
          (stubs * count(take, rulebook) / buds_of_stick(stick_mm, rulebook)).ceil
        end

        # @return [Float] buds fit to be set, of one stick
        def buds_of_stick(stick_mm, rulebook)
          [(stick_mm / rulebook.value("reckoning.wood.bud_spacing").to_f).floor, 1].max.to_f
        end

        def count(take, rulebook)
          low, high = rulebook.value("reckoning.buds.on_a_stub")
          return take.positive? ? low : high unless take.positive? && take < 1

          (Math.log(1 - rulebook.value("reckoning.wood.confidence")) / Math.log(1 - take)).ceil.clamp(low, high)
        end

        # Chips go where shields do, and where bark has closed.
        def shoots(shoot_mm, rulebook)
          low, high = rulebook.value("methods.chip-bud.stock_works")
          foot = [Tend::Union.foot(shoot_mm, rulebook), high].min
          foot < low ? nil : [low.to_f, foot]
        end
        private_class_method :count, :shoots
      end
    end
  end
end
