# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # Aftercare: what is due, and the visit.
      class TendPages < Base
        SPANS = { "today" => 0, "week" => 7, "season" => nil }.freeze

        helpers do
          # What the last visit to it means, in its first sentence.
          def meaning_of(graft)
            first = Records::GraftReport.new(Records::Graft[graft.id], today).answer.first
            first ? say(first) : "the visit is kept."
          end

          # Whether there is wood for what is planned again.
          def wood_words(row)
            supply = orchard.wood_supply(row.season, today)
            return "There is wood for it." unless supply.short_for(row)

            supply.to_come?(row.variety) ? say_wood_to_come(supply, row.variety) :
              "There is too little wood of it: see Wood."
          end

          # What a task is about: a stripped trunk, or a graft's limb.
          def place_of(row) = row.is_a?(Records::Wound) ? row.label : row.limb.label

          def show(graft, reading = nil, loss: nil)
            told = Records::GraftReport.new(graft, today)
            erb :"tend/graft", locals: { graft: graft, limb: graft.limb, tree: graft.limb.tree, told: told,
                                         care: told.care, reading: reading || Contracts::VisitForm
                                           .blank(seen_on: today.iso8601), loss: loss || Contracts::Form
                                             .blank(lost_on: (told.lost_on || graft.limb.gone_on || today).iso8601,
                                                    lost_cause: graft.lost_cause), now: Headline.new(orchard, today)
                                                      .of_graft(graft, told) }
          end

          # Its season from its day to leaf fall.
          # The union as it was seen last.
          #
          # @param report [Records::GraftReport]
          def union_drawing(graft, report, **more)
            Drawings::GraftUnion.new(graft, seen: report.last_seen, shoot_mm: report.shoot_mm,
                                     dead: report.gone_sticks, parted: !report.care[:parted_on].nil?, **more).svg
          end

          def graft_strip(graft, report)
            from = graft.grafted_on
            ends = orchard.season.next_day(orchard.rulebook.value("care.calendar.leaf-fall"), [from, today].max)
            events = [strip_event(from, "grafted", "done"),
                      *report.visits.map { |visit| strip_event(visit.seen_on, "looked", "seen") },
                      *report.care[:tasks].map { |task| strip_task(task) }.compact]
            Drawings::GraftStrip.new([from, today - 300].max, ends,
                                     today: today, knit: report.knit_span, events: events)
          end

          # A task on it; nothing of one that went by.
          def strip_task(task)
            kind = { "done" => "done", "waived" => "done", "ahead" => "ahead", "passed" => nil }
              .fetch(task[:status], "due") or return nil
            strip_event(task_day(task), task_words(task)["title"].downcase, kind)
          end

          def strip_event(on, words, kind) = Drawings::GraftStrip::Event.new(on: on, words: words, kind: kind)

          # The graft that is looked at after this one: the next on the agenda, in its order.
          def next_graft(graft)
            due = agenda.due.map(&:of).reject { |of| of.is_a?(Records::Wound) }.uniq(&:id)
            at = due.index { |each| each.id == graft.id }
            at ? due[at + 1] : due.first
          end

          def agenda
            Records::Agenda.new(orchard, today, person: query[:who], row: query[:row], within: SPANS[query[:span]])
          end

          def list(wrong: nil)
            told = agenda
            Deeds::Jobs::ReckonCare.begin(orchard, today) if told.left.positive?
            erb :"tend/agenda", locals: { agenda: told, page: query.fetch(:page, 1), wrong: wrong,
                                          walk: Walk.new(orchard, told, from: query[:walk]),
                                          now: Headline.new(orchard, today).tend(told) }
          end

          def agenda_address(**more)
            asked = query.slice(:who, :row, :span).merge(more).reject { |_, value| value.to_s.empty? }
            "#{to('tend')}#{"?#{Rack::Utils.build_query(asked)}" unless asked.empty?}"
          end

          # The day on which it was done, where a phone that had no signal says it: not one to come, nor long past.
          def day_done = read_day(params["done_on"])&.then { |day| day if day.between?(today - 30, today) } || today

          # What was settled, by its place where it is one.
          def settled_words(chosen)
            how = { "done" => "done", "waived" => "waived" }.fetch(params["what"], "put off")
            return "#{counted(chosen.size, 'task')} #{how}." if chosen.size > 1

            of, key = chosen.first
            "#{place_of(of)}: #{task_words({ rule: key.split(':').first })['title'].downcase} is #{how}."
          end

          # Tasks as ticked on the agenda: "graft:12:slit-tape", "wound:3:support".
          def ticked
            words = params["one"] ? [params["one"]] : Array(params["tasks"])
            words.first(200).map do |word|
              kind, id, key = word.to_s.split(":", 3)
              [kind == "wound" ? orchard.wound!(id) : orchard.graft!(id), key.to_s]
            end
          end
        end

        get("/") { list }

        # The same one at a time, for the hand that has the phone.
        get "/stops" do
          walk = Walk.new(orchard, agenda)
          erb :"tend/stops", locals: { items: walk.stops.flat_map(&:items), more: walk.more,
                                       now: Headline.new(orchard, today).tend(agenda) }
        end

        # Done, waived or put off, one or many at once.
        post "/tasks" do
          attempt(->(e) { list(wrong: e.errors) }) do
            chosen = ticked
            raise Deeds::Refused, tasks: ["tick at least one task"] if chosen.empty?

            if params["what"] == "undo"
              chosen.each { |of, key| Deeds::SettleTask.undo(of, key, by: actor) }
              notice "#{place_of(chosen.first.first)}: taken back."
              next redirect(agenda_address(walk: query[:walk]))
            end
            why = params["why"].to_s.strip[0, 300]
            Deeds::SettleTask.all(chosen, params["what"].to_s, by: actor, today: day_done, why: why.empty? ? nil : why,
                until_on: params["until_on"] == "tomorrow" ? today + 1 : read_day(params["until_on"]))
            notice settled_words(chosen)
            next redirect(agenda_address(walk: query[:walk], did: params["one"].to_s)) if query[:walk]

            redirect "#{agenda_address}#due-h"
          end
        end

        # Given to someone else, one or many at once.
        post "/hands" do
          attempt(->(e) { list(wrong: e.errors) }) do
            chosen = ticked.map(&:first).uniq
            raise Deeds::Refused, tasks: ["tick at least one task"] if chosen.empty?

            Deeds::HandOver.call(chosen, to: params["to"], by: actor)
            notice "Given to #{params['to'].to_s.empty? ? 'whoever did the work' : params['to']}: " \
                   "#{chosen.first(6).map { |each| place_of(each) }.join(', ')}" \
                   "#{' and more' if chosen.size > 6}."
            redirect agenda_address
          end
        end

        # How far the reckoning of every graft is.
        get "/progress" do
          content_type :json
          JSON.generate(Records::CareRuns.progress(orchard))
        end

        get("/calendar") do
          erb :"tend/calendar", locals: { address: nil, key: Records::CalendarKey.of(orchard, account) }
        end

        post "/calendar" do
          outside_address("/")
          token = Deeds::ShareCalendar.call(orchard, account)
          erb :"tend/calendar", locals: { address: outside_address("/calendar/#{token}.ics"),
                                          key: Records::CalendarKey.of(orchard, account) }
        end

        post "/calendar/revoke" do
          Deeds::ShareCalendar.revoke(orchard, account)
          notice "That address no longer works."
          redirect to("tend", "/calendar")
        end

        post "/letters" do
          Deeds::DailyLetters.want(orchard, account, params["wanted"] == "yes")
          redirect to("tend", "/calendar")
        end

        get("/nurses") { erb :"tend/nurses", locals: { nurses: Records::Nurses.new(orchard, today) } }

        post "/limbs/:id/off" do
          limb = orchard.limb!(params["id"])
          attempt(->(e) { redirect_with("#{limb.label} #{e.words}.", to("tend", "/nurses")) }) do
            Deeds::TakeOff.call(limb, on: typed_day("on"), today: today, by: actor)
            notice "#{limb.label} is off."
            redirect to("tend", "/nurses")
          end
        end

        # As much shorter as was advised; what is left can be measured again.
        post "/limbs/:id/shortened" do
          limb = orchard.limb!(params["id"])
          attempt(->(e) { redirect_with("#{limb.label} #{e.words}.", to("tend", "/nurses")) }) do
            left = Deeds::ShortenNurse.call(limb, on: typed_day("on"), today: today, by: actor).left_mm
            notice "#{limb.label} is shortened to about #{about_length(left)}: measure it again where that is not so."
            redirect to("tend", "/nurses")
          end
        end

        get("/grafts/:id") { show(orchard.graft!(params["id"])) }

        # Which is scion and which is stock.
        get "/grafts/:id/tidy" do
          graft = orchard.graft!(params["id"])
          told = Records::GraftReport.new(graft, today)
          # Nothing is tidied where it went with its limb.
          redirect to("tend", "/grafts/#{graft.id}") if told.ended_on

          erb :"tend/tidy", locals: { graft: graft, limb: graft.limb, tree: graft.limb.tree, told: told,
                                      now: Headline.new(orchard, today).limb(graft.limb) }
        end

        # What a visit would mean, as it is pressed: kept only when it is recorded.
        post "/grafts/:id/meaning" do
          graft = orchard.graft!(params["id"])
          reading = read(Contracts::VisitForm)
          begin
            told = reading.ok? ? Deeds::RecordVisit.meaning(graft, Contracts::VisitForm.to_row(reading.values
              .except(:client_key), by: actor), by: actor, today: today) : []
          rescue Deeds::Refused
            told = []
          end
          erb :"tend/meaning", layout: false, locals: { told: told }
        end

        post "/grafts/:id/visits" do
          graft = orchard.graft!(params["id"])
          reading = read(Contracts::VisitForm)
          following = params["then"] == "next" ? next_graft(graft) : nil
          try(reading, ->(wrong) { show(graft, wrong) }) do |v|
            Deeds::RecordVisit.call(graft, Contracts::VisitForm.to_row(v, by: actor), by: actor, today: today)
            next redirect_with("#{graft.limb.label}: #{meaning_of(graft)}", to("tend", "/grafts/#{following.id}")) if
              following

            notice "The visit of #{short_day(v[:seen_on])} to #{graft.limb.label} is kept: what it means stands below."
            redirect to("tend", "/grafts/#{graft.id}#answer")
          end
        end

        post "/grafts/:id/tasks" do
          graft = orchard.graft!(params["id"])
          attempt(->(e) { with_words(e) { show(graft) } }) do
            settle_task(graft)
            redirect to("tend", "/grafts/#{graft.id}#aftercare")
          end
        end

        post "/grafts/:id/loss" do
          graft = orchard.graft!(params["id"])
          if params["what"] == "undo"
            next (Deeds::RecordLoss.undo(graft, by: actor) && redirect(to("tend", "/grafts/#{graft.id}")))
          end

          typed = params.slice("lost_on", "lost_cause", "lost_note").transform_values { |value| value.to_s[0, 500] }
          reading = Contracts::FormResult.new(values: {}, errors: read_day(params["lost_on"]) ? {} :
                                                 { lost_on: ["is a day, such as 2026-05-18"] }, typed: typed, form: {})
          try(reading, ->(wrong) { show(graft, loss: wrong) }) do
            Deeds::RecordLoss.call(graft, on: read_day(params["lost_on"]), cause: params["lost_cause"].to_s,
                                   note: typed["lost_note"], by: actor, today: today)
            redirect to("tend", "/grafts/#{graft.id}")
          end
        end

        # A failed stub goes back to plan, wood and day.
        post "/grafts/:id/regraft" do
          graft = orchard.graft!(params["id"])
          attempt(->(e) { with_words(e) { show(graft) } }) do
            row = Deeds::Regraft.call(graft, by: actor, today: today,
                                      cause: Deeds::RecordLoss::CAUSES.include?(params["lost_cause"]) ?
                                      params["lost_cause"] : nil)
            if row.is_a?(Records::PlanSite)
              notice "#{graft.limb.label} is a bare stretch again, and is to be filled again in #{row.season}" \
                     "#{row.variety ? " with #{row.variety.name}" : ''}."
              redirect to("plan", "/trees/#{graft.limb.tree_id}")
            end
            notice "#{graft.limb.label} is to be worked again in #{row.season}, #{place_words(row.technique)} " \
                   "at #{length(row.cut_mm)}#{row.variety ? " with #{row.variety.name}" : ''}. #{wood_words(row)}"
            redirect to("plan", "/trees/#{graft.limb.tree_id}?limb=#{graft.limb_id}")
          end
        end
      end
    end
  end
end
