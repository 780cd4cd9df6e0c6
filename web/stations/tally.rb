# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # What came of it, each autumn.
      class Tally < Base
        helpers do
          def show(graft, reading = nil)
            reading ||= Contracts::Tally.blank(standing(graft))
            erb :"tally/graft", locals: { graft: graft, limb: graft.limb, tree: graft.limb.tree, reading: reading, now: NowLine.new(orchard, today).limb(graft.limb) }
          end

          # This season's tally, if it was begun; else an empty one.
          def standing(graft)
            tally = graft.tallies.find { |each| each.season == orchard.season.name_of(today) }
            return { tallied_on: today.iso8601, alive: "true" } unless tally

            shown = ->(mm) { mm && length(mm) }
            { tallied_on: tally.tallied_on.iso8601, alive: tally.alive.to_s, growth: shown[tally.growth_mm], above: shown[tally.above_mm], below: shown[tally.below_mm],
              open_a: shown[tally.open_a_mm], open_b: shown[tally.open_b_mm], angle: tally.angle_deg&.to_i, breakage: tally.breakage, note: tally.note, version: tally.version }
          end
        end

        get "/" do
          latest = orchard.grafts_dataset.where(hidden_at: nil).order(:limb_id, Sequel.desc(:grafted_on), Sequel.desc(:id)).distinct(:limb_id)
          grafts = latest.from_self(alias: :grafts).limit(500).eager(:variety, :tallies, :observations, :orchard, limb: :tree).all
          grafts = grafts.sort_by { |graft| [graft.limb.tree.row, graft.limb.tree.number, graft.limb.tag] }
          living = grafts.reject { |graft| graft.fate == "lost" }
          erb :"tally/row", locals: { grafts: grafts, now: NowLine.new(orchard, today).tally(living) }
        end

        get("/grafts/:id") { show(orchard.graft!(params["id"])) }

        post "/grafts/:id" do
          graft = orchard.graft!(params["id"])
          reading = read(Contracts::Tally)
          try(reading, ->(wrong) { show(graft, wrong) }) do |v|
            Deeds::RecordTally.call(graft, { tallied_on: v[:tallied_on], alive: v[:alive], growth_mm: v[:growth], above_mm: v[:above], below_mm: v[:below],
                                             open_a_mm: v[:open_a], open_b_mm: v[:open_b], angle_deg: v[:angle], breakage: v[:breakage], note: v[:note],
                                             tallied_by: actor, client_key: v[:client_key] }, by: actor, today: today, version: v[:version])
            redirect to("survey", "/trees/#{graft.limb.tree_id}?limb=#{graft.limb_id}")
          end
        end
      end
    end
  end
end
