# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # What to do to the tree.
      class Plan < Base
        helpers do
          def show(tree, limb, reading: nil)
            advice = limb && PlanAdvice.new(limb, technique: reading&.typed&.[]("technique") || params["technique"], practice: reading&.typed&.[]("practice") || params["practice"],
                                                  season: orchard.season.name_of(today))
            reading ||= Contracts::PlanLimb.blank(advice ? advice.standing : {})
            line = NowLine.new(orchard, today)
            erb :"plan/tree", locals: { tree: tree, limb: limb, advice: advice, reading: reading, now: limb ? line.limb(limb) : line.tree(tree) }
          end
        end

        get "/" do
          plans = Records::Plan.where(orchard_id: orchard.id, superseded_at: nil, hidden_at: nil).eager(:tree, plan_limbs: :variety).all
          trees = orchard.trees_dataset.where(hidden_at: nil).order(:row, :number).all
          erb :"plan/orchard", locals: { trees: trees, plans: plans.to_h { |plan| [plan.tree_id, plan] }, now: NowLine.new(orchard, today).plan }
        end

        get "/trees/:id" do
          tree = orchard.tree!(params["id"])
          show(tree, tree.limbs.find { |limb| limb.id.to_s == params["limb"] })
        end

        # How fast: every limb's role and season at once.
        post "/trees/:id/pace" do
          tree = orchard.tree!(params["id"])
          count = Integer(params["seasons"].to_s, 10, exception: false).to_i
          Deeds::PaceTree.call(tree, count, by: actor, first: orchard.season.name_of(today))
          notice "#{tree.label} is changed over #{counted(count, 'season')}. Each limb can still be changed by hand."
          redirect to("plan", "/trees/#{tree.id}")
        rescue Deeds::Refused => e
          status 422
          env["vestry.notice"] = "This #{e.errors.values.flatten.join('; ')}."
          show(orchard.tree!(params["id"]), nil)
        end

        post "/limbs/:id" do
          limb = orchard.limb!(params["id"])
          reading = read(Contracts::PlanLimb)
          try(reading, ->(wrong) { show(limb.tree, limb, reading: wrong) }) do |v|
            Deeds::PlanLimb.call(limb, v, by: actor, version: v[:version], season: orchard.season.name_of(today))
            redirect limb_address(limb.tree, limb.id)
          end
        end
      end
    end
  end
end
