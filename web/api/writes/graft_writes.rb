# frozen_string_literal: true

module Vestry
  module Web
    module Api
      class Writes
        # The grafting day.
        class GraftWrites < Writes
          page "graft"

          post "sites/{id}/grafts", "Logs a graft set into a bare stretch, which is a limb from then on",
               form: Contracts::FillSiteForm, answers: "grafts" do |on, v|
            Deeds::FillSite.call(on.site, Contracts::FillSiteForm.to_row(on.reading, on.orchard),
                                 bundle: Contracts::LogGraftForm.named(on.orchard, :bundle, v[:bundle]), **on.who)
          end

          put "grafts/{id}", "Corrects a graft that was logged; what is left out is not known",
              form: Contracts::CorrectGraftForm, answers: "grafts" do |on, v|
            Deeds::CorrectGraft.call(on.graft, Contracts::CorrectGraftForm.to_row(on.reading, on.orchard),
                                     bundle: Contracts::LogGraftForm.named(on.orchard, :bundle, v[:bundle]),
                                     version: v[:version], **on.who)
          end

          post "limbs/{id}/grafts", "Logs a graft; what is left out is as it was planned",
               form: Contracts::LogGraftForm,
                answers: "grafts" do |on, v|
            Deeds::LogGraft.call(on.limb, Contracts::LogGraftForm.to_row(on.reading, on.limb),
                                 bundle: Contracts::LogGraftForm.named(on.orchard, :bundle, v[:bundle]), **on.who)
          end

          post "limbs/{id}/undone", "Leaves a planned limb undone, and says why",
               form: body { required(:why).filled(:string, max_size?: 300) }, answers: "plan_limbs" do |on, v|
            Deeds::LeaveUndone.call(on.planned, v[:why], on: on.today, by: on.by)
          end
        end
      end
    end
  end
end
