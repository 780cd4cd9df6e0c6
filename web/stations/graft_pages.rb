# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # The grafting day: what waits, and the log.
      class GraftPages < Base
        register Corrections, BareStretches

        helpers do
          def show(limb, reading = nil)
            reading ||= asked_reading(limb)
            erb :"graft/log", locals: { limb: limb, tree: limb.tree, reading: reading, planned: limb.planned,
                                        bench: Bench.new(limb, reading, given: given(limb)),
                                        now: Headline.new(orchard, today).bench(limb) }
          end

          # The form as it is filled in, with what the address asks for in place of it.
          def asked_reading(limb)
            asked = %i[grafted_on variety technique stub scion cut sticks faces].to_h { |name| [name, params[name]] }
            Contracts::LogGraftForm.blank(current_values(limb).merge(asked.reject { |_, value| value.to_s.empty? }))
          end

          # The sticks that the match gives to what is planned for a limb.
          def given(limb)
            planned = limb.planned
            (@given ||= {})[limb.id] ||= planned&.complete? ? matched(planned).map(&:stick) : []
          end

          # The thicknesses that are cut for a limb, each with the stick's name: as asked for, as matched, or as the
          # method wants them.
          #
          # @return [Array<Array(String, Float)>]
          def cut_sticks(limb, advice)
            asked = length_in("scion") and return [[nil, asked]]
            matched = given(limb).select(&:diameter_mm).map { |stick| [stick.label, stick.diameter_mm.to_f] }
            return matched.uniq(&:last) if matched.any?

            [[nil, advice.scion_wanted&.then { |range| range.sum / 2.0 } ||
              orchard.rulebook.value("reckoning.wood.pencil").to_f]]
          end

          # The stub that is set after this one, in walking order.
          def next_stub(limb)
            waiting = orchard.planned(:waiting, orchard.season.name_of(today)).rows.select do |row|
              row.complete? && !orchard.stub_windows(today).past?(row)
            end
            at = waiting.index { |row| row.limb_id == limb.id }
            at ? waiting[at + 1] : waiting.first
          end

          # The bundles that are there on a day, those of one variety first.
          #
          # @param also [Records::Bundle, nil] one of which none may be left
          # @return [Array<Array(Integer, String)>]
          def wood_options(variety_id, also: nil)
            there = orchard.wood_store(today).bundles(season: orchard.season.name_of(today))
            options = there.sort_by { |each| each.variety_id == variety_id ? 0 : 1 }
              .map { |each| [each.id, "#{each.code} #{each.variety.name}, #{each.left} left"] }
            also && options.none? { |id, _| id == also.id } ?
              [[also.id, "#{also.code} #{also.variety.name}"], *options] : options
          end

          def limb_upright?(limb) = Records::CoreInputs.upright?(limb)

          def different(limb, wrong: nil)
            found = Records::ChangedStub.new(limb, today, stub_mm: length_in("stub"), torn_mm: length_in("torn"),
                                           crooked: params["crooked"] == "true", slipping: params["lifts"] != "no")
            erb :"graft/different", locals: { limb: limb, found: found, wrong: wrong,
                                              now: Headline.new(orchard, today).different(limb, found) }
          end

          # The sheet of the day in the address, or of today.
          def day_sheet
            day = params["on"].to_s.empty? ? today : read_day(params["on"])
            day ? Records::DaySheet.new(orchard, today, day) : raise(Records::Missing)
          end

          # A length typed into the address, in mm; nil where there is none, or none that can be read.
          def length_in(name)
            params[name].to_s.strip.empty? ? nil : Core::Measure.parse(params[name].to_s[0, 40], units: typed_units)
              .mm.then do |mm|
              mm if mm.positive?
            end
          rescue Core::BadInput => e
            (@unread ||= {})[name] = e.allowed
            nil
          end

          def unread(name) = @unread&.fetch(name, nil)

          def current_values(limb) = PlannedGraft.new(limb, given(limb), today, by: actor, say: self).fields

          def matched(planned)
            Records::MatchBoard.new(orchard, planned.season, today, variety: planned.variety_id).places
              .find { |place| place.row.id == planned.id }&.given.to_a
          end
        end

        get "/" do
          season = orchard.season.name_of(today)
          made = Records::GraftQueries.grafts(orchard, most: 30)
          waiting = orchard.planned(:waiting, season)
          past, open = waiting.rows.partition { |row| orchard.stub_windows(today).past?(row) }
          ready = open.select(&:complete?)
          line = Headline.new(orchard, today)
          erb :"graft/day", locals: { planned: waiting, waiting: open, past: past, made: made, season: season,
                                      ready: ready, sites: Records::PlannedSites.waiting(orchard, season),
                                      map: (OrchardView.walk(orchard, ready.map { |row| row.limb.tree }, today: today,
                                                            here: ready.first.limb.tree) if ready.any?),
                                      now: line.graft, act: line.act }
        end

        # A crew's day, in walking order: to be read on the phone or carried on paper.
        get "/sheet" do
          sheet = day_sheet
          erb :"graft/sheet", locals: { sheet: sheet, now: Headline.new(orchard, today).sheet(sheet) }
        end

        # The same stub by stub, for the hand that has the phone.
        get "/stubs" do
          sheet = day_sheet
          erb :"graft/stubs", locals: { sheet: sheet, walk: StubWalk.new(sheet, orchard, today, by: actor, say: self),
                                        now: Headline.new(orchard, today).sheet(sheet) }
        end

        # The day's pages in one answer, for a phone that will be without signal.
        get "/pocket" do
          content_type "application/x-ndjson"
          pages = +""
          Pocket.new(env, orchard, today).each_line { |line| pages << line << "\n" }
          pages
        end

        # The same on paper.
        get "/sheet.pdf" do
          sheet = day_sheet
          content_type "application/pdf"
          attachment "grafting-#{sheet.day.iso8601}.pdf", :inline
          Sheets::DayPaper.new(sheet, orchard, self, size: paper).pdf
        end

        # Labels for the day's stubs, those still waiting and those made.
        get "/labels.pdf" do
          sheet = day_sheet
          address = ->(limb) { outside_address("/t/#{limb.code}") }
          waiting = sheet.cards.map { |card| [card.limb, card.row.variety.name, card.row.technique] }
          made = Records::GraftQueries.grafts(orchard, on: sheet.day).map do |graft|
            [graft.limb, graft.variety.name, graft.technique]
          end
          labels = (waiting + made).map do |limb, variety, technique|
            Sheets::Labels::Label.new(tag: limb.label, variety: variety, method: method_name(technique), day: sheet.day,
                                      address: address[limb], code: limb.code, scratch: Sheets::Labels
                                        .scratch(limb.label, variety, sheet.day))
          end
          content_type "application/pdf"
          attachment "labels-#{sheet.day.iso8601}.pdf", :inline
          Sheets::Labels.new(labels, size: paper, sheet: query[:labels] || "24").pdf
        end

        # The cuts of a limb's method, with its own measures in them: one set for each stick that goes to it.
        get "/limbs/:id/cuts" do
          limb = orchard.limb!(params["id"])
          advice = PlanAdvice.new(limb, today: today, season: orchard.season_to_plan(today),
                                  technique: params["technique"])
          erb :"graft/cuts", locals: { limb: limb, advice: advice, sticks: cut_sticks(limb, advice),
                                       stub: length_in("stub") || Core::Plan::Methods
                                         .drawn_stock(advice.technique, advice.stock_mm, orchard.rulebook),
                                       now: Headline.new(orchard, today).cutting_now(limb, advice) }
        end

        # It turned out different: what that changes, at once.
        get "/limbs/:id/different" do
          limb = orchard.limb!(params["id"])
          different(limb)
        end

        # Somebody takes a planned limb on, or gives it back; a steward gives back for others.
        post "/limbs/:id/hand" do
          limb = orchard.limb!(params["id"])
          page = to("plan", "/trees/#{limb.tree_id}?limb=#{limb.id}")
          attempt(lambda do |e|
            notice "#{e.words}."
            redirect page
          end) do
            row = Deeds::TakeOnLimb.call(limb, by: actor, mine: params["mine"] == "yes", any: may?("steward"))
            notice row.hand ? "#{limb.label} is yours to graft." : "#{limb.label} is anyone's to graft."
            redirect page
          end
        end

        # Not done: why, and it stays in the plan.
        post "/limbs/:id/undone" do
          limb = orchard.limb!(params["id"])
          attempt(->(e) { different(orchard.limb!(params["id"]), wrong: e.words) }) do
            row = limb.planned or raise Records::Missing
            Deeds::LeaveUndone.call(row, params["why"], on: today, by: actor)
            notice "#{limb.label} was left undone and stays in the plan."
            redirect to("graft", "/sheet")
          end
        end

        get("/limbs/:id") { show(orchard.limb!(params["id"])) }

        # The bench alone, as the form's fields change.
        get "/limbs/:id/bench" do
          limb = orchard.limb!(params["id"])
          bench = Bench.new(limb, asked_reading(limb), given: given(limb))
          erb :"graft/bench", layout: false, locals: { limb: limb, bench: bench }
        end

        post "/limbs/:id" do
          limb = orchard.limb!(params["id"])
          # A cut that still reads as it was planned is the planned one, to the last half millimetre.
          cut = limb.planned&.place_mm
          reading = read(Contracts::LogGraftForm, cut ? { cut: length(cut) } : {}, cut ? { cut: cut.to_f } : {})
          following = params["then"] == "next" ? next_stub(limb) : nil
          try(reading, ->(wrong) { show(limb, wrong) }) do |v|
            graft = Deeds::LogGraft.call(limb, Contracts::LogGraftForm.to_row(reading, limb), by: actor, today: today,
                                         bundle: Contracts::LogGraftForm.named(orchard, :bundle, v[:bundle]))
            next redirect(to("tend", "/grafts/#{graft.id}")) unless following

            notice "#{limb.label} is logged."
            redirect to("graft", "/limbs/#{following.limb_id}")
          end
        end
      end
    end
  end
end
