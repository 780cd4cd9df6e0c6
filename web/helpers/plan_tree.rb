# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # What the Plan station's pages are put together from.
      module PlanTree
        def first_season = @first_season ||= orchard.season_to_plan(today)

        def show(tree, limb, reading: nil, site: nil, site_reading: nil, errors: {})
          advice = limb && advice_of(limb, reading)
          reading ||= Contracts::PlanLimbForm.blank(advice ? advice.current_values : {})
          line = Headline.new(orchard, today)
          plan = Records::TreePlan.new(tree, today)
          erb limb ? :"plan/limb" : :"plan/tree",
              locals: { tree: tree, limb: limb, advice: advice, reading: reading, plan: plan,
                        faults: plan.faults + wood_faults(plan), after: after_season(plan.as_decided),
                        cap: params.key?("cap") ? @cap : tree.plan&.cap&.to_f,
                        site: site, site_reading: site_reading, errors: errors,
                        now: limb ? line.limb(limb) : line.tree(tree) }
        end

        # With the method and the sticks that were typed, or that the address asks for.
        def advice_of(limb, reading)
          asked = reading ? reading.typed : params
          PlanAdvice.new(limb, today: today, technique: asked["technique"] || params["technique"],
                               practice: asked["practice"] || params["practice"], season: first_season)
        end

        # What was typed of a limb. A form that found no place for its method says nothing of either.
        #
        # @raise [Deeds::Refused] where a place was shown and taken out, or another method was chosen without one
        def typed_place(values, advice)
          # What is not ticked, or was emptied, is not sent; all of it was shown.
          return { long: false, long_cut: nil, against_reason: nil, **values } if values[:cut]
          return values unless Records::TreePlan::WORKED.include?(values[:role])
          raise Deeds::Refused, cut: ["is missing"] if advice.at_mm || values[:technique] != advice.technique

          values.except(:technique, :practice, :long, :long_cut)
        end

        # Stubs of the season planned for whose wood does not reach, as faults of the plan.
        def wood_faults(plan)
          rows = plan.work.filter_map { |limb| plan.planned(limb) }.select { |row| row.season == plan.first_season }
          return [] if rows.empty?

          orchard.wood_supply(plan.first_season, today).wanting.flat_map do |line|
            rows.select { |row| line.shortage[:drop].include?(row.id) }.map { |row| wood_fault(row, line) }
          end
        end

        def wood_fault(row, line)
          { code: "plan_short_wood", limb: row.limb_id, tag: row.limb.tag, variety: line.variety.name,
            short: line.short, drop: true, season: row.season }
        end

        # Shown again, with what a deed refused.
        def refuse(tree, limb, refused)
          told = refused.errors.values.flatten.map { |words| words[0].upcase + words[1..] }
          env["vestry.notice"] = "#{told.join('; ')}."
          show(tree, limb)
        end

        # The page of the limb that an address names, again.
        def refuse_limb(refused)
          limb = orchard.standing_limb!(params["id"])
          refuse(limb.tree, limb, refused)
        end

        # The season whose work the drawing shows as done, when one is asked for.
        def after_season(plan)
          wanted = query[:after]
          wanted if wanted && plan.decided_any? && plan.seasons_touched.include?(wanted)
        end

        # The most of the head one season may take, as typed in per cent.
        def read_cap
          typed = params["cap"].to_s.delete("%").strip
          return nil if typed.empty?

          number = Float(typed.tr(",", "."), exception: false)
          @cap = number / 100 if number&.between?(1, 100)
          @cap or raise Deeds::Refused,
                        cap: ["The most a season may take is a share from 1 to 100 %; #{params['cap'].to_s[0, 30]} " \
                              "is " \
                              "not"]
        end

        def choices(title, trees, back)
          outlook = Records::VarietyFit.new(orchard, trees, today)
          erb :"plan/choices", locals: { title: title, lines: outlook.lines, back: back, trees: trees,
                                         now: Headline.new(orchard, today).choices(title, outlook.lines) }
        end

        def pattern_page(reading)
          erb :"plan/pattern", locals: { reading: reading, rows: Records::TreeQueries.row_counts(orchard),
                                         map: OrchardView.new(orchard, {}, today).map,
                                         now: "Choose trees, a variety and a pace: each tree gets a plan of its own, " \
                                              "fitted to its limbs." }
        end

        def read_blank_pattern
          Contracts::PatternForm.blank(rows: [query[:row].to_s], school: orchard.school,
                                   seasons: { "one" => 1, "two" => 2, "three" => 3 }
                                     .fetch(orchard.rulebook.practice("pace", orchard.school), 2))
        end

        def pattern! = orchard.pattern!(params["id"])

        def allotment! = Records::AllotmentRun.of_orchard!(orchard, params["id"])

        def allot_page(reading)
          now = "The best that this orchard can do with its wood, its hours and its springs."
          erb :"plan/allot", locals: { reading: reading, runs: Records::AllotmentRun.latest(orchard), now: now }
        end

        def allotment_page(run)
          moves = run.state == "done" ? Deeds::AllotOrchard.moves(run) : []
          map = OrchardView.new(orchard, query.slice(:x, :y, :w), today,
                                wanted: moves.map { |limb, *| limb.tree_id }.uniq.first(200))
          erb :"plan/allotment", locals: { run: run, moves: moves, map: map, now: allotment_words(run, moves) }
        end

        # One limb, those of one tree, or nil for all.
        def limbs_to_accept
          return [orchard.limb!(params["limb"]).id] unless params["limb"].to_s.empty?

          orchard.tree!(params["tree"]).limbs.map(&:id) unless params["tree"].to_s.empty?
        end

        # What an allotment came to, in a sentence.
        def allotment_words(run, moves)
          case run.state
          when "done" then "#{allotment_state(run)}#{moves_words(run, moves)}."
          when "failed" then "It broke off, and nothing was changed."
          when "cancelled" then "It was stopped, and nothing was changed."
          else run.done.zero? ? "The best is looked for." : "A good one is found, and a better one looked for."
          end
        end

        def moves_words(run, moves)
          return "; #{counted(moves.size, 'limb')} would move" if moves.any?

          run.accepted? ? "; it is accepted" : "; the plan as it stands is as good"
        end

        def allotment_state(run)
          return run.state unless run.state == "done"
          return "nothing is planned with cut, method and variety" if run.answer["chosen"].empty?

          value, stands, gap = run.answer.values_at("value", "standing", "gap")
          sure = gap < 0.0005 ? "the best there is" : "within #{format('%.1f', gap * 100)} % of the best there can be"
          past = " with more than the limits let" if stands > value + 0.0005
          "#{format('%.2f', value)} heads of living scaffold, #{sure}, " \
            "where the plan has #{format('%.2f', stands)}#{past}"
        end

        def say_binding(each, run)
          season = run.answer["first"] + each["season"]
          if each["what"] == Core::Plan::AllotmentProblem::MINUTES
            price = format("%.3f", Core::Plan::WorkTime.an_hour(each["price"]))
            return "A grafter-hour more in #{season} is worth #{price} of a head."
          end

          name = orchard.variety!(each["what"]).name
          "A stick more of #{name} in #{season} is worth #{format('%.3f', each['price'])} of a head."
        end

        def pattern_told(pattern)
          erb :"plan/pattern_told", locals: { pattern: pattern, now: pattern_words(pattern) }
        end

        def pattern_words(pattern)
          made = pattern.outcomes.count { |each| each["done"] }
          left = pattern.outcomes.size - made
          case pattern.state
          when "done"
            rest = "; #{counted(left, 'tree')} #{left == 1 ? 'has' : 'have'} not, for reasons below" if left.positive?
            return "No tree has a plan by this, for the reasons below." if made.zero?

            "#{counted(made, 'tree')} #{made == 1 ? 'has' : 'have'} a plan now#{rest}."
          when "failed" then "The planning broke off after #{counted(pattern.done, 'tree')}; what was planned stands."
          else "#{pattern.done} of #{counted(pattern.tree_ids.size, 'tree')} are planned so far."
          end
        end

        # An outcome's note, in words.
        def say_note(note) = say(note.transform_keys(&:to_sym))
      end
    end
  end
end
