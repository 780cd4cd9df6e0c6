# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # Aftercare: what is due, and the visit.
      class Tend < Base
        helpers do
          def show(graft, reading = nil)
            erb :"tend/graft", locals: { graft: graft, limb: graft.limb, tree: graft.limb.tree, care: Records::CoreValues.care(graft, today),
                                         reading: reading || Contracts::Visit.blank(seen_on: today.iso8601), now: NowLine.new(orchard, today).limb(graft.limb) }
          end

          def rule(task) = orchard.rulebook.book("care").dig("rules", task[:rule])
        end

        get "/" do
          agenda = Records::Agenda.new(orchard, today)
          erb :"tend/agenda", locals: { agenda: agenda, now: NowLine.new(orchard, today).tend(agenda) }
        end

        get("/grafts/:id") { show(orchard.graft!(params["id"])) }

        post "/grafts/:id/visits" do
          graft = orchard.graft!(params["id"])
          reading = Contracts::Visit.new(units: orchard.units).read(params)
          begin
            raise Deeds::Refused, {} unless reading.ok?

            values = reading.values
            Deeds::RecordVisit.call(graft, { seen_on: values[:seen_on], buds: values[:buds], callus: values[:callus], verdict: values[:verdict],
                                             longest_shoot_mm: values[:longest_shoot], note: values[:note], seen_by: actor, client_key: values[:client_key] },
                                    by: actor, today: today)
            redirect to("tend", "/grafts/#{graft.id}")
          rescue Deeds::Refused => e
            status 422
            show(graft, reading.with(e.errors))
          end
        end

        post "/grafts/:id/tasks" do
          graft = orchard.graft!(params["id"])
          halt 422, "what: done or waived" unless Deeds::SettleTask::WHATS.include?(params["what"]) || params["what"] == "undo"
          if params["what"] == "undo"
            Deeds::SettleTask.undo(graft, params["key"].to_s, by: actor)
          else
            Deeds::SettleTask.call(graft, params["key"].to_s, params["what"], by: actor, today: today)
          end
          redirect params["back"] == "agenda" ? to("tend") : to("tend", "/grafts/#{graft.id}")
        rescue Deeds::Refused
          status 422
          show(graft)
        end
      end
    end
  end
end
