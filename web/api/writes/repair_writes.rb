# frozen_string_literal: true

module Vestry
  module Web
    module Api
      class Writes
        # Stripped trunks.
        class RepairWrites < Writes
          page "repair"

          post "wounds", "Notes stripped trunks, a line each", form: Contracts::NewWoundsForm,
              answers: %w[wounds] do |on, v|
            Deeds::FindWounds.call(on.orchard, Deeds::FindWounds.read(on.orchard, v[:lines]), v, **on.who)
          end

          put "wounds/{id}", "Measures a wound: its girth, its margins, how it lies", form: Contracts::MeasureWoundForm,
                answers: "wounds" do |on, v|
            row, margins = Contracts::MeasureWoundForm.to_row(on.reading, on.wound.tree, on.orchard.units)
            Deeds::MeasureWound.call(on.wound, row, margins, version: v[:version], **on.who)
          end

          put "wounds/{id}/course", "Decides what is done about a wound", page: "repair/1/course",
               form: body { required(:course).filled(:string, included_in?: Records::Wound::COURSES) },
                         answers: "wounds" do |on, v|
            Deeds::Ledger.change(on.wound, { course: v[:course] }, by: on.by)
          end

          post "wounds/{id}/covered", "Notes that the bare wood is covered", answers: "wounds" do |on, _|
            on.wound.then { |wound| wound.covered_on ? wound :
                            Deeds::Ledger.change(wound, { covered_on: on.today, drying: false }, by: on.by) }
          end

          put "wounds/{id}/places", "Places scions by hand; without bearings, where they are reckoned",
              form: body { optional(:bearings).filled(:string, max_size?: 400) } do |on, v|
            Deeds::PlaceScions.call(on.wound, v[:bearings] && Contracts::LogRepairForm.bearings(v[:bearings]),
                                    by: on.by)
          end

          post "wounds/{id}/repairs", "Logs what was done to a wound", form: Contracts::LogRepairForm,
               answers: "wounds" do |on, v|
            Deeds::LogRepair.call(on.wound, v.merge(left_mm: v[:left], scions: Contracts::LogRepairForm.set(v,
              Records::WoundReport.new(on.wound, on.today).places(v[:course]), on.orchard.units)), **on.who)
          end

          post "wounds/{id}/visits", "Records a look at a wound, and the fate of its scions",
               form: Contracts::VisitWoundForm, answers: "wound_visits" do |on, v|
            Deeds::VisitWound.call(on.wound, Contracts::VisitWoundForm.to_row(v),
                                   Contracts::VisitWoundForm.fates(v, on.wound.seated),
                                   **on.who)
          end
        end
      end
    end
  end
end
