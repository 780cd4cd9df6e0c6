# frozen_string_literal: true

module Vestry
  module Web
    module Admin
      # The register of varieties: when they bloom and ripen, how they grow, whose wood it is.
      class VarietyPages < Base
        helpers do
          def list(reading: nil)
            all = orchard.varieties_in_sight
            erb :"varieties/list", locals: { all: all, reading: reading ||
                                             Contracts::VarietyForm.blank(species: orchard.species.first),
                                             now: Headline.new(orchard, today).varieties(all) }
          end

          def current_values(variety)
            variety.values.slice(*Contracts::VarietyForm.schema.key_map.map { |key| key.name.to_sym })
              .merge(Contracts::VarietyForm::DAYS.to_h { |name| [name, spoken_day(variety[name])] })
          end

          def one(variety, reading: nil, promise: nil)
            erb :"varieties/one", locals: { variety: variety,
                                            reading: reading || Contracts::VarietyForm.blank(current_values(variety)),
                                            promise: promise || Contracts::PromiseForm
                                              .blank(season: orchard.season_to_plan(today)),
                                            frost: orchard.weather(today).frost(variety), places: Records::GraftQueries
                                              .where_stands(variety), now: Headline.new(orchard, today)
                                                .varieties(orchard.varieties_in_sight) }
          end
        end

        get("/") { list }

        post "/" do
          reading = read(Contracts::VarietyForm)
          try(reading, ->(wrong) { list(reading: wrong) }) do |v|
            variety = Deeds::KeepVariety.call(orchard, Contracts::VarietyForm.to_row(v), by: actor)
            redirect to("varieties", "/#{variety.id}")
          end
        end

        get("/:id") { one(orchard.variety!(params["id"])) }

        post "/:id" do
          variety = orchard.variety!(params["id"])
          reading = read(Contracts::VarietyForm, current_values(variety))
          try(reading, ->(wrong) { one(variety, reading: wrong) }) do |v|
            Deeds::KeepVariety.call(orchard, reading.changed(Contracts::VarietyForm.to_row(v)), by: actor,
                                    variety: variety,
                                    version: v[:version])
            notice "#{v[:name]} is kept."
            redirect to("varieties", "/#{variety.id}")
          end
        end

        # Wood that is promised for a season.
        post "/:id/promises" do
          variety = orchard.variety!(params["id"])
          reading = read(Contracts::PromiseForm)
          try(reading, ->(wrong) { one(variety, promise: wrong) }) do |v|
            once do
              Deeds::PromiseWood.call(variety, v, by: actor)
              notice "#{counted(v[:sticks], 'stick')} of #{variety.name} are promised for #{v[:season]}."
              to("varieties", "/#{variety.id}")
            end
          end
        end

        post "/:id/promises/withdraw" do
          variety = orchard.variety!(params["id"])
          Deeds::PromiseWood.withdraw(orchard, params["promise"], by: actor)
          redirect to("varieties", "/#{variety.id}")
        end
      end
    end
  end
end
