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
        end

        get "/" do
          agenda = Records::Agenda.new(orchard, today)
          erb :"tend/agenda", locals: { agenda: agenda, now: NowLine.new(orchard, today).tend(agenda) }
        end

        get("/grafts/:id") { show(orchard.graft!(params["id"])) }

        post "/grafts/:id/visits" do
          graft = orchard.graft!(params["id"])
          reading = read(Contracts::Visit)
          try(reading, ->(wrong) { show(graft, wrong) }) do |v|
            Deeds::RecordVisit.call(graft, { seen_on: v[:seen_on], buds: v[:buds], callus: v[:callus], verdict: v[:verdict],
                                             longest_shoot_mm: v[:longest_shoot], note: v[:note], seen_by: actor, client_key: v[:client_key] },
                                    by: actor, today: today)
            redirect to("tend", "/grafts/#{graft.id}")
          end
        end

        post "/grafts/:id/tasks" do
          graft = orchard.graft!(params["id"])
          settle_task(graft)
          redirect params["back"] == "agenda" ? to("tend") : to("tend", "/grafts/#{graft.id}")
        rescue Deeds::Refused => e
          status 422
          env["vestry.notice"] = e.errors.values.flatten.join("; ")
          show(graft)
        end
      end
    end
  end
end
