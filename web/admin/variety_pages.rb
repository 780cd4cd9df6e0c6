# frozen_string_literal: true

module Vestry
  module Web
    module Admin
      # The register of varieties: when they bloom and ripen, how they grow, whose wood it is.
      class VarietyPages < Base
        TypedVariety = Struct.new(:id, :name, *Contracts::VarietyForm::DAYS, keyword_init: true)
        private_constant :TypedVariety

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

          # A variety as a form says it, and below it the others of its kind, whose bloom can meet its own.
          def year_of(reading, variety = nil)
            typed = TypedVariety.new(id: variety&.id, name: reading.shown(:name).to_s.strip,
                                     **Contracts::VarietyForm::DAYS.to_h { |name| [name, typed_day(reading, name)] })
            typed.name = "as it is typed" if typed.name.empty?
            [typed, *orchard.varieties_in_sight.select do |each|
              each.species == reading.shown(:species) && each.id != variety&.id
            end]
          end

          # A day that can be read, as it is kept.
          def typed_day(reading, name)
            Contracts::VarietyForm.day(reading.shown(name)) unless reading.wrong(name)
          end

          # Into which it can be merged: the others of its kind.
          def others_of_its_kind(variety)
            orchard.varieties_in_sight.select { |each| each.species == variety.species && each.id != variety.id }
              .sort_by { |each| each.name.downcase }.map { |each| [each.id, each.name] }
          end

          def one(variety, reading: nil, promise: nil, same: nil)
            places = Records::GraftQueries.where_stands(variety, today)
            erb :"varieties/one", locals: { variety: variety, same: same || Contracts::SameVarietyForm.blank,
                                            reading: reading || Contracts::VarietyForm.blank(current_values(variety)),
                                            promise: promise || Contracts::PromiseForm
                                              .blank(season: orchard.season_to_plan(today)),
                                            frost: orchard.weather(today).frost(variety), places: places,
                                            now: Headline.new(orchard, today).variety(variety, places) }
          end
        end

        get("/") { list }

        post "/" do
          reading = read(Contracts::VarietyForm)
          try(reading, ->(wrong) { list(reading: wrong) }) do |v|
            once do
              variety = Deeds::KeepVariety.call(orchard, Contracts::VarietyForm.to_row(v), by: actor)
              to("varieties", "/#{variety.id}")
            end
          end
        end

        # What is typed, drawn: a new variety, or one that is here.
        get("/drawn") { partial :"varieties/year", all: year_of(read(Contracts::VarietyForm)) }
        get("/:id/drawn") do
          partial :"varieties/year", all: year_of(read(Contracts::VarietyForm), orchard.variety!(params["id"]))
        end

        # One that was merged leads to the one that is left.
        get "/:id" do
          variety = orchard.variety!(params["id"])
          next redirect(to("varieties", "/#{variety.id}")) unless params["id"] == variety.id.to_s

          one(variety)
        end

        # Merges it into another. A form of one that was merged meanwhile is not sent on to what is left.
        post "/:id/same-as" do
          variety = orchard.variety_itself!(params["id"])
          reading = read(Contracts::SameVarietyForm)
          try(reading, ->(wrong) { one(variety, same: wrong) }) do |v|
            left = Deeds::MergeVariety
              .call(variety, Contracts::Form.named(orchard, :variety, v[:same_as], field: :same_as), by: actor)
            notice "#{variety.name} is #{left.name} from now on, wherever it stood."
            redirect to("varieties", "/#{left.id}")
          end
        end

        post "/:id" do
          variety = orchard.variety_itself!(params["id"])
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
              notice "#{counted(v[:sticks], 'stick')} of #{variety.name} #{v[:sticks] == 1 ? 'is' : 'are'} promised " \
                     "for #{v[:season]}."
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
