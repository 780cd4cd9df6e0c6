# frozen_string_literal: true

module Vestry
  module Records
    # Questions the stations ask of an orchard as a whole.
    module Reading
      module_function

      # Each tree's state in a word: trouble, grafted, planned or open.
      def tree_states(orchard)
        grafted = orchard.grafts_dataset.where(Sequel[:grafts][:hidden_at] => nil)
                         .join(:limbs, id: :limb_id).distinct.select_map(Sequel[:limbs][:tree_id])
        planned = Plan.where(orchard_id: orchard.id, superseded_at: nil).select_map(:tree_id)
        states = planned.to_h { |id| [id, "planned"] }
        grafted.each { |id| states[id] = "grafted" }
        states
      end

      # Limbs to be worked in a season that carry no graft yet, in walking order.
      def waiting_stubs(orchard, season)
        PlanLimb.in_sight.where(Sequel[:plan_limbs][:orchard_id] => orchard.id, role: %w[work backup])
                .where { Sequel[:plan_limbs][:season] <= season }
                .join(:plans, id: :plan_id, superseded_at: nil).join(:limbs, id: Sequel[:plan_limbs][:limb_id])
                .join(:trees, id: Sequel[:limbs][:tree_id])
                .exclude(Sequel[:plan_limbs][:limb_id] => Graft.where(hidden_at: nil, orchard_id: orchard.id).select(:limb_id))
                .order(:row, :number, Sequel[:limbs][:tag]).select_all(:plan_limbs).limit(500)
                .eager(:variety, limb: %i[tree orchard]).all
      end

      # Everything that happened to a limb, in order.
      def story(limb)
        events = [{ on: limb.surveyed_on, kind: :surveyed, row: limb }]
        limb.grafts.each do |graft|
          events << { on: graft.grafted_on, kind: :grafted, row: graft }
          events.concat(graft.observations.map { |each| { on: each.seen_on, kind: :visited, row: each } })
          events.concat(graft.tasks_done.map { |each| { on: each.done_on, kind: :settled, row: each } })
          events.concat(graft.tallies.map { |each| { on: each.tallied_on, kind: :tallied, row: each } })
        end
        order = %i[surveyed grafted visited settled tallied]
        events.sort_by { |event| [event[:on], order.index(event[:kind]), event[:row].id] }
      end
    end
  end
end
