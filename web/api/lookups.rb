# frozen_string_literal: true

module Vestry
  module Web
    module Api
      # Everything a program may ask for beside rows, as the pages answer it: what is due, a day's sheet, which sticks
      # go where, what to cut, when bark slips, and what was changed.
      class Lookups
        def self.all = @all ||= list.freeze

        class << self
          private

          def list = @list ||= []

          # @param schema [Hash] of each item
          def items(path, summary, asks = {}, schema:, &finds)
            whole = object(items: { type: "array", items: object(**schema) }, next: { type: %w[integer null] })
            one(path, summary, asks, schema: whole, &finds)
          end

          # @param schema [Hash] of the whole answer
          def one(path, summary, asks = {}, schema:, &finds)
            list << Lookup.new(path: path, summary: summary, asks: asks, schema: JSON.parse(JSON.generate(schema)),
                               finds: finds)
          end

          def object(**properties) = { type: "object", required: properties.keys, properties: properties }
          def text = { type: "string" }
          def maybe(type) = { type: [type, "null"] }
          def number = { type: "number" }
          def whole = { type: "integer" }
          def flag = { type: "boolean" }
          def day = { type: "string", format: "date" }
          def some(**properties) = { type: "array", items: object(**properties) }
        end

        items("today", "What matters today, most pressing first, in the words of the front page",
              schema: { station: text, urgency: whole, words: text,
                        trees: { type: "array", items: whole } }) do |orchard, today, _|
          front = Headline.new(orchard, today).front
          { items: front.matters.map { |matter| { words: front.words.fetch(matter.station), **matter.to_h } },
            next: nil }
        end

        ANSWER = { id: whole, label: text, words: text }.freeze
        one("limbs/{id}/answer", "What there is to do or to know of a limb today, as its page says it",
            schema: object(**ANSWER)) do |orchard, today, asked|
          limb = orchard.limb!(asked[:id])
          { id: limb.id, label: limb.label, words: Headline.new(orchard, today).limb(limb) }
        end
        one("trees/{id}/answer", "What there is to do or to know of a tree today, as its page says it",
            schema: object(**ANSWER)) do |orchard, today, asked|
          tree = orchard.tree!(asked[:id])
          { id: tree.id, label: tree.label, words: Headline.new(orchard, today).tree(tree) }
        end

        items("due", "What grafts and stripped trunks want today, most pressing first, 60 at a time",
              { who: :text, page: :whole },
              schema: { kind: text, id: whole, label: text, key: text, rule: text, title: text, due_on: day,
                        opens_on: day, closes_on: day, status: text, who: maybe("string") }) do |orchard, today, asked|
          page = [asked.fetch(:page, 1), 1].max
          found = Records::Agenda.new(orchard, today, person: asked[:who]).due(page: page)
          full = found.count { |item| !item.wound? } == Records::Agenda::PAGE
          { items: found.map { |item| due(orchard, item) }, next: full ? page + 1 : nil }
        end

        items("days", "What the coming days are for grafting, by kind of tree and of method: good, marginal or to wait",
              schema: { day: day, species: text, kind: { type: "string", enum: Core::Slip::Window::KINDS },
                        verdict: { type: "string", enum: Core::Slip::Crew::VERDICTS },
                        reasons: { type: "array", items: text } }) do |orchard, today, _|
          board = Records::DayBoard.new(orchard, today, orchard.stub_windows(today))
          { items: board.lines.flat_map { |line| days(line) }, next: nil }
        end

        items("sheet", "A crew's day: its stubs in walking order, each with its cut, its method and its sticks",
              { on: :day },
              schema: { plan_limb: whole, limb: whole, label: text, variety_id: maybe("integer"),
                        variety: maybe("string"), method: maybe("string"),
                        cut_mm: number, height_mm: number, stock_mm: number,
                        faces_deg: { type: "array", items: number }, sticks: whole,
                        given: some(stick: whole, label: text, diameter_mm: maybe("number")),
                        short: whole, cautions: { type: "array", items: text } }) do |orchard, today, asked|
          sheet = Records::DaySheet.new(orchard, today, asked.fetch(:on, today))
          { items: sheet.cards.map { |card| card(card) }, next: nil }
        end

        items("match", "Which sticks go to which stub, those that go short first, 60 at a time", { page: :whole },
              schema: { plan_limb: whole, limb: whole, label: text, variety_id: maybe("integer"),
                        variety: maybe("string"), stub_mm: maybe("number"),
                        given: some(stick: whole, label: text, diameter_mm: maybe("number")),
                        short: whole }) do |orchard, today, asked|
          board = Records::MatchBoard.new(orchard, orchard.season_of_wood(today), today)
          page = asked.fetch(:page, 1).clamp(1, board.pages)
          { items: board.page(page).map { |place| matched(place) }, next: page < board.pages ? page + 1 : nil }
        end

        items("cutting-list", "What wood the season's plans want, with its reserve, and what is still to be cut",
              schema: { variety_id: whole, variety: text, planned: whole, reserve: whole, total: whole, in_store: whole,
                        to_come: whole, to_cut: whole, from: { type: "array", items: text }, cut_from: maybe("string"),
                        cut_until: maybe("string") }) do |orchard, today, _|
          order = Records::WoodOrder.new(orchard, orchard.season_of_wood(today), today)
          { items: order.lines.map { |line| wanted(line, order) }, next: nil }
        end

        items("nurses", "The nurse limbs of trees that were worked, and whether each is kept, shortened or taken off",
              schema: { limb: whole, label: text, worked_on: day, kept_after: number,
                        action: { type: "string", enum: %w[keep shorten off] } }) do |orchard, today, _|
          { items: Records::Nurses.new(orchard, today).all.map { |each| nurse(each) }, next: nil }
        end

        items("to-count", "The grafts that the autumn count asks for and that are not counted, some rows to a page",
              { page: :whole },
              schema: { season: whole, row: text, graft: whole, label: text,
                        opens_on: day }) do |orchard, today, asked|
          page = asked.fetch(:page, 1).clamp(1, Records::CountRow.pages(orchard))
          { items: to_count(orchard, today, page), next: page < Records::CountRow.pages(orchard) ? page + 1 : nil }
        end

        items("slip", "When the bark of each kind lifts and closes: seen, reached, or between which days",
              schema: { species: text, reached_on: maybe("string"), early_on: maybe("string"),
                        likely_on: maybe("string"), late_on: maybe("string"), closes_on: maybe("string"),
                        degree_days: number,
                        wanted_degree_days: number, learned_from: text }) do |orchard, today, _|
          spring = orchard.bark_forecast(today)
          found = spring.species.map { |kind| bark(kind, spring.of_species(kind), spring.closes_on(kind)) }
          { items: found, next: nil }
        end

        items("changes", "What was changed, oldest first, after a change that is known",
              { after: :whole, limit: :whole },
              schema: { id: whole, table: text, row: whole, action: text, at: { type: "string", format: "date-time" },
                        who: maybe("string"), deed: maybe("string") }) do |orchard, _today, asked|
          limit = asked.fetch(:limit, 100).clamp(1, 200)
          rows = Records::HistoryQueries.after(orchard, asked.fetch(:after, 0), limit: limit + 1)
          shown = rows.first(limit)
          { items: shown.map { |row| change(row) }, next: rows.size > limit ? shown.last[:id] : nil }
        end

        class << self
          private

          def due(orchard, item)
            { kind: item.wound? ? "wound" : "graft", id: item.of.id, label: item.label, who: item.person,
              title: orchard.rulebook.task(item.task[:rule])["title"],
              **item.task.slice(:key, :rule, :status), **dates(item.task, :due_on, :opens_on, :closes_on) }
          end

          def days(line)
            line.days.map do |each|
              { day: iso(each[:date]), species: line.species, kind: line.kind, verdict: each[:verdict],
                reasons: each[:reasons].map { |reason| reason[:code].to_s } }
            end
          end

          def card(card)
            { plan_limb: card.row.id, limb: card.limb.id, label: card.limb.label, variety_id: card.row.variety_id,
              variety: card.row.variety&.name, method: card.row.technique, cut_mm: card.place.at_mm,
              height_mm: card.place.height_mm,
              stock_mm: card.place.stock_mm, faces_deg: card.place.faces, sticks: card.place.stick_count,
              given: given(card.given), short: card.short, cautions: card.cautions }
          end

          def matched(place)
            { plan_limb: place.row.id, limb: place.row.limb_id, label: place.row.limb.label,
              variety_id: place.row.variety_id, variety: place.row.variety&.name, stub_mm: place.stub_mm,
              given: given(place.given), short: place.short }
          end

          def given(sticks)
            sticks.map do |each|
              { stick: each.stick.id, label: each.stick.label, diameter_mm: each.diameter_mm&.to_f }
            end
          end

          # What never sleeps is cut on the day of grafting.
          def wanted(line, order)
            days = order.leafy?(line.variety) ? [] : order.window(line.variety.species).values_at(:from, :to)
            { variety_id: line.variety.id, variety: line.variety.name, planned: line.sticks, reserve: line.reserve,
              total: line.total, in_store: line.have, to_come: line.to_come, to_cut: line.to_find,
              from: line.sources.map(&:label), cut_from: iso(days[0]), cut_until: iso(days[1]) }
          end

          def to_count(orchard, today, page)
            season, opens = orchard.season_to_count(today), Records::CountRow.opens_on(orchard, today)
            rows = Records::CountRow.all(orchard, today, page: page).select { |row| row[:counted] < row[:grafts] }
            rows.flat_map do |row|
              Records::CountRow.new(orchard, row[:row], season).left.map do |line|
                { season: season, row: row[:row], graft: line.id, label: line.label, opens_on: iso(opens) }
              end
            end
          end

          def nurse(each)
            { limb: each.limb.id, label: each.limb.label, worked_on: iso(each.since), action: each.action,
              kept_after: each.kept_after }
          end

          def bark(species, told, closes)
            { species: species, reached_on: iso(told[:reached_on]), early_on: iso(told[:p10]),
              likely_on: iso(told[:p50]), late_on: iso(told[:p90]), closes_on: iso(closes),
              degree_days: told[:accumulated_dd],
              wanted_degree_days: told[:threshold_dd], learned_from: told[:basis].to_s }
          end

          def change(row)
            { id: row[:id], table: row[:table_name], row: row[:row_id], action: row[:action], at: row[:at].iso8601,
              who: row[:who], deed: row[:deed] }
          end

          def dates(task, *names) = names.to_h { |name| [name, iso(task[name])] }
          def iso(date) = date&.iso8601
        end
      end
    end
  end
end
