# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # How thick the bark of a limb is taken to be until it is measured.
      module Bark
        extend Reckoning

        contract "bark", "How thick bark is taken to be until it is measured" do
          number :diameter_mm, unit: "mm", above: 0, help: "of the limb, bark and all"
          name :species, -> { Rulebook.shipped.species_names }, optional: true
          flag :rough, default: false, help: "old bark in plates"
        end

        # (0.7 + 0.045 d) x 1.6 where it is rough x 1.5 on walnut and pecan; never so thick that no wood is left.
        #
        # @return [Hash] +bark_mm+
        def self.call(diameter_mm:, species: nil, rough: false, rulebook: Rulebook.shipped)
          book = ->(key) { rulebook.value("reckoning.bark.#{key}") }
          thick = book["least"] + book["share"] * diameter_mm
          thick *= book["rough"] if rough
          { bark_mm: [thick * book["thick_kinds"].fetch(species, 1), diameter_mm * book["most"]].min.to_f }
        end
      end
    end
  end
end
