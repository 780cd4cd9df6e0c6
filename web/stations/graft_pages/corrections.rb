# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      class GraftPages
        # A graft that was logged, put right where it was mistaken.
        module Corrections
          # What the page shows.
          module Shown
            def correct(graft, reading = Contracts::CorrectGraftForm.blank(logged(graft).first))
              erb :"graft/correct", locals: { graft: graft, limb: graft.limb, reading: reading,
                                              bench: Bench.new(graft.limb, reading),
                                              now: "Put right what was logged of #{graft.limb.label}: " \
                                                   "what it was stays in the history." }
            end

            def put_right(graft, reading, values)
              Deeds::CorrectGraft.call(graft, Contracts::CorrectGraftForm.to_row(reading, orchard), by: actor,
                                       today: today, version: values[:version],
                                       bundle: Contracts::LogGraftForm.named(orchard, :bundle, values[:bundle]))
            end

            # What the form holds of it, and the figures behind what is rounded there.
            def logged(graft)
              shown = { stub: graft.stub_mm, cut: graft.cut_mm }.compact.transform_values { |mm| length(mm) }
              shown[:scion] = thickness(graft.scion_mm) if graft.scion_mm
              [{ **graft.values.slice(:technique, :sticks, :grafter, :wrap, :seal, :cover, :bark_slip, :donor,
                                      :conditions, :against_reason, :version, :perch, :brace),
                 grafted_on: graft.grafted_on.iso8601, known_since: graft.known_since&.iso8601,
                 variety: graft.variety_id, bundle: graft.bundles.first&.id,
                 faces: Contracts::LogGraftForm.shown(graft.faces), minutes: graft.minutes&.round, **shown },
               { stub: graft.stub_mm, cut: graft.cut_mm, scion: graft.scion_mm, minutes: graft.minutes }]
            end
          end

          def self.registered(app)
            app.helpers Shown

            app.get("/grafts/:id") { correct(orchard.graft!(params["id"])) }

            app.post "/grafts/:id" do
              graft = orchard.graft!(params["id"])
              reading = read(Contracts::CorrectGraftForm, *logged(graft))
              try(reading, ->(wrong) { correct(graft, wrong) }) do |v|
                put_right(graft, reading, v)
                redirect_with("What was logged is corrected.", to("tend", "/grafts/#{graft.id}"))
              end
            end
          end
        end
      end
    end
  end
end
