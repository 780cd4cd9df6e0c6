# frozen_string_literal: true

module Vestry
  module Deeds
    # Two names of one variety become one: whatever names the one that is given up names the other from then on.
    module JoinVariety
      # What is known of a variety: what of it is not written of the one that stays is taken over.
      KNOWN = [%i[bloom_from bloom_to], %i[harvest_from harvest_to], %i[vigour], %i[pollen], %i[permission], %i[origin],
               %i[notes]].freeze
      private_constant :KNOWN

      # @param variety [Records::Variety] the name that is given up
      # @param stays [Records::Variety]
      # @return [Records::Variety] the one that stays
      # @raise [Refused] where they are of two kinds, or one of them is out of sight by now
      def self.call(variety, stays, by:)
        DB.transaction do
          # First what names it, as whoever writes of it does; then both names, always in the same order, so that who
          # joins them the other way round waits. What came meanwhile is held with the rest below.
          Records::NamedVariety.hold(variety)
          variety, stays = Records::Variety.hold(variety, stays)
          check(variety, stays)
          why = "#{variety.name} is #{stays.name}"
          rename(variety, stays, by, why)
          stays = Ledger.change(stays, lacking(variety, stays), by: by, why: why)
          Ledger.hide(variety, by: by, why: why)
          Ledger.change(variety, { same_as_id: stays.id }, by: by, why: why)
          stays
        end
      end

      def self.rename(variety, stays, by, why)
        Records::NamedVariety.rename(variety, stays).each do |table, column, ids|
          after = ids.to_h { |id| [id, { column => stays.id }] }
          Records::HistoryLog.add_all(after, orchard_id: stays.orchard_id, table: table, action: "change", who: by,
                                             before: { column => variety.id }, why: why)
        end
      end

      def self.check(variety, stays)
        wrong = if variety.id == stays.id then "choose another variety than itself"
                elsif variety.hidden? || stays.hidden?
                  "#{[variety, stays].find(&:hidden?).name} is out of the register by now"
                elsif variety.species != stays.species then "is of another kind"
                end
        raise Refused, same_as: [wrong] if wrong
      end

      # Both ends of a window, or neither.
      def self.lacking(variety, stays)
        KNOWN.select { |fields| fields.all? { |field| stays[field].nil? } }.flatten
          .to_h { |field| [field, variety[field]] }.compact
      end
      private_class_method :rename, :check, :lacking
    end
  end
end
