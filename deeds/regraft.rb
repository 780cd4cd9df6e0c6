# frozen_string_literal: true

module Vestry
  module Deeds
    # Puts a failed graft back into the plan, and so onto the list of wood and the days to come, with what stood there
    # before unless something else is decided: a stub a little lower, to fresh wood; a joined plant a little higher.
    module Regraft
      # @return [Records::PlanLimb, Records::PlanSite] a bare stretch's where it was set into one, which is bare again
      # @raise [Refused]
      def self.call(graft, by:, today:, cause: nil)
        DB.transaction do
          graft = held(graft)
          if graft.fate != "lost"
            raise Refused, graft: ["has not failed: record the visit that found it dead first"]
          end
          raise Refused, graft: ["stands on a limb that is gone"] if graft.limb.gone_on

          raise Refused, graft: ["stands too near the fork to be cut again"] if graft.no_room?

          beside!(graft, today)
          unless graft.lost_on
            RecordLoss.call(graft, on: lost_on(graft, today), cause: cause || "failed", by: by, today: today)
          end
          graft.filled? ? fill_again(graft, today, by) : work_again(graft.limb, graft, today, by)
        end
      end

      # Whoever logs a graft on its limb, or a visit to it or to one beside it, at the same moment is waited for.
      def self.held(graft)
        graft.limb.tree.locked
        limb = graft.limb.locked
        limb.grafts.each(&:lock!).find { |each| each.id == graft.id } || graft.locked
      end

      # A stub on which another lives is not cut back, and a limb that was grafted again is that one's.
      def self.beside!(graft, today)
        other = graft.living_mate(today) || graft.followed_by(today) or return

        raise Refused, graft: ["is not to be made again: #{other.variety.name} of #{SaidDay.of(other.grafted_on)} " \
                               "stands in its place"]
      end

      def self.work_again(limb, graft, today, by)
        DecideLimb.call(limb, values(graft, today), by: by, season: limb.orchard.season_to_plan(today))
        limb.reload.planned
      end

      def self.fill_again(graft, today, by)
        again = { role: "work", season: season_again(graft, today), technique: graft.technique,
                  variety: graft.variety_id }
        site = BareAgain.call(graft, on: today, by: by)
        DecideSite.call(site, again, by: by, season: graft.orchard.season_to_plan(today))
      end

      def self.season_again(graft, today) = graft.orchard.last_days(today).season_again(graft)

      # Why it is planned where the rulebook would not have it.
      REASONS = { "stub" => "worked again, lower on the same stub", "side" => "another beside the one that died",
                  "bud" => "budded again", "approach" => "joined again" }.freeze
      private_constant :REASONS

      def self.values(graft, today)
        { role: "work", season: season_again(graft, today), technique: graft.technique,
          variety: graft.variety_id, cut: graft.fresh_cut_mm || graft.rejoined_mm || graft.cut_mm&.to_f,
          against_reason: REASONS.fetch(graft.kind) }.compact
      end

      def self.lost_on(graft, today)
        graft.outcome(today)[:lost_on] || today
      end
      private_class_method :held, :beside!, :values, :lost_on, :work_again, :fill_again, :season_again
    end
  end
end
