# frozen_string_literal: true

module Vestry
  module Deeds
    # Records a look at a wounded trunk: the leaves it carries, and how each scion is.
    module VisitWound
      # @param values [Hash] columns of a visit
      # @param fates [Hash{Integer=>Hash}] +fate+ and perhaps +thickness_mm+, by scion
      # @return [Records::WoundVisit]
      # @raise [Refused]
      def self.call(wound, values, fates, by:, today:)
        check(wound, values, fates, today)
        DB.transaction do
          visit = Ledger.add(Records::WoundVisit, values.merge(orchard_id: wound.orchard_id, wound_id: wound.id,
              seen_by: by), by: by)
          next visit if visit.fates.any?

          visit.keep_fates(fates)
          if fates.any?
            Ledger.event(visit, fates.to_h { |id, fate| ["scion #{wound.seated.find { |row| row.id == id }.number}",
                fate[:fate]] }, by: by)
          end
          visit
        end
      end

      def self.check(wound, values, fates, today)
        day = values[:seen_on]
        raise Refused, seen_on: [SaidDay.ahead(today)] if day > today
        raise Refused, seen_on: ["is before the wound was found, on #{SaidDay.of(wound.found_on)}"] if
          day < wound.found_on

        fates.each_key { |id| check_scion(wound, id, day) }
        return if values[:leaves] || values[:blossom_stripped] || !values[:note].to_s.strip.empty? ||
          news?(wound, fates, day)

        raise Refused, leaves: ["note the leaves, a scion's fate or a few words"]
      end

      def self.check_scion(wound, id, day)
        row = wound.seated.find { |each| each.id == id } or raise Refused,
            fates: ["names a scion that is not of this bridge"]
        return unless day < row.set_on

        raise Refused, seen_on: ["is before scion #{row.number} was set, on #{SaidDay.of(row.set_on)}"]
      end

      # That a dead scion is dead is known already.
      def self.news?(wound, fates, day)
        known = wound.fates_by(day)
        fates.any? { |id, seen| seen[:fate] != "dead" || known[id] != "dead" }
      end
      private_class_method :check, :check_scion, :news?
    end
  end
end
