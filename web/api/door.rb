# frozen_string_literal: true

require "json"
require "sinatra/base"

module Vestry
  module Web
    module Api
      # The interface for programs: JSON over HTTP, a person's key, and the same roles and deeds as the
      # pages.
      class Door < Sinatra::Base
        MOST_BYTES = 4 * 1024 * 1024

        # What a program did wrong, as problem+json.
        class Problem < StandardError
          attr_reader :status, :errors

          def initialize(status, title, errors = nil)
            @status = status
            @errors = errors
            super(title)
          end
        end

        set :show_exceptions, false
        set :raise_errors, false
        set :protection, false
        set :sessions, false
        set :static, false
        set :host_authorization, { permitted_hosts: [] }

        helpers do
          def account = @account ||= Records::ApiToken.account(request.env["HTTP_AUTHORIZATION"].to_s[/\ABearer (\S+)\z/, 1]) || raise(Problem.new(401, "a key is wanted: Authorization: Bearer …"))

          def orchard
            @orchard ||= Records::Orchard.first(slug: params["slug"]).then { |found| found && account.role_in(found) ? found : raise(Problem.new(404, "you belong to no such orchard")) }
          end

          def needs(role) = Records::Membership.enough?(account.role_in(orchard), role) || raise(Problem.new(403, "a #{role} may; you are a #{account.role_in(orchard)}"))
          def today = Outside::Clock.today(orchard.time_zone)

          def body_json
            raise Problem.new(413, "at most #{MOST_BYTES / 1024 / 1024} MB") if request.content_length.to_i > MOST_BYTES

            read = JSON.parse(request.body.read(MOST_BYTES + 1).to_s.force_encoding("UTF-8"))
            read.is_a?(Hash) ? read : raise(Problem.new(400, "a JSON object is wanted"))
          rescue JSON::ParserError
            raise Problem.new(400, "the body is not JSON")
          end

          def answer(value, status: 200)
            status(status)
            content_type :json
            JSON.generate(value)
          end

          def problem(status, title, errors = nil)
            status(status)
            content_type "application/problem+json"
            JSON.generate({ type: "about:blank", title: title, status: status, errors: errors }.compact)
          end

          # The body through a form's contract, then a deed.
          def write(form)
            needs("grafter")
            reading = form.new(units: orchard.units).read(body_json.transform_values { |value| value.is_a?(Numeric) || value == true || value == false ? value.to_s : value })
            raise Problem.new(422, "some fields cannot be taken", reading.errors) unless reading.ok?

            yield reading.values
          rescue Deeds::Refused => e
            raise Problem.new(e.is_a?(Deeds::Conflict) ? 409 : 422, "it was refused", reading ? reading.with(e.errors).errors : e.errors)
          end

          def made(name, row) = answer(Records::Archive::Rows.one(orchard, Records::Archive::Tables.named(name), row.id), status: 201)
        end

        get("/openapi.json") { answer(OpenApi.document) }

        get("/reckon") do
          account
          answer({ reckonings: Core::RECKONINGS.keys })
        end

        post "/reckon/:name" do
          account
          raise Problem.new(404, "no reckoning #{params['name'][0, 60]}") unless Core::RECKONINGS.key?(params["name"])

          answer(Core.reckoning(params["name"]).reckon(body_json))
        end

        get("/orchards") { answer({ items: account.orchards.map { |each| { slug: each.slug, name: each.name, role: account.role_in(each) } }, next: nil }) }
        get("/orchards/:slug") { answer(orchard.values.slice(:slug, :name, :latitude, :longitude, :time_zone, :grazing, :wind_from_deg, :units, :school).merge(role: account.role_in(orchard))) }

        post "/orchards/:slug/trees" do
          write(Contracts::NewTrees) do |v|
            trees = Deeds::AddTrees.call(orchard, { row: v[:row].upcase, first: v[:first], last: v[:last], species: v[:species], form: v[:form], variety_id: v[:variety] && orchard.variety!(v[:variety]).id, rootstock: v[:rootstock], planted_year: v[:planted_year],
                                                    height_mm: v[:height], trunk_girth_mm: v[:trunk_girth] }, by: account.name)
            answer({ items: trees.map { |tree| Records::Archive::Rows.one(orchard, Records::Archive::Tables.named("trees"), tree.id) }, next: nil }, status: 201)
          end
        end

        post "/orchards/:slug/trees/:id/lines" do
          needs("grafter")
          tree, typed = orchard.tree!(params["id"]), body_json
          reads = Core::Survey::LimbLine.read_all(typed["lines"].to_s[0, 20_000], units: orchard.units, taken: tree.limbs_dataset.select_map(:tag))
          bad = reads.reject(&:ok?)
          raise Problem.new(422, "no line was sent") if reads.empty?
          raise Problem.new(422, "some lines cannot be read", lines: bad.map { |read| "line #{read.number}: “#{read.word}” #{read.why}" }) if bad.any?

          doubts = reads.flat_map { |read| Deeds::SurveyLimbs.doubts(tree, read.values) }
          raise Problem.new(422, "is that so? send sure: true", lines: doubts) if doubts.any? && typed["sure"] != true

          limbs = Deeds::SurveyLimbs.call(tree, reads.map(&:values), by: account.name, today: today)
          answer({ items: limbs.map { |limb| Records::Archive::Rows.one(orchard, Records::Archive::Tables.named("limbs"), limb.id) }, next: nil }, status: 201)
        rescue Deeds::Refused => e
          raise Problem.new(422, "it was refused", e.errors)
        end

        post "/orchards/:slug/limbs/:id/grafts" do
          limb = orchard.limb!(params["id"])
          write(Contracts::LogGraft) do |v|
            bundle = v[:bundle] && orchard.bundle!(v[:bundle])
            made("grafts", Deeds::LogGraft.call(limb, { grafted_on: v[:grafted_on], technique: v[:technique], variety_id: orchard.variety!(v[:variety]).id, stub_mm: v[:stub], scion_mm: v[:scion], cut_mm: v[:cut], sticks: v[:sticks], grafter: v[:grafter], wrap: v[:wrap], seal: v[:seal],
                                                        cover: v[:cover], perch: v[:perch] == true, brace: v[:brace] == true, bark_slip: v[:bark_slip], conditions: v[:conditions], against_reason: v[:against_reason], client_key: v[:client_key] }, by: account.name, today: today, bundle: bundle))
          end
        end

        post "/orchards/:slug/grafts/:id/visits" do
          graft = orchard.graft!(params["id"])
          write(Contracts::Visit) do |v|
            made("visits", Deeds::RecordVisit.call(graft, { seen_on: v[:seen_on], buds: v[:buds], callus: v[:callus], verdict: v[:verdict], longest_shoot_mm: v[:longest_shoot], seal_state: v[:seal], wrap_state: v[:wrap], stock_shoots: v[:stock_shoots], pests: v[:pests],
                                                            snapped: v[:snapped] == true, fruit: v[:fruit] == true, note: v[:note], seen_by: account.name, client_key: v[:client_key] }, by: account.name, today: today))
          end
        end

        post "/orchards/:slug/grafts/:id/tallies" do
          graft = orchard.graft!(params["id"])
          write(Contracts::Tally) do |v|
            made("tallies", Deeds::RecordTally.call(graft, { tallied_on: v[:tallied_on], alive: v[:alive], growth_mm: v[:growth], above_mm: v[:above], below_mm: v[:below], open_a_mm: v[:open_a], open_b_mm: v[:open_b], angle_deg: v[:angle], crop_kg: v[:crop] && Contracts::Tally.kilograms(v[:crop]),
                                                             sticks_alive: v[:sticks_alive], waist: v[:waist] == true, breakage: v[:breakage], note: v[:note], tallied_by: account.name, client_key: v[:client_key] }, by: account.name, today: today))
          end
        end

        post "/orchards/:slug/grafts/:id/tasks" do
          needs("grafter")
          typed = body_json
          until_on = typed["until_on"] && Date.iso8601(typed["until_on"].to_s)
          made("tasks", Deeds::SettleTask.call(orchard.graft!(params["id"]), typed["key"].to_s, typed["what"].to_s, by: account.name, today: today, why: typed["why"]&.to_s, until_on: until_on))
        rescue Deeds::Refused => e
          raise Problem.new(422, "it was refused", e.errors)
        rescue Date::Error
          raise Problem.new(422, "some fields cannot be taken", until_on: ["a day as 2026-05-18"])
        end

        post "/orchards/:slug/wounds" do
          write(Contracts::NewWounds) do |v|
            wounds = Deeds::FindWounds.call(orchard, Deeds::FindWounds.read(orchard, v[:lines]), v, by: account.name, today: today)
            answer({ items: wounds.map { |wound| Records::Archive::Rows.one(orchard, Records::Archive::Tables.named("wounds"), wound.id) }, next: nil }, status: 201)
          end
        end

        get "/orchards/:slug/:table" do
          table = Records::Archive::Tables.named(params["table"]) or raise Records::Missing
          answer(Records::Archive::Rows.page(orchard, table, after: whole("after"), limit: whole("limit")))
        end

        get "/orchards/:slug/:table/:id" do
          table = Records::Archive::Tables.named(params["table"]) or raise Records::Missing
          answer(Records::Archive::Rows.one(orchard, table, params["id"]))
        end

        helpers do
          def whole(name)
            return nil unless params.key?(name)

            number = Integer(params[name].to_s, 10, exception: false)
            number&.between?(0, 2_147_483_647) ? number : raise(Problem.new(422, "some fields cannot be taken", name => ["a whole number from 0 up"]))
          end
        end

        error(*Stack::Steady::LOST) { halt(*Stack::Steady.answer(env)) }
        error(Problem) { |e| problem(e.status, e.message, e.errors) }
        error(Records::Missing) { problem(404, "there is no such thing in this orchard") }
        error(Core::BadInput) { |e| problem(422, "some fields cannot be taken", { e.field => [e.allowed] }) }
        not_found { problem(404, "nothing is kept at this address") }
        error { problem(500, "something broke here, and it is not your doing") }
      end
    end
  end
end
