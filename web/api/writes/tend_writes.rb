# frozen_string_literal: true

module Vestry
  module Web
    module Api
      class Writes
        # Aftercare.
        class TendWrites < Writes
          page "tend"

          post "grafts/{id}/visits", "Records a visit", form: Contracts::VisitForm, answers: "visits" do |on, v|
            Deeds::RecordVisit.call(on.graft, Contracts::VisitForm.to_row(v, by: on.by), **on.who)
          end

          TASK = body do
            required(:key).filled(:string, max_size?: 80)
            required(:what).filled(:string, included_in?: Deeds::SettleTask::WHATS)
            optional(:why).filled(:string, max_size?: 300)
            optional(:until_on).filled(Contracts::Form::DAY)
          end
          SETTLE = ->(of, on, v) { Deeds::SettleTask.call(of, v[:key], v[:what], why: v[:why], until_on: v[:until_on],
                                                          **on.who) }
          UNSETTLED = body { required(:key).filled(:string, max_size?: 80) }

          post("grafts/{id}/tasks", "Settles a task of a graft: done, waived or put off", form: TASK,
               answers: "tasks") do |on, v|
            SETTLE.call(on.graft, on, v)
          end
          post("wounds/{id}/tasks", "Settles a task of a stripped trunk", form: TASK, answers: "tasks",
               page: "repair") do |on, v|
            SETTLE.call(on.wound, on, v)
          end
          delete("grafts/{id}/tasks", "Takes back what was settled of a graft's task", form: UNSETTLED) do |on, v|
            Deeds::SettleTask.undo(on.graft, v[:key], by: on.by)
          end
          delete("wounds/{id}/tasks", "Takes back what was settled of a stripped trunk's task", form: UNSETTLED,
                 page: "repair") do |on, v|
            Deeds::SettleTask.undo(on.wound, v[:key], by: on.by)
          end

          LOSS = body do
            required(:lost_on).filled(Contracts::Form::DAY)
            required(:lost_cause).filled(:string, included_in?: Deeds::RecordLoss::CAUSES)
            optional(:lost_note).filled(:string, max_size?: 500)
          end

          put "grafts/{id}/loss", "Records that a graft was lost, and by what", form: LOSS, answers: "grafts" do |on, v|
            Deeds::RecordLoss.call(on.graft, on: v[:lost_on], cause: v[:lost_cause], note: v[:lost_note], **on.who)
          end

          delete "grafts/{id}/loss", "It was not lost after all", answers: "grafts" do |on, _|
            Deeds::RecordLoss.undo(on.graft, by: on.by)
          end

          AGAIN = body { optional(:lost_cause).filled(:string, included_in?: Deeds::RecordLoss::CAUSES) }
          # @return [Records::PlanLimb, Records::PlanSite]
          WORK_AGAIN = lambda do |on, v, filled|
            if on.graft.filled? != filled
              raise Deeds::Refused, graft: ["was#{' not' if filled} set into a bare stretch"]
            end

            Deeds::Regraft.call(on.graft, cause: v[:lost_cause], **on.who)
          end

          post "grafts/{id}/regraft", "Puts a failed stub back into the plan", form: AGAIN,
                                                                               answers: "plan_limbs" do |on, v|
            WORK_AGAIN.call(on, v, false)
          end

          post "grafts/{id}/bare-again", "A bare stretch whose graft failed is bare again, and in the plan",
               form: AGAIN, answers: "plan_sites" do |on, v|
            WORK_AGAIN.call(on, v, true)
          end

          post "limbs/{id}/shortened", "Notes that a nurse limb was shortened as is advised: once for each growth",
               form: body { optional(:on).filled(Contracts::Form::DAY) }, answers: "limb_events" do |on, v|
            Deeds::ShortenNurse.call(on.limb, on: v[:on] || on.today, **on.who)
          end

          HANDS = body { optional(:to).filled(:string, max_size?: 80) }
          put("grafts/{id}/hands", "Gives a graft's aftercare to someone; without a name, back to whoever made it",
              form: HANDS) do |on, v|
            Deeds::HandOver.call([on.graft], to: v[:to], by: on.by)
          end
          put("wounds/{id}/hands", "Gives a stripped trunk's care to someone", form: HANDS) do |on, v|
            Deeds::HandOver.call([on.wound], to: v[:to], by: on.by)
          end
        end
      end
    end
  end
end
