# frozen_string_literal: true

module Vestry
  module Web
    module Api
      class Writes
        # The orchard itself, its rulebook, and the register of varieties.
        class AdminWrites < Writes
          page "settings"

          put "", "Settles where the orchard lies and how it works", form: Contracts::OrchardSettingsForm do |on, v|
            Deeds::SettleOrchard.call(on.orchard, Contracts::OrchardSettingsForm.facts(v), by: on.by,
                                      version: v[:version])
            { slug: on.orchard.slug }
          end

          page "rulebook"

          put "rules/{id}", "Lays the orchard's own value over the rulebook's",
              form: body { required(:value).filled(:string, max_size?: 200); required(:why).filled(:string,
                max_size?: 500) } do |on, v|
            Deeds::Overrule.call(on.orchard, on.id, v[:value], why: v[:why], by: on.by, today: on.today)
            { rule: on.id, value: on.orchard.refresh.overrides.to_h.dig(on.id, "value") }
          end

          delete "rules/{id}", "Goes back to the rulebook's own value" do |on, _|
            Deeds::Overrule.take_back(on.orchard, on.id, by: on.by)
            { rule: on.id, value: nil }
          end

          page "varieties"

          post "varieties", "Writes a variety into the register", form: Contracts::VarietyForm,
              answers: "varieties" do |on, v|
            Deeds::KeepVariety.call(on.orchard, Contracts::VarietyForm.to_row(v), by: on.by)
          end

          put "varieties/{id}", "Writes anew what is known of a variety", form: Contracts::VarietyForm,
               answers: "varieties" do |on, v|
            Deeds::KeepVariety.call(on.orchard, Contracts::VarietyForm.to_row(v), by: on.by,
                                    variety: on.orchard.variety_itself!(on.id),
                                    version: v[:version])
          end

          put "varieties/{id}/same-as", "Two names turn out to be one variety: what names this one names the other",
              form: Contracts::SameVarietyForm, answers: "varieties" do |on, v|
            into = Contracts::Form.named(on.orchard, :variety, v[:same_as], field: :same_as)
            Deeds::MergeVariety.call(on.orchard.variety_itself!(on.id), into, by: on.by)
          end

          post "varieties/{id}/promises", "Notes wood that is promised for a season", form: Contracts::PromiseForm,
                answers: "wood_promises" do |on, v|
            Deeds::PromiseWood.call(on.variety, v, by: on.by)
          end

          ORDER = body do
            required(:sticks).filled(:integer, gteq?: 1, lteq?: Deeds::OrderWood::MOST_STICKS)
            required(:source).filled(:string, max_size?: 200)
            optional(:wanted_by).filled(Contracts::Form::DAY)
          end

          post "varieties/{id}/orders", "Notes wood that was ordered elsewhere for the season that is planned",
               page: "wood/nursery", form: ORDER, answers: "wood_promises" do |on, v|
            Deeds::OrderWood.call(on.orchard, { on.variety.id => v[:sticks] }, season: on.season, source: v[:source],
                                  wanted_by: v[:wanted_by], **on.who).first
          end

          put "wood_promises/{id}/received", "Notes that wood that was ordered came today",
              page: "wood/nursery/received", answers: "wood_promises" do |on, _|
            Deeds::OrderWood.receive(on.orchard.wood_promise!(on.id), on: on.today, by: on.by)
          end

          delete "wood_promises/{id}/received", "It did not come after all", page: "wood/nursery/received",
                 answers: "wood_promises" do |on, _|
            Deeds::OrderWood.receive(on.orchard.wood_promise!(on.id), on: nil, by: on.by)
          end

          delete "wood_promises/{id}", "Withdraws a promise of wood" do |on, _|
            Deeds::PromiseWood.withdraw(on.orchard, on.id, by: on.by)
          end
        end
      end
    end
  end
end
