# frozen_string_literal: true

module Vestry
  module Deeds
    # Merges two varieties that turn out to be one: whatever points at the first points at the second from then on.
    module MergeVariety
      # What is taken over from the first where the second does not say it.
      KNOWN = [%i[bloom_from bloom_to], %i[harvest_from harvest_to], %i[vigour], %i[pollen], %i[permission], %i[origin],
               %i[notes]].freeze
      private_constant :KNOWN

      # @param variety [Records::Variety] the one that is merged, and hidden
      # @param into [Records::Variety]
      # @return [Records::Variety] the one that is left
      # @raise [Refused] where they are of two kinds, or one of them is out of sight by now
      def self.call(variety, into, by:)
        DB.transaction do
          # Rows first, as whoever writes them locks them; then both varieties in the order of their ids, so that two
          # who merge them crosswise wait for each other. What was added meanwhile is locked with the rest below.
          Records::VarietyReferences.hold(variety)
          variety, into = Records::Variety.hold(variety, into)
          check(variety, into)
          why = "#{variety.name} is #{into.name}"
          repoint(variety, into, by, why)
          into = Ledger.change(into, lacking(variety, into), by: by, why: why)
          Ledger.hide(variety, by: by, why: why)
          Ledger.change(variety, { same_as_id: into.id }, by: by, why: why)
          into
        end
      end

      def self.repoint(variety, into, by, why)
        Records::VarietyReferences.repoint(variety, into).each do |table, column, ids|
          after = ids.to_h { |id| [id, { column => into.id }] }
          Records::HistoryLog.add_all(after, orchard_id: into.orchard_id, table: table, action: "change", who: by,
                                             before: { column => variety.id }, why: why)
        end
      end

      def self.check(variety, into)
        wrong = if variety.id == into.id then "choose another variety than itself"
                elsif variety.hidden? || into.hidden?
                  "#{[variety, into].find(&:hidden?).name} is out of the register by now"
                elsif variety.species != into.species then "is of another kind"
                end
        raise Refused, same_as: [wrong] if wrong
      end

      # Both ends of a window, or neither.
      def self.lacking(variety, into)
        KNOWN.select { |fields| fields.all? { |field| into[field].nil? } }.flatten
          .to_h { |field| [field, variety[field]] }.compact
      end
      private_class_method :repoint, :check, :lacking
    end
  end
end
