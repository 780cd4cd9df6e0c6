# frozen_string_literal: true

module Vestry
  module Core
    module Graft
      # How much tape a wrap takes.
      module Tape
        extend Reckoning

        contract "tape", "How much tape a wrap takes" do
          number :diameter_mm, unit: "mm", above: 0, help: "of what is wrapped"
          number :wrap_mm, unit: "mm", above: 0, help: "length along the limb that is wrapped"
          number :tape_mm, unit: "mm", above: 0, help: "width of the tape"
          number :overlap, least: 0, below: 1, help: "share of its width laid over the turn before"
          integer :passes, above: 0, most: 100, default: 1
        end

        # A helix: pitch = tape x (1 - overlap), turns = wrap / pitch, length = passes x turns x
        # sqrt((pi d)^2 + pitch^2).
        #
        # @return [Hash] +turns+ (of one pass) and +length_mm+
        def self.call(diameter_mm:, wrap_mm:, tape_mm:, overlap:, passes: 1, rulebook: nil)
          pitch = tape_mm * (1 - overlap)
          turns = wrap_mm / pitch
          { turns: turns, length_mm: passes * turns * Math.hypot(Math::PI * diameter_mm, pitch) }
        end
      end
    end
  end
end
