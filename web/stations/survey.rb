# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # The tree as it stands.
      class Survey < Base
        helpers do
          def show(tree, limb, reading: nil)
            reading ||= Contracts::MeasureLimb.blank(limb ? standing(limb) : {})
            erb :"survey/tree", locals: { tree: tree, limb: limb, reading: reading, now: limb ? NowLine.new(orchard, today).limb(limb) : NowLine.new(orchard, today).tree(tree) }
          end

          def standing(limb)
            { girth: limb.thickness_typed || (limb.girth_mm && length(limb.girth_mm)), length: limb.length_typed || length(limb.length_mm), fork: length(limb.fork_mm),
              bearing: limb.bearing_deg.to_i, rise: limb.rise_deg.to_i, flat: limb.flat_deg&.to_i, bark_thickness: length(limb.bark_mm),
              damage: limb.damage, version: limb.version }
          end
        end

        get "/" do
          trees = orchard.trees_dataset.where(hidden_at: nil).order(:row, :number).all
          erb :"survey/orchard", locals: { trees: trees, states: Records::Reading.tree_states(orchard), now: NowLine.new(orchard, today).survey }
        end

        get "/trees/:id" do
          tree = orchard.tree!(params["id"])
          show(tree, tree.limbs.find { |limb| limb.id.to_s == params["limb"] })
        end

        post "/limbs/:id" do
          limb = orchard.limb!(params["id"])
          reading = Contracts::MeasureLimb.new(units: orchard.units).read(params, standing(limb))
          begin
            raise Deeds::Refused, {} unless reading.ok?

            Deeds::MeasureLimb.call(limb, Contracts::MeasureLimb.to_row(reading), by: actor, version: reading.values[:version])
            redirect limb_address(limb.tree, limb.id)
          rescue Deeds::Refused => e
            status e.is_a?(Deeds::Conflict) ? 409 : 422
            show(limb.tree, limb, reading: reading.with(e.errors))
          end
        end
      end
    end
  end
end
