# frozen_string_literal: true

module Vestry
  module Deeds
    # A person takes a planned limb on, or gives it back.
    module TakeOnLimb
      # @param by [String] the name under which their grafts stand
      # @param mine [Boolean] whether it is taken on
      # @param any [Boolean] whether what somebody else took on may be given back
      # @return [Records::PlanLimb]
      # @raise [Refused] where nothing is planned, it was grafted, or somebody else took it on
      def self.call(limb, by:, mine:, any: false)
        DB.transaction do
          if mine && !Records::Membership.still?(limb.orchard_id, by, "grafter")
            raise Refused, hand: ["#{by} no longer grafts here"]
          end

          row = limb.planned&.locked or raise Refused, hand: ["#{limb.label} is not to be worked"]
          raise Refused, hand: ["#{limb.label} is not to be worked"] if mine && !(row.complete? && row.waits?)
          raise Refused, hand: ["#{row.hand} took #{limb.label} on"] if row.hand && row.hand != by && !(any && !mine)

          Ledger.change(row, { hand: mine ? by : nil }, by: by)
        end
      end
    end
  end
end
