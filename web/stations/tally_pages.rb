# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # What came of it, each autumn and for years.
      class TallyPages < Base
        TALLIED_LENGTHS = %i[growth above below open_a open_b].freeze
        private_constant :TALLIED_LENGTHS

        helpers do
          def season = orchard.season_to_count(today)

          def show(graft, reading = nil)
            reading ||= Contracts::TallyForm.blank(current_values(graft))
            erb :"tally/graft", locals: { graft: graft, limb: graft.limb, tree: graft.limb.tree, reading: reading,
                                          before: Records::CountRow.new(orchard, graft.limb.tree.row, season),
                                          now: Headline.new(orchard, today).limb(graft.limb) }
          end

          # What was counted of this season. In autumn what was measured before growth stopped is none of it.
          def counted_now(graft)
            said = graft.tallies.find { |each| each.season == season }
            said if said && (before_autumn? || !Records::Tally.early?(orchard, season, said.tallied_on))
          end

          def before_autumn? = today < Records::CountRow.opens_on(orchard, today)

          # This season's tally, if it was begun; else an empty one.
          def current_values(graft)
            tally = counted_now(graft)
            return { tallied_on: today.iso8601, alive: "true" } unless tally

            lengths = TALLIED_LENGTHS.to_h { |field| [field, tally[:"#{field}_mm"]&.then { |mm| length(mm) }] }
            { tallied_on: tally.tallied_on.iso8601, alive: tally.alive.to_s, **lengths,
              angle: tally.angle_deg&.to_i, crop: tally.crop_kg && crop(tally.crop_kg),
              **tally.values.slice(:sticks_alive, :waist, :breakage, :note, :version) }
          end

          # A count of this season that is corrected keeps what nobody touched.
          def corrected?(graft) = !counted_now(graft).nil?

          def one_row(row)
            erb :"tally/row", locals: { row: row, page: query.fetch(:page, 1).clamp(1, row.pages),
                                        now: Headline.new(orchard, today).tally_row(row) }
          end

          def years = Records::GraftQueries.grafted_seasons(orchard)
          def asked_season = years.find { |year| year == query[:season] }
        end

        get "/" do
          row = query[:row].to_s
          next one_row(Records::CountRow.new(orchard, row, season)) unless row.empty?

          pages = Records::CountRow.pages(orchard)
          page = query.fetch(:page, 1).clamp(1, pages)
          rows = Records::CountRow.all(orchard, today, page: page)
          part = " in rows #{rows.first[:row]} to #{rows.last[:row]}" if pages > 1 && rows.any?
          shown, line = asked_season || season, Headline.new(orchard, today)
          erb :"tally/rows", locals: { rows: rows, page: page, pages: pages, shown: shown,
                                       years: [season, *years].uniq.sort,
                                       map: OrchardView.new(orchard, query.slice(:x, :y, :w), today, season: shown,
                                                            wanted: Records::CountRow.left_trees(orchard, today)),
                                       now: line.tally(rows, part: part), act: line.act }
        end

        get("/grafts/:id") { show(orchard.graft!(params["id"])) }

        post "/grafts/:id" do
          graft = orchard.graft!(params["id"])
          reading = read(Contracts::TallyForm, current_values(graft))
          try(reading, ->(wrong) { show(graft, wrong) }) do |v|
            row = Contracts::TallyForm.to_row(v, by: actor)
            row = (reading.untouched? ? {} : reading.changed(row)).merge(row.slice(:tallied_on)) if corrected?(graft)
            Deeds::RecordTally.call(graft, row, by: actor, today: today, version: v[:version])
            following = params["go"] == "on" && Records::CountRow.new(orchard, graft.limb.tree.row, season).after(graft)
            notice "#{graft.limb.label} is counted."
            redirect following ? to("tally", "/grafts/#{following.id}") : to("tally", "/limbs/#{graft.limb_id}")
          end
        end

        # A limb's life.
        get "/limbs/:id" do
          limb = orchard.limb!(params["id"])
          erb :"tally/limb", locals: { limb: limb, tree: limb.tree, graft: limb.graft,
                                       now: Headline.new(orchard, today).limb(limb) }
        end

        # A tree's scaffold and years.
        get "/trees/:id" do
          tree = orchard.trees_in_full([orchard.tree!(params["id"]).id]).first
          told = Records::TreeYears.new(tree, today)
          wanted = query[:year]
          year = wanted && wanted.between?(told.first, told.last) ? wanted : told.now
          scaffold = Records::ScaffoldReport.new(tree, today)
          erb :"tally/tree", locals: { tree: tree, told: told, year: year, scaffold: scaffold,
                                       now: Headline.new(orchard, today).scaffold(scaffold) }
        end

        # What took.
        get "/took" do
          by = chosen("by", Records::Outcomes::BY.keys, "method")
          count = chosen("count", %w[stubs sticks], "stubs")
          told = Records::Outcomes.new(orchard, today, season: asked_season)
          lines = told.by(by, count: count)
          weighed = told.weighed(by, count: count)
          erb :"tally/took", locals: { told: told, by: by, count: count, lines: lines, years: years, weighed: weighed,
                                       now: say(weighed[:claim]) }
        end

        # What is the book's, and what the orchard's own.
        get "/learned" do
          lines = LearnedFigures.new(orchard, today, self).lines
          erb :"tally/learned", locals: { lines: lines, now: say_learned(lines) }
        end

        get "/report.pdf" do
          year = asked_season || season
          content_type "application/pdf"
          attachment "#{orchard.slug}-#{year}.pdf", "inline"
          Sheets::SeasonPaper.new(orchard, today, year, self, size: paper).pdf
        end
      end
    end
  end
end
