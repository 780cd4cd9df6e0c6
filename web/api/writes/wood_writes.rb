# frozen_string_literal: true

module Vestry
  module Web
    module Api
      class Writes
        # Bundles, their sticks, and the stores they lie in.
        class WoodWrites < Writes
          page "wood"
          COUNT = body { required(:count).filled(:integer, gteq?: 1, lteq?: Deeds::MakeBundle::MOST) }

          post "bundles", "Ties a bundle of sticks", form: Contracts::BundleForm, answers: "bundles" do |on, v|
            Deeds::MakeBundle.call(on.orchard, v.merge(length_mm: v[:length]), **on.who)
          end

          CHECK = body do
            optional(:found).filled(:string, included_in?: Records::Bundle::FINDINGS)
            optional(:note).filled(:string, max_size?: 500)
            optional(:cut).filled(:string, included_in?: Core::Wood::Viability::CUTS)
            optional(:forced).filled(:integer, gteq?: 1, lteq?: 20)
            optional(:forced_moved).filled(:integer, gteq?: 0, lteq?: 20)
            optional(:weight_g).filled(:float, gt?: 0, lteq?: 100_000)
          end

          post "bundles/{id}/checks", "Notes how a bundle was found", form: CHECK do |on, v|
            Deeds::KeepBundle.check(on.bundle, v[:found], on: on.today, note: v[:note], by: on.by,
                                    tests: v.slice(:cut, :forced, :forced_moved, :weight_g))
          end

          post "bundles/{id}/diameters", "Types diameters onto a bundle's sticks, in their order",
               form: body { required(:diameters).filled(:string, max_size?: 4000) } do |on, v|
            run = Contracts::DiameterRun.read(v[:diameters], on.orchard.units)
            Deeds::MoveSticks.measure(on.bundle, run, by: on.by)
            { measured: run.size }
          rescue Core::BadInput => e
            raise Deeds::Refused, diameters: [e.allowed]
          end

          post "bundles/{id}/splits", "Splits sticks off into a bundle of their own", form: COUNT,
                answers: "bundles" do |on, v|
            Deeds::MoveSticks.split(on.bundle, v[:count], by: on.by)
          end

          AWAY = body do
            required(:count).filled(:integer, gteq?: 1, lteq?: Deeds::MakeBundle::MOST)
            required(:why).filled(:string, included_in?: %w[lent discarded])
            optional(:to).filled(:string, max_size?: 200)
          end

          post "bundles/{id}/away", "Lends sticks, or throws them out", form: AWAY do |on, v|
            { left: Deeds::MoveSticks.send_off(on.bundle, v[:count], v[:why], to: v[:to], on: on.today, by: on.by) }
          end

          post "bundles/{id}/received", "Takes lent sticks back, or more of the same", form: COUNT do |on, v|
            { left: Deeds::MoveSticks.receive(on.bundle, v[:count], by: on.by) }
          end

          post "bundles/{id}/stays", "Moves a bundle into another store",
               form: body { required(:store).filled(:integer, gt?: 0) } do |on, v|
            Deeds::KeepBundle.move(on.bundle, v[:store], on: on.today, by: on.by)
          end

          put "bundles/{id}/cut-on", "Corrects the day a bundle was cut",
              form: body { required(:cut_on).filled(Contracts::Form::DAY) }, answers: "bundles" do |on, v|
            Deeds::KeepBundle.date(on.bundle, v[:cut_on], **on.who)
          end

          put "bundles/{id}/shoots", "Says whether a bundle holds whole shoots, which are no stub's",
              form: body { required(:whole).filled(:bool) }, answers: "bundles" do |on, v|
            Deeds::KeepBundle.shoots(on.bundle, v[:whole], by: on.by)
            on.bundle.reload
          end

          put "bundles/{id}/variety", "Corrects a bundle's label, and with it the grafts that were set of it",
              form: body { required(:variety).filled(:integer, gt?: 0) }, answers: "bundles" do |on, v|
            Deeds::KeepBundle.variety(on.bundle, Contracts::Form.named(on.orchard, :variety, v[:variety]), by: on.by)
            on.bundle.reload
          end

          post "plan_limbs/{id}/sticks", "Keeps a stick for a planned limb",
               form: body { required(:stick).filled(:integer, gt?: 0) } do |on, v|
            Deeds::KeepBundle.lock(on.planned_limb, on.orchard.stick!(v[:stick]), by: on.by)
          end

          delete "sticks/{id}/lock", "Lets a kept stick go" do |on, _|
            Deeds::KeepBundle.unlock(on.orchard, on.orchard.stick!(on.id).id)
          end

          post "stores", "Opens a store", form: body { required(:name).filled(:string, max_size?: 80) },
                                          answers: "stores" do |on, v|
            Deeds::KeepStore.open(on.orchard, v[:name], by: on.by)
          end

          put "stores/{id}", "Says anew what a store is called, and by what its thermometer is asked",
              form: Contracts::StoreForm, answers: "stores" do |on, v|
            Deeds::KeepStore.correct(on.store, Contracts::StoreForm.to_row(on.reading), by: on.by, version: v[:version])
          end

          READINGS = body(long: { csv: 5_000_000 }) do
            required(:csv).filled(:string); optional(:unit).filled(:string, included_in?: Deeds::KeepStore::UNITS)
          end

          post "stores/{id}/readings", "Keeps a store's readings, as CSV: at, celsius", form: READINGS,
                most_bytes: 6_000_000 do |on, v|
            Deeds::KeepStore.read_file(on.store, v[:csv], unit: v[:unit] || "celsius", by: on.by)
          end
        end
      end
    end
  end
end
