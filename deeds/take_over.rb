# frozen_string_literal: true

module Vestry
  module Deeds
    # Lets a side branch take over from the limb it grows from: the branch is worked first, and
    # the old top comes off above it some seasons later.
    module TakeOver
      # @return [Integer] the season in which the top comes off
      # @raise [Refused]
      def self.call(branch, by:, first:)
        parent = branch.parent or raise Refused,
                                        role: ["#{branch.tag} grows from the trunk; only a side branch can take over"]
        raise Refused, role: ["#{parent.tag} has come off"] if parent.gone_on || parent.hidden?

        at = Core::Plan::TopOff.at(branch.fork_mm, Records::CoreInputs.section(branch)[:diameter_mm],
                                   branch.orchard.rulebook)
        if at >= parent.length_mm
          raise Refused, role: ["#{branch.tag} leaves #{parent.tag} at its very end; there is no top to take off"]
        end

        off = first + branch.orchard.rulebook.value("reckoning.pace.take_over_after")
        DB.transaction do
          DecideLimb.call(branch, { role: "work", season: first }, by: by, season: first)
          row = DecideLimb.call(parent, { role: "lift", season: off }, by: by, season: first)
          Ledger.change(row, { cut_mm: at.round(1), technique: nil, variety_id: nil, sticks: nil }, by: by,
                        why: "#{branch.tag} takes over")
        end
        off
      end
    end
  end
end
