# frozen_string_literal: true

module Vestry
  module Records
    # One scion of a bridge, or one young stock inarched: where it goes, and since when it is there.
    class BridgeScion < Sequel::Model(DB[:bridge_scions])
      include Row
      many_to_one :orchard
      many_to_one :wound
      many_to_one :bundle

      # Whether a visit in sight says how it fares.
      def looked_at?
        !DB[:scion_fates].where(orchard_id: orchard_id, scion_id: id)
          .where(visit_id: WoundVisit.in_sight.where(wound_id: wound_id).select(:id)).empty?
      end
    end
  end
end
