# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # What to do to the tree: roles, cuts, methods, and how fast.
      class PlanPages < Base
        helpers Helpers::PlanTree

        get "/" do
          view = PlanView.new(orchard, today, query)
          line = Headline.new(orchard, today)
          erb :"plan/orchard", locals: { view: view, now: line.plan, act: line.act,
                                         map: OrchardView.new(orchard, query.slice(:x, :y, :w), today,
                                                              wanted: view.unfinished) }
        end

        post "/missed" do
          own_way_back!
          moved, to, stuck, behind = Deeds::MoveMissed.call(orchard, by: actor, today: today)
          told = [("#{counted_are(moved, 'limb')} moved to #{to}." if moved.positive?),
                  ("#{counted_are(behind, 'limb')} moved on behind #{moved == 1 ? 'it' : 'them'}." if behind.positive?),
                  ("#{listed_some(stuck, 4)} could not be moved: open each under Plan." if stuck.any?)].compact
          notice told.empty? ? "None is left to be moved." : told.join(" ")
          redirect to("plan")
        end

        post "/missed/back" do
          own_way_back!
          back = Deeds::MoveMissed.back(orchard, by: actor)
          notice back.positive? ? "#{counted_are(back, 'limb')} where #{back == 1 ? 'it' : 'they'} stood." :
            "None is left to be moved back."
          redirect to("plan")
        end

        # The orchard's drawing as it is moved.
        get "/window" do
          view = PlanView.new(orchard, today, query)
          map = OrchardView.new(orchard, query.slice(:x, :y, :w), today, wanted: view.unfinished)
          erb :"plan/window", layout: false, locals: { view: map }
        end

        get "/trees/:id" do
          tree = orchard.tree!(params["id"])
          attempt(->(e) { refuse(tree, nil, e) }) do
            read_cap
            show(tree, tree.standing_limbs.find { |limb| limb.id == query[:limb] })
          end
        end

        # How fast: every limb's role and season at once.
        post "/trees/:id/pace" do
          tree = orchard.tree!(params["id"])
          attempt(->(e) { refuse(orchard.tree!(params["id"]), nil, e) }) do
            cap = read_cap
            count = Integer(params["seasons"].to_s, 10, exception: false).to_i
            Deeds::PaceTree.call(tree, count, by: actor, today: today, cap: cap)
            notice "#{tree.label} is to be changed over #{counted(count, 'season')}. Each limb can still be moved by " \
                   "hand."
            redirect to("plan", "/trees/#{tree.id}")
          end
        end

        post "/trees/:id/purpose" do
          tree = orchard.tree!(params["id"])
          attempt(->(e) { show(orchard.tree!(params["id"]), nil, errors: e.errors) }) do
            Deeds::NamePlan.call(tree, purpose: params["purpose"], school: params["school"], by: actor,
                                 reasons: Array(params["reasons"]).map(&:to_s), worths: Contracts::Worths.of(params),
                                 version: Integer(params["version"].to_s, 10, exception: false))
            redirect to("plan", "/trees/#{tree.id}#why")
          end
        end

        # A new version: the plan so far is kept as it was.
        post "/trees/:id/versions" do
          tree = orchard.tree!(params["id"])
          attempt(->(e) { refuse(orchard.tree!(params["id"]), nil, e) }) do
            once do
              Deeds::NewVersion.call(tree, by: actor, why: params["why"].to_s.strip[0, 200])
              notice "A new version is begun; the one before is kept."
              to("plan", "/trees/#{tree.id}")
            end
          end
        end

        # An earlier version is the plan again.
        post "/trees/:id/versions/again" do
          tree = orchard.tree!(params["id"])
          earlier = Records::Plan.of_orchard!(orchard, params["plan"])
          back = to("plan", "/trees/#{tree.id}/versions")
          attempt(->(e) { redirect_with("It is not taken up: #{e.words}.", back) }) do
            once do
              Deeds::NewVersion.again(tree, earlier, by: actor)
              notice "That version is the plan again; the one before is kept."
              to("plan", "/trees/#{tree.id}")
            end
          end
        end

        get "/trees/:id/versions" do
          tree = orchard.tree!(params["id"])
          erb :"plan/versions", locals: { tree: tree, now: Headline.new(orchard, today).tree(tree) }
        end

        # What could stand on it, side by side.
        get "/trees/:id/varieties" do
          tree = orchard.tree!(params["id"])
          choices(tree.label, [tree], to("plan", "/trees/#{tree.id}"))
        end

        get "/rows/:row" do
          trees = orchard.trees_of_row(params["row"])
          raise Records::Missing if trees.empty?

          choices("Row #{trees.first.row}", trees, to("plan"))
        end

        post "/limbs/:id" do
          limb = orchard.standing_limb!(params["id"])
          advice = PlanAdvice.new(limb, today: today, season: first_season)
          reading = read(Contracts::PlanLimbForm, advice.current_values, advice.exact)
          try(reading, ->(wrong) { show(limb.tree, limb, reading: wrong) }) do |v|
            # What is kept as it stood says nothing new; of a graft that was lost it says that it is made again so.
            said = !reading.untouched? || advice.failed? || !advice.place_decided?
            next redirect(limb_address(limb.tree, limb.id)) unless said

            Deeds::DecideLimb.call(limb, typed_place(v, advice), by: actor, version: v[:version], season: first_season)
            redirect limb_address(limb.tree, limb.id)
          end
        end

        # A role alone, by one press under the drawing.
        post "/limbs/:id/role" do
          attempt(->(e) { refuse_limb(e) }) do
            limb = orchard.standing_limb!(params["id"])
            role = params["role"].to_s
            unless ["none", *Records::PlanLimb::ROLES].include?(role)
              raise Deeds::Refused, role: ["is one of #{Records::PlanLimb::ROLES.join(', ')}"]
            end

            role == "none" ? Deeds::DecideLimb.leave(limb, by: actor) :
              Deeds::DecideLimb.call(limb, { role: role }, by: actor, season: first_season)
            redirect "#{limb_address(limb.tree, limb.id)}#roles"
          end
        end

        post "/limbs/:id/season" do
          attempt(->(e) { refuse(orchard.standing_limb!(params["id"]).tree, nil, e) }) do
            limb = orchard.standing_limb!(params["id"])
            Deeds::MoveLimb.call(limb, Integer(params["season"].to_s, 10, exception: false).to_i, by: actor,
                                 first: first_season)
            redirect to("plan", "/trees/#{limb.tree_id}#seasons")
          end
        end

        post "/limbs/:id/take-over" do
          attempt(->(e) { refuse_limb(e) }) do
            limb = orchard.standing_limb!(params["id"])
            off = Deeds::TakeOver.call(limb, by: actor, first: first_season)
            notice "#{limb.label} takes over from #{limb.parent.tag}: it is worked first, and the old top comes off " \
                   "in #{off}."
            redirect limb_address(limb.tree, limb.id)
          end
        end

        # The figures at another place on the limb, while the cut is moved along it.
        get "/limbs/:id/cut" do
          limb = orchard.standing_limb!(params["id"])
          at = Float(params["at"].to_s, exception: false)
          advice = PlanAdvice.new(limb, today: today, season: first_season, technique: params["technique"],
                                  practice: params["practice"], at_mm: at&.finite? ? at : nil)
          plan = Records::TreePlan.new(limb.tree, today)
          share = advice.at_mm ? plan.share_cut_at(limb, advice.at_mm) : plan.share(limb)
          erb :"plan/moved", layout: false, locals: { limb: limb, advice: advice, share: share, plan: plan,
                                                      reading: Contracts::PlanLimbForm.blank(advice.current_values),
                                                      now: Headline.new(orchard, today).cut_at(limb, advice, share) }
        end

        post "/limbs/:id/headed" do
          attempt(->(e) { redirect_with(e.words, to("plan", "/cuts")) }) do
            limb = orchard.standing_limb!(params["id"])
            row = limb.planned or raise Records::Missing
            if params["what"] == "undo"
              Deeds::HeadBack.undo(row, by: actor)
              next redirect to("plan", "/cuts")
            end
            Deeds::HeadBack.call(row, on: today, by: actor, today: today)
            notice "#{limb.label} is cut long; on the grafting day it is cut back fresh to #{length(row.cut_mm)}."
            redirect to("plan", "/cuts")
          end
        end

        post "/sites/:id" do
          site = orchard.site!(params["id"])
          reading = read(Contracts::PlanSiteForm)
          try(reading, ->(wrong) { show(site.tree, nil, site: site, site_reading: wrong) }) do |v|
            Deeds::DecideSite.call(site, v, by: actor, season: first_season, version: v[:version])
            redirect to("plan", "/trees/#{site.tree_id}")
          end
        end

        # What to saw, where and when, in walking order.
        get "/cuts" do
          planned = orchard.planned(:cuts, first_season)
          erb :"plan/cuts", locals: { planned: planned, rows: planned.rows, season: first_season,
                                      now: Headline.new(orchard, today).cuts(first_season) }
        end

        get("/pattern") { pattern_page(read_blank_pattern) }

        post "/pattern" do
          reading = read(Contracts::PatternForm, {})
          try(reading, ->(wrong) { pattern_page(wrong) }) do |v|
            ids = Contracts::PatternForm.chosen(orchard, v)
            pattern = Deeds::LayPattern.begin(orchard, v.slice(:variety, :school, :seasons, :purpose, :replace), ids,
                                              by: actor, today: today, client_key: v[:client_key])
            redirect to("plan", "/patterns/#{pattern.id}")
          end
        end

        # The whole orchard's limbs and seasons, as well as can be done.
        get("/allot") { allot_page(Contracts::AllotmentForm.blank(seasons: 3)) }

        post "/allotments" do
          reading = read(Contracts::AllotmentForm)
          try(reading, ->(wrong) { allot_page(wrong) }) do |v|
            run = Deeds::AllotOrchard.begin(orchard, Contracts::AllotmentForm.to_wish(v), by: actor, today: today,
                                            client_key: v[:client_key])
            redirect to("plan", "/allotments/#{run.id}")
          end
        end

        get("/allotments/:id") { allotment_page(allotment!) }

        get "/allotments/:id/progress" do
          content_type :json
          run = allotment!
          JSON.generate(state: run.state, done: run.done, all: 2, over: run.over?, said: "#{allotment_words(run, [])} ")
        end

        post "/allotments/:id/cancel" do
          notice "It was stopped." if Deeds::AllotOrchard.cancel(allotment!)
          redirect to("plan", "/allot")
        end

        post "/allotments/:id/accept" do
          run = allotment!
          attempt(->(e) { redirect_with("#{e.words}.", to("plan", "/allotments/#{run.id}")) }) do
            own_way_back!
            count = Deeds::AllotOrchard.accept(run, by: actor, limbs: limbs_to_accept)
            notice "#{counted(count, 'limb')} moved to the seasons that were chosen."
            redirect to("plan", "/allotments/#{run.id}")
          end
        end

        post "/allotments/:id/back" do
          run = allotment!
          own_way_back!
          stayed = Deeds::AllotOrchard.take_back(run, by: actor)
          notice "Taken back.#{" #{listed(stayed)} stay: they were moved since." if stayed.any?}"
          redirect to("plan", "/allotments/#{run.id}")
        end

        get "/patterns/:id" do
          pattern_told(pattern!)
        end

        post "/patterns/:id/back" do
          attempt(->(e) { with_words(e) { pattern_told(pattern!) } }) do
            stayed = Deeds::UndoPattern.call(pattern!, by: actor)
            notice "Taken back.#{" #{listed_some(stayed, 8)} stay: they were changed or worked since." if stayed.any?}"
            redirect to("plan", "/patterns/#{params['id']}")
          end
        end

        get "/patterns/:id/progress" do
          content_type :json
          pattern = pattern!
          JSON.generate(state: pattern.state, done: pattern.done, lines: pattern.tree_ids.size)
        end
      end
    end
  end
end
