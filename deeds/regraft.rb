# frozen_string_literal: true

module Vestry
  module Deeds
    # Puts a failed stub back into the plan, and so onto the list of wood and the days to come: a little
    # lower, to fresh wood, with what stood there before unless something else is decided.
    module Regraft
      # @return [Records::PlanLimb]
      # @raise [Refused]
      def self.call(graft, by:, today:, cause: nil)
        raise Refused, graft: ["has not failed: record the visit that found it dead first"] unless graft.fate == "lost"

        limb = graft.limb
        raise Refused, graft: ["stands on a limb that is gone"] if limb.gone_on

        DB.transaction do
          unless graft.lost_on
            RecordLoss.call(graft, on: lost_on(graft, today), cause: cause || "failed", by: by, today: today)
          end
          DecideLimb.call(limb, values(graft, today), by: by, season: season(graft.orchard, limb.tree.species, today))
          limb.reload.planned
        end
      end

      # This season while there is time, else the next.
      def self.season(orchard, species, today)
        last = orchard.last_days(today).regraft(species)
        this = orchard.season.name_of(today)
        today <= last && orchard.season_to_plan(today) == this ? this : this + 1
      end

      def self.values(graft, today)
        { role: "work", season: season(graft.orchard, graft.limb.tree.species, today), technique: graft.technique,
          variety: graft.variety_id, cut: graft.fresh_cut_mm || graft.cut_mm&.to_f,
          against_reason: "worked again, lower on the same stub" }.compact
      end

      def self.lost_on(graft, today)
        graft.outcome(today)[:lost_on] || today
      end
      private_class_method :values, :lost_on
    end
  end
end
