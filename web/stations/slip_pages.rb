# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # When the bark slips, tree by tree, and which days to graft.
      class SlipPages < Base
        helpers do
          def windows = @windows ||= orchard.stub_windows(today)
          def spring = windows.spring
          def board = @board ||= Records::DayBoard.new(orchard, today, windows)
          def line = Headline.new(orchard, today)
          # From when a stub can be set: its bark is tested first where that is not known.
          def from_when(stub)
            opens = stub.window[:opens_on]
            return short_day(opens) if opens > today || (stub.kind == "slip" && !stub.told.slips?)

            stub.needs_slip && !stub.lifted ? "once tested" : "now"
          end

          # What a day is told for.
          def method_kind(kind) = { "slip" => "at slip", "no-slip" => "needs no slip", "bud" => "budding" }.fetch(kind)
          # For an orchard in which no tree stands yet.
          def first_year
            @first_year ||= FirstYear.new(orchard.latitude, orchard.altitude_m, today, book: orchard.rulebook)
          end

          # Every kind on one axis, from the biofix until the last bark closes, with the weather.
          def spring_drawing
            kinds = spring.species.map { |species| spring_kind(species) }
            ends = [*kinds.map(&:closes), today + 14].max + 7
            Drawings::Spring.new(spring.biofix, ends, today: today, kinds: kinds, units: orchard.units,
                                 days: spring.weather.days(spring.biofix) + coming_weather)
          end

          def coming_weather = spring.weather.forecast.reject { |day| day[:date] <= today }

          def spring_kind(species)
            told = spring.of_species(species)
            from = told[:reached_on] || told[:p10] || told[:p50] || spring.closes_on(species)
            Drawings::Spring::Kind.new(name: species_name(species), from: from, even: told[:p50] || from,
                                       sure: told[:reached_on] || told[:p90] || told[:p50] || from,
                                       closes: spring.closes_on(species), slips: !told[:reached_on].nil?)
          end

          def walk(row, wrong: nil)
            trees = orchard.trees_of_row(row, most: 200)
            raise Records::Missing if trees.empty?

            told, come_back = spring.of_trees(trees), Records::RevisitList.new(orchard, today, windows)
            erb :"slip/walk", locals: { row: row, told: told, wrong: wrong, rows: orchard.rows, come_back: come_back,
                                        now: line.walk(row, told, spring, come_back) }
          end

          def weather_page(errors: {})
            erb(:"slip/weather", locals: { errors: errors,
                                           days: orchard.weather(today).then { |weather| weather.days(today - 30) +
                                             weather.forecast.reject { |day| day[:date] < today } },
                                           now: line.weather })
          end

          def crew(wrong: nil)
            plan = Records::CrewPlan.new(orchard, today, windows: windows, board: board)
            erb :"slip/crew", locals: { plan: plan, wrong: wrong, now: line.crew(plan) }
          end
        end

        get "/" do
          come_back, said = Records::RevisitList.new(orchard, today, windows), line
          erb :"slip/orchard", locals: { windows: windows, spring: spring, board: board, come_back: come_back,
                                         now: said.slip(spring, come_back, board), act: said.act }
        end

        get "/walk" do
          row = query[:row].to_s
          if row.empty?
            row = (Records::RevisitList.new(orchard, today, windows).visits.first&.told&.tree&.row ||
                   orchard.rows.first)
          end
          next walk(row) if row

          notice "There is no row to walk yet: add trees first."
          redirect to("survey")
        end

        # One tap: what the tree does, and whether its bark lifts.
        post "/trees/:id/seen" do
          tree = orchard.tree!(params["id"])
          attempt(->(e) { walk(orchard.tree!(params["id"]).row, wrong: [params["id"].to_i, e.words]) }) do
            slipping = { "yes" => true, "no" => false }[params["slipping"]]
            on = params["seen_on"].to_s.empty? ? today : typed_day("seen_on")
            Deeds::SeeStage.call(tree, stage: params["stage"].to_s, slipping: slipping, on: on, today: today, by: actor,
                                 closed: params["slipping"] == "closed", bleeds: params["bleeds"] == "true",
                                 client_key: params["client_key"].to_s[/\A[0-9a-f-]{36}\z/])
            redirect to("slip", "/walk?row=#{Rack::Utils.escape(tree.row)}#tree-#{tree.id}")
          end
        end

        get("/crew") { crew }

        post "/crew/day" do
          attempt(->(e) { crew(wrong: e.words) }) do
            day, hours, grafters = typed_day("day"), Core::Values.number(params["hours"]),
              Core::Values.whole(params["grafters"])
            unless hours&.between?(0, 24) && grafters&.between?(0, 200)
              raise Deeds::Refused, hours: ["Hours are from 0 to 24, and people from 0 to 200"]
            end

            Deeds::SettleCrew.day(orchard, day, hours: hours, grafters: grafters, by: actor)
            redirect to("slip", "/crew")
          end
        end

        post "/crew/fix" do
          attempt(->(e) { crew(wrong: e.words) }) do
            row = orchard.planned_limb!(params["plan_limb"])
            day = params["day"].to_s.empty? ? nil : typed_day("day")
            Deeds::SettleCrew.fix(row, day, by: actor, today: today)
            redirect to("slip", "/crew")
          end
        end

        get("/weather") { weather_page }

        post "/weather" do
          attempt(->(e) { weather_page(errors: e.errors) }) do
            bytes, name = sent_table
            import = Deeds::ImportFile.preview(orchard, "station", name, bytes, by: actor, today: today)
            redirect to("files", "/#{import.id}")
          end
        end

        post "/weather/ask" do
          answered = Outside::WeatherFeed.asked?(orchard) ?
            Deeds::AskWeather.call(orchard, today: today) : false
          notice answered ? "The weather service answered." :
            "The weather service does not answer just now; what is known stands."
          redirect to("slip")
        end
      end
    end
  end
end
