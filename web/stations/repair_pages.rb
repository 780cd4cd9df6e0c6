# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # Trunks stripped of bark: which first, how each is measured, bridged and followed.
      class RepairPages < Base
        helpers do
          def list(reading: nil, reads: nil)
            standing = { cause: "teeth", found_on: today.iso8601,
                         lines: params["tree"] && "#{params['tree'].to_s[0, 12]} bark " }
            wounds = orchard.stripped_trunks(today).all
            erb :"repair/list", locals: { wounds: wounds, reading: reading || Contracts::NewWoundsForm.blank(standing),
                                          reads: reads, now: Headline.new(orchard, today).repairs(wounds) }
          end

          def wound!(id = params["id"]) = orchard.wound!(id)

          def show(wound, reading: nil, visit: nil, places: nil)
            told = Records::WoundReport.new(wound, today)
            erb :"repair/wound", locals: { wound: wound, told: told, tree: wound.tree,
                                           reading: reading || Contracts::MeasureWoundForm.blank(current_values(wound)),
                                           visit: visit || Contracts::VisitWoundForm.blank(seen_on: today.iso8601),
                                           placing: places || Contracts::Form.blank(bearings: shown_bearings(told)),
                                           now: say_wound(told) }
          end

          # Where its scions go, as the field for places by hand shows it.
          def shown_bearings(told) = told.places.map { |place| format("%g", place[:bearing_deg].round(1)) }.join(" ")

          def current_values(wound)
            { girth: wound.girth_typed || length(wound.girth_mm),
              margins: Core::Repair::MarginRun.say(wound.margins, orchard.units),
              bark_left: wound.bark_left && "#{(wound.bark_left * 100).round} %", rootless: !wound.root_bark,
              buried: wound.buried, below_union: wound.below_union, drying: wound.drying, note: wound.note,
              version: wound.version }
          end

          def log(wound, reading: nil)
            told = Records::WoundReport.new(wound, today)
            practice = wound.tree.method(:practice)
            usual = Deeds::CutStem.usual(wound, "stump-graft")
            blank = Contracts::LogRepairForm.blank(repaired_on: today.iso8601, course: told.course,
                                               left: usual && length(usual),
                                               wrap: practice.call("wrap"), seal: practice.call("seal"),
                                               fixing: practice.call("fixing") == "pins" ? "pins" : "bound",
                                               bark_slip: "clean", **bundle_of_shoots(told))
            reading ||= blank
            # What was typed stays of the course that it was typed for, whatever was decided meanwhile.
            course = Records::Wound::COURSES.find { |each| each == reading.shown(:course) } || told.course
            erb :"repair/log", locals: { wound: wound, told: told, tree: wound.tree, reading: reading, course: course,
                                         now: say_wound(told) }
          end

          # What the log of the graft on a stump begins with.
          def stump_graft_query(report)
            set = report.stump_graft
            { grafted_on: report.wound.repaired_on, variety: report.wound.tree.variety_id, cut: length(set[:cut_mm]),
              stub: length(set[:stub_mm]), technique: set[:technique], sticks: set[:sticks] }.compact
          end

          # The bundle that all the scions which are left to set are to be cut from, and how many shoots of it.
          def bundle_of_shoots(report)
            return {} unless report.course == "bridge" && report.wound.measured?

            shoots = report.shoots_at(report.unset.map { |place| place[:bearing_deg] })
            bundles = shoots.map { |_, bundle| bundle.id }.uniq
            bundles.one? ? { bundle: bundles.first, shoots: shoots.size } : {}
          end

          # The drawing of margins as they are typed or dragged, for a wound not kept yet.
          def echo(wound)
            run = Core::Repair::MarginRun.read(params["margins"].to_s.scrub("?")[0, 4000], units: typed_units)
            girth = Core::Measure.parse(params["girth"].to_s[0, 40], units: typed_units).mm
            girth = wound.girth_mm.to_f unless girth.positive?
            erb :"repair/echo", layout: false, locals: { wound: wound, run: run, girth: girth,
                bridge: run.ok? && reckon(wound, run, girth) }
          rescue Core::BadInput
            erb :"repair/echo", layout: false, locals: { wound: wound, run: run, girth: wound.girth_mm.to_f,
                bridge: run.ok? && reckon(wound, run, wound.girth_mm.to_f) }
          end

          def reckon(wound, run, girth)
            figures = Records::WoundReport.new(wound, today).figures
            Core::Repair::Bridge.reckon({ girth_mm: girth, wound: run.readings, root_bark: params["rootless"] != "true",
                                          **figures }, rulebook: orchard.rulebook)
          end
        end

        get("/") { list }

        post "/" do
          reads = Deeds::FindWounds.read(orchard, params["lines"].to_s.scrub("?")[0, 4000], units: typed_units)
          next erb(:"repair/reads", layout: false, locals: { reads: reads }) if params["what"] == "echo"

          reading = read(Contracts::NewWoundsForm)
          try(reading, ->(wrong) { list(reading: wrong, reads: reads) }) do |v|
            wounds = Deeds::FindWounds.call(orchard, reads, v, by: actor, today: today)
            notice "#{counted(wounds.size, 'tree')} noted; the most pressing stands first."
            redirect to("repair")
          end
        end

        get("/:id") { show(wound!) }

        post "/:id" do
          wound = wound!
          next echo(wound) if params["what"] == "echo"

          reading = read(Contracts::MeasureWoundForm, current_values(wound))
          try(reading, ->(wrong) { show(wound, reading: wrong) }) do |v|
            row, margins = Contracts::MeasureWoundForm.to_row(reading, wound.tree, typed_units)
            Deeds::MeasureWound.call(wound, row, margins, by: actor, version: v[:version], today: today)
            notice "The wound of #{wound.label} is measured."
            redirect to("repair", "/#{wound.id}")
          end
        end

        # What is decided about it.
        post "/:id/course" do
          wound = wound!
          attempt(->(e) { with_words(e) { show(wound!) } }) do
            unless Records::Wound::COURSES.include?(params["course"])
              raise Deeds::Refused, course: ["is one of #{Records::Wound::COURSES.join(', ')}"]
            end

            Deeds::Ledger.change(wound, { course: params["course"] }, by: actor)
            redirect to("repair", "/#{wound.id}")
          end
        end

        post "/:id/cover" do
          wound = wound!
          Deeds::Ledger.change(wound, { covered_on: today, drying: false }, by: actor) unless wound.covered_on
          redirect params["back"] == "list" ? to("repair") : to("repair", "/#{wound.id}")
        end

        # Scions placed by hand; "reckoned" goes back to where the reckoning puts them.
        post "/:id/places" do
          wound = wound!
          reading = Contracts::FormResult.new(values: {}, errors: {},
                                                 typed: { "bearings" => params["bearings"].to_s[0, 400] }, form: {})
          try(reading, ->(wrong) { show(wound, places: wrong) }) do
            turned = params["turn"].to_s[/\A(\d{1,2}):(-?\d{1,2})\z/] &&
              [Regexp.last_match(1).to_i, Regexp.last_match(2).to_i]
            bearings = params["reckoned"] ? nil : Contracts::LogRepairForm.bearings(params["bearings"])
            bearings = turn(wound, *turned) if turned
            as_shown = params["bearings"].to_s.strip == shown_bearings(Records::WoundReport.new(wound, today))
            next redirect(to("repair", "/#{wound.id}#scions")) if !turned && !params["reckoned"] && as_shown

            Deeds::PlaceScions.call(wound, bearings, by: actor)
            redirect to("repair", "/#{wound.id}#scions")
          end
        end

        get("/:id/log") { log(wound!) }

        post "/:id/log" do
          wound = wound!
          reading = read(Contracts::LogRepairForm)
          try(reading, ->(wrong) { log(wound, reading: wrong) }) do |v|
            scions = Contracts::LogRepairForm.set(v, Records::WoundReport.new(wound, today).places(v[:course]),
                                                  typed_units)
            Deeds::LogRepair.call(wound, v.merge(scions: scions, left_mm: v[:left]), by: actor, today: today)
            notice "#{say_course_done(v[:course])} on #{wound.label}: what it needs next is below."
            redirect to("repair", "/#{wound.id}")
          end
        end

        post "/:id/visits" do
          wound = wound!
          reading = read(Contracts::VisitWoundForm)
          try(reading, ->(wrong) { show(wound, visit: wrong) }) do |v|
            fates = Contracts::VisitWoundForm.fates(v, wound.seated)
            Deeds::VisitWound.call(wound, Contracts::VisitWoundForm.to_row(v), fates, by: actor, today: today)
            redirect to("repair", "/#{wound.id}")
          end
        end

        post "/:id/tasks" do
          wound = wound!
          attempt(->(e) { with_words(e) { show(wound!) } }) do
            settle_task(wound)
            redirect to("repair", "/#{wound.id}")
          end
        end

        helpers do
          # Every planned place as it stands, one of them turned by some degrees.
          def turn(wound, number, by)
            Records::WoundReport.new(wound, today).places.reject { |place| place[:row]&.set_on }.map do |place|
              place[:number] == number ? (place[:bearing_deg] + by) % 360 : place[:bearing_deg]
            end
          end
        end
      end
    end
  end
end
