# frozen_string_literal: true

module Vestry
  module Records
    # Which exercise practises a limb's planned cut, and with which numbers of its own.
    module PracticeNumbers
      # What a method's cuts are called, and the exercise for them.
      EXERCISES = { "flaps" => "to-wood", "slit" => "seat", "panel" => "seat", "cleft" => "line-up",
                    "tongue" => "line-up", "side-tongue" => "line-up" }.freeze
      # Thinner and thicker wood is not shaved for flaps.
      FLAP_MM = (8..40).freeze
      # As thick as most sticks are.
      SCION_MM = 9.0
      private_constant :EXERCISES, :FLAP_MM, :SCION_MM

      module_function

      # @return [Array(String, Hash), nil] the exercise and its numbers; nil where none is for this cut
      def of(limb, today)
        advice = StubAdvice.new(limb, planned: limb.planned, today: today)
        return nil unless advice.technique && advice.stock_mm

        bark = CoreInputs.bark(limb, advice.stock_mm).to_f
        cuts = Core::Graft::Figures.of(advice.technique, stub_mm: advice.stock_mm, scion_mm: SCION_MM, bark_mm: bark,
                                                         rulebook: limb.orchard.rulebook)
        own = numbers(EXERCISES[cuts[:kind]], cuts, advice, bark)
        own && [EXERCISES[cuts[:kind]], own]
      end

      def numbers(name, cuts, advice, bark)
        case name
        when "to-wood" then flaps((advice.stock_mm - 2 * bark).round(1), advice.technique)
        when "seat" then { face_mm: cuts[:face].to_f, scion_mm: SCION_MM, bark_mm: bark }
        when "line-up"
          { length_mm: cuts[:face].to_f, scion_mm: SCION_MM, stock_bark_mm: bark,
            stick_bark_mm: Core::Survey::Bark.call(diameter_mm: SCION_MM)[:bark_mm] }
        end
      end

      def flaps(wood, technique)
        return nil unless FLAP_MM.cover?(wood)

        { scion_mm: wood, stock_wood_mm: wood, flaps: Core::Rulebook.shipped.method_fact(technique, "flaps") }
      end
      private_class_method :numbers, :flaps
    end
  end
end
