# frozen_string_literal: true

module Vestry
  module Deeds
    # Places the scions of a bridge by hand; each gap and length follows from its place. Those already
    # set stay where they are.
    module PlaceScions
      MOST = 40

      # @param bearings [Array<Float>, nil] nil goes back to the reckoned places
      # @raise [Refused]
      def self.call(wound, bearings, by:)
        DB.transaction do
          # As it is while nobody else sets, places or measures there.
          wound = wound.locked
          check(wound, bearings) if bearings
          wound.planned.each { |row| Ledger.hide(row, by: by) }
          wound.associations.delete(:scions)
          next if bearings.nil?

          last = wound.last_scion
          bearings.sort.each_with_index do |bearing, i|
            at = wound.scion_at(bearing)
            Ledger.add(Records::BridgeScion, { orchard_id: wound.orchard_id, wound_id: wound.id, number: last + i + 1,
                                               bearing_deg: bearing, gap_mm: at[:gap_mm], length_mm: at[:length_mm] },
                       by: by)
          end
        end
      end

      def self.check(wound, bearings)
        raise Refused, bearings: ["#{MOST} scions at most"] if bearings.size > MOST

        set = wound.seated.map { |row| row.bearing_deg.to_f }
        bearings.each_with_index do |bearing, i|
          raise Refused, bearings: ["#{format('%g', bearing)}°: a bearing is from 0 to 359"] unless bearing >= 0 &&
          bearing < 360
          unless wound.shape.gap(bearing).positive?
            raise Refused, bearings: ["#{format('%g', bearing)}°: bark lives there, so there is nothing to bridge"]
          end
          raise Refused, bearings: ["#{format('%g', bearing)}° is named twice"] if bearings[0...i].include?(bearing)
          raise Refused, bearings: ["#{format('%g', bearing)}°: a scion was set there already"] if set.include?(bearing)
        end
      end
      private_class_method :check
    end
  end
end
