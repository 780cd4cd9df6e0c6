# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # What each graft has become as a limb, and what to do to it this winter.
      module Scaffold
        module_function

        # @param angle_deg [Float, nil] of the graft's limb above the level
        # @param seasons [Integer] since the graft, the first its own
        # @param section_mm2 [Float, nil] of the graft above its union
        # @param stub_mm [Float]
        # @param closed [Float] share of the stub
        # @param sticks [Integer] still on the stub
        # @return [Array<Hash>] reasons: what it is and what to do, the most pressing first
        def of(seasons:, stub_mm:, closed:, sticks:, angle_deg: nil, section_mm2: nil, growth_mm: nil, pinched: false,
               rulebook: Rulebook.shipped)
          told = [stands(section_mm2, stub_mm, seasons, rulebook)]
          told << { code: "scaffold_pinched" } if pinched
          if angle_deg && angle_deg > rulebook.value("reckoning.scaffold.steep") + Near::TOLERANCE
            told << { code: "scaffold_spread", angle_deg: angle_deg }
          end
          if angle_deg && angle_deg < rulebook.value("reckoning.scaffold.flat") - Near::TOLERANCE
            told << { code: "scaffold_lift", angle_deg: angle_deg }
          end
          told << { code: "scaffold_thin", sticks: sticks } if sticks > 1 && seasons >= 2
          told << { code: "scaffold_others_off", sticks: sticks } if sticks > 1 && Near.at_least?(closed, 1)
          if growth_mm && growth_mm > rulebook.value("reckoning.vigour.long_shoot")
            told << { code: "scaffold_head_back", growth_mm: growth_mm }
          end
          told.compact
        end

        # Since when its stub has all but closed, and since when it carries itself as a limb, by its autumn counts.
        #
        # @param counts [Array<Hash>] in order, each +on+ and, where they were measured, +open_a_mm+, +open_b_mm+,
        #   +above_mm+ and +sticks_alive+
        # @return [Hash] +closed_on+ and +scaffold_on+, each nil while it is not yet so
        def since(stub_mm, counts, rulebook: Rulebook.shipped)
          closed = counts.find do |each|
            each[:open_a_mm] && each[:open_b_mm] &&
              Near.at_least?(1 - each[:open_a_mm] * each[:open_b_mm] / stub_mm.to_f**2,
                             rulebook.value("reckoning.scaffold.braced_until"))
          end
          limb = counts.find do |each|
            each[:above_mm] && Near.at_least?(grown_back(each[:above_mm], stub_mm, each[:sticks_alive]),
                                              rulebook.value("reckoning.scaffold.limb_share"))
          end
          { closed_on: closed&.fetch(:on), scaffold_on: limb&.fetch(:on) }
        end

        # A graft's own wood, in mm².
        #
        # @param sticks [Integer, nil] that live
        def section(above_mm, sticks) = Math::PI * above_mm**2 / 4 * (sticks || 1)

        # How thick one stick of that section is, in mm.
        #
        # @param sticks [Integer, nil] that live
        def as_one(above_mm, sticks) = above_mm * Math.sqrt([sticks || 1, 1].max)

        # What of its stub's section that is, 0..1: how much of the limb has grown back.
        def grown_back(above_mm, stub_mm, sticks) = [section(above_mm, sticks) / (Math::PI * stub_mm**2 / 4), 1.0].min

        # A graft is a limb once its own wood has most of the stub's section.
        def stands(section, stub_mm, seasons, rulebook)
          return { code: "scaffold_unmeasured" } unless section

          share = section / (Math::PI * stub_mm**2 / 4)
          { code: Near.at_least?(share, rulebook.value("reckoning.scaffold.limb_share")) ? "scaffold_is_limb" :
            "scaffold_grows", share: share, seasons: seasons }
        end
        private_class_method :stands
      end
    end
  end
end
