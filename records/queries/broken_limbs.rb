# frozen_string_literal: true

module Vestry
  module Records
    # Limbs that broke, died back or were headed, of which nothing was decided since: they wait for a word.
    module BrokenLimbs
      # So long it is asked about; then it has been left as it is.
      PATIENCE = 400

      module_function

      # @return [Array<LimbEvent>] the last of each limb, the latest first
      def of(orchard, today)
        latest(orchard, (today - PATIENCE)..today).from_self(alias: :event).exclude(decided.exists)
          .exclude(grafted.exists).exclude(gone.exists).order(Sequel.desc(:happened_on), Sequel.desc(:id))
          .eager(limb: [:tree, { grafts: %i[visits tallies] }]).all.reject { |event| grows_on?(event.limb) }
      end

      # What lives in its side is what becomes of it.
      def grows_on?(limb) = limb.graft && limb.graft.fate != "lost"

      def latest(orchard, days)
        LimbEvent.in_sight.where(orchard_id: orchard.id, kind: LimbEvent::SHORTER, happened_on: days)
          .distinct(:limb_id).order(:limb_id, Sequel.desc(:happened_on), Sequel.desc(:id))
      end

      def gone
        DB[:limbs].where(Sequel[:limbs][:id] => Sequel[:event][:limb_id])
          .exclude(Sequel[:limbs][:gone_on] => nil, Sequel[:limbs][:hidden_at] => nil).select(1)
      end

      # A plan in use says what becomes of it, at a place that still stands where it is to be worked.
      def decided
        DB[:plan_limbs].join(:plans, id: :plan_id, superseded_at: nil)
          .join(:limbs, id: Sequel[:plan_limbs][:limb_id])
          .where(Sequel[:plan_limbs][:limb_id] => Sequel[:event][:limb_id], Sequel[:plan_limbs][:hidden_at] => nil)
          .where(Sequel.|(PlanQueries.place_stands, { Sequel[:plan_limbs][:cut_mm] => nil },
                          Sequel.~(Sequel[:plan_limbs][:role] => TreePlan::WORKED))).select(1)
      end

      def grafted
        DB[:grafts].where(Sequel[:grafts][:limb_id] => Sequel[:event][:limb_id], Sequel[:grafts][:hidden_at] => nil)
          .where(Sequel[:grafts][:grafted_on] >= Sequel[:event][:happened_on]).select(1)
      end
      private_class_method :grows_on?, :latest, :gone, :decided, :grafted
    end
  end
end
