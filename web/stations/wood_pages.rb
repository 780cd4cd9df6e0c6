# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # The wood: how much to cut, how it is judged and kept, and which stick goes where.
      class WoodPages < Base
        helpers do
          def season = @season ||= orchard.season_of_wood(today)
          def line = Headline.new(orchard, today)
          def order(of = season) = Records::WoodOrder.new(orchard, of, today)

          def make(reading: nil)
            reading ||= Contracts::BundleForm.blank(variety: params["variety"], cut_on: today.iso8601,
                                                cut_by: (actor unless params["promise"]),
                                                tree: params["tree"], **ordered, **for_a_bridge,
                                                ends: orchard.rulebook.practice("wood-ends", orchard.school),
                                                dip: orchard.rulebook.practice("wood-dip", orchard.school),
                                                packing: orchard.rulebook.practice("wood-packing", orchard.school),
                                                store: orchard.wood_store(today).stores.first&.id)
            erb :"wood/make", locals: { reading: reading, stores: orchard.wood_store(today).stores,
                                        now: "Judge the wood first, then count and tie it: five looks, and what " \
                                             "fails one is thrown out." }
          end

          # What is known of a bundle that a stripped tree is to be bridged with.
          def for_a_bridge
            return {} unless params["bridge"]

            wound = orchard.wound!(params["bridge"])
            tree = wound.tree.variety_id ? { variety: wound.tree.variety_id.to_s, tree: wound.tree.label } : {}
            { whole_shoots: true, **tree }
          end

          # What is known of a bundle whose wood was ordered.
          def ordered
            return {} unless params["promise"]

            promise = orchard.wood_promise!(params["promise"])
            { promise: promise.id, variety: promise.variety_id, source: promise.source, count: promise.sticks,
              laid_in: today.iso8601 }
          end

          def one(bundle, errors: {})
            cellar = orchard.wood_store(today)
            kept = cellar.keep(bundle)
            erb :"wood/bundle", locals: { bundle: bundle, kept: kept, stores: cellar.stores, errors: errors,
                                          varieties: orchard.varieties_in_sight,
                                          drawn: drawn_sticks(bundle), now: line.bundle(kept) }
          end

          # A bundle's sticks as they lie, each with where it goes or went.
          def drawn_sticks(bundle)
            stubs = Records::MatchBoard.new(orchard, season, today).stubs_of(bundle.sticks.select(&:here?).map(&:id))
            all = bundle.sticks.map { |stick| drawn_stick(stick, stubs[stick.id]) }
            sticks_drawing(all, "The sticks of #{bundle.code}, end-on")
          end

          # @param stub [String, nil] the stub that it goes to
          def drawn_stick(stick, stub)
            Drawings::BundleSticks::BundleStick.new(
              number: stick.number, mm: stick.diameter_mm&.to_f, gone: !stick.here?,
              for: stub || stick.graft&.limb&.label || stick.wound&.label || stick.left_for, href: set_on(stick)
            )
          end

          # Where what a stick was set on is read of.
          def set_on(stick)
            return to("tend", "/grafts/#{stick.graft_id}") if stick.graft_id

            stick.wound_id && to("repair", "/#{stick.wound_id}")
          end

          def sticks_drawing(all, title)
            Drawings::BundleSticks.new(all, pencil_mm: orchard.rulebook.value("reckoning.wood.pencil").to_f,
                                            units: orchard.units, title: title)
          end

          # The sticks that are to be cut to a limb's own size, each under the stub that it is for.
          #
          # @param wanted [Array] with the range of sizes that is best
          def wanted_sticks(wanted)
            sticks = wanted.flat_map { |each| [each] * each.sticks }.each_with_index.map do |each, i|
              Drawings::BundleSticks::BundleStick.new(number: i + 1, mm: (each.from_mm + each.to_mm) / 2.0,
                                                      for: each.label)
            end
            sticks_drawing(sticks, "The sticks to cut to size, end-on, each under its stub")
          end

          def nursery_page(errors: {}, typed: {})
            nursery = Records::NurseryOrder.new(orchard, order)
            erb :"wood/nursery", locals: { order: nursery, errors: errors, typed: typed, now: line.nursery(nursery) }
          end

          # The sticks that are typed, as far as they can be read: their diameters, or only how many.
          def typed_sticks(reading)
            run = reading.values[:diameters]
            run = [nil] * reading.values[:count].to_i unless run.is_a?(Array)
            sticks = run.each_with_index.map { |mm, i| Drawings::BundleSticks::BundleStick.new(number: i + 1, mm: mm) }
            sticks_drawing(sticks, "The sticks as they are typed") if sticks.any?
          end

          def store_page(store, errors: {}, reading: Contracts::StoreForm.blank(called(store)))
            readings = store.readings(today)
            erb :"wood/store", locals: { store: store, readings: readings, errors: errors, reading: reading,
                                         now: line.store(store, readings) }
          end

          def called(store) = store.values.slice(:name, :thermometer, :version)

          # Does something to a bundle; its page again when that is refused.
          def with_bundle
            bundle = orchard.bundle!(params["id"])
            attempt(->(e) { one(orchard.bundle!(params["id"]), errors: e.errors) }) do
              once do
                words = yield bundle
                notice words if words.is_a?(String)
                to("wood", "/bundles/#{bundle.id}")
              end
            end
          end

          def match_page(board, error: nil)
            erb(:"wood/match", locals: { board: board, page: query.fetch(:page, 1).clamp(1, board.pages),
                                         error: error, now: line.match(board) })
          end
          # Back to the page of the match that was pressed on.
          def match_address(place = nil)
            to("wood", "/match#{"?page=#{query[:page]}" if query.fetch(:page, 1) > 1}#{"##{place}" if place}")
          end
          # What is wanted a year ahead, and which limbs to head for it.
          def ahead_of(season)
            ahead = order(season + 1)
            shoots = ahead.lines.to_h { |line| [line.variety.id, line.shoots] }
            { ahead: ahead, heading: Records::HeadingLimbs.new(orchard, shoots, today) }
          end

          def whole(name) = Integer(params[name].to_s.strip, 10, exception: false).to_i
        end

        get "/" do
          cellar, said = orchard.wood_store(today), line
          now = said.wood(order, cellar)
          erb :"wood/orchard", locals: { order: order, **ahead_of(season), cellar: cellar, now: now, act: said.act,
                                         kept: cellar.still_kept(season) }
        end

        # To carry to the tree.
        get "/list" do
          erb :"wood/list", locals: { order: order, now: line.cutting(order) }
        end

        # Wood from elsewhere: what to ask for, what is on its way, what came.
        get("/nursery") { nursery_page }

        post "/nursery" do
          attempt(->(e) { nursery_page(errors: e.errors, typed: params) }) do
            once do
              made = Deeds::OrderWood.call(orchard, params["sticks"].to_h, season: season, source: params["source"],
                                           wanted_by: read_day(params["wanted_by"]), by: actor, today: today)
              sticks = made.sum(&:sticks)
              notice "#{counted(sticks, 'stick')} of #{counted(made.size, 'variety', 'varieties')} " \
                     "#{sticks == 1 ? 'is' : 'are'} on order."
              to("wood", "/nursery")
            end
          end
        end

        post "/nursery/received" do
          promise = orchard.wood_promise!(params["promise"])
          attempt(->(e) { redirect_with(e.words, to("wood", "/nursery")) }) do
            Deeds::OrderWood.receive(promise, on: (today unless params["back"] == "yes"), by: actor)
            redirect to("wood", "/nursery")
          end
        end

        get "/nursery.pdf" do
          nursery = Records::NurseryOrder.new(orchard, order)
          promises = nursery.awaited.select { |each| query[:q].nil? || each.source == query[:q] }
          raise Records::Missing if promises.empty?

          content_type "application/pdf"
          attachment "wood-#{season}.pdf", :inline
          Sheets::NurseryPaper.new(promises, nursery, orchard, self, size: paper).pdf
        end

        get("/dip") do
          erb :"wood/dip", locals: { dip: DilutionForm.new(orchard, params),
                                     now: "Household measures and household bleach make the strength hard to get " \
                                          "right: reckon it." }
        end

        get "/match" do
          match_page(Records::MatchBoard.new(orchard, season, today))
        end

        post "/match/keep" do
          attempt(->(e) { match_page(Records::MatchBoard.new(orchard, season, today), error: e.words) }) do
            row = orchard.planned_limb!(params["plan_limb"])
            Deeds::KeepBundle.lock(row, orchard.stick!(params["stick"]), by: actor)
            redirect match_address(row.limb.label.tr(" ", "-"))
          end
        end

        post "/match/free" do
          Deeds::KeepBundle.unlock(orchard, whole("stick").clamp(0, 2_147_483_647))
          redirect match_address
        end

        get("/bundles/new") { make }

        # What is typed for a new bundle, drawn.
        get("/bundles/drawn") do
          reading = read(Contracts::BundleForm)
          partial :"wood/typed", typed: typed_sticks(reading), wrong: reading.wrong(:diameters)
        end

        post "/bundles" do
          reading = read(Contracts::BundleForm)
          try(reading, ->(wrong) { make(reading: wrong) }) do |v|
            bundle = Deeds::MakeBundle.call(orchard, v.merge(length_mm: v[:length]), by: actor, today: today)
            redirect to("wood", "/bundles/#{bundle.id}")
          end
        end

        get("/bundles/:id") { one(orchard.bundle!(params["id"])) }

        post "/bundles/:id/check" do
          with_bundle do |bundle|
            Deeds::KeepBundle.check(bundle, params["found"].to_s, on: today, note: params["note"].to_s.strip[0, 500],
                by: actor, tests: Contracts::WoodTests.of(params, units: typed_units)) && "#{bundle.code} is looked at."
          end
        end

        post "/bundles/:id/split" do
          bundle = orchard.bundle!(params["id"])
          attempt(->(e) { one(orchard.bundle!(params["id"]), errors: e.errors) }) do
            once do
              part = Deeds::MoveSticks.split(bundle, whole("count"), by: actor)
              notice "#{part.code} is split from #{bundle.code}."
              to("wood", "/bundles/#{part.id}")
            end
          end
        end

        post "/bundles/:id/away" do
          with_bundle do |bundle|
            left = Deeds::MoveSticks.send_off(bundle, whole("count"), params["why"].to_s,
                                              to: params["to"].to_s.strip[0, 200], on: today, by: actor)
            "#{counted(whole('count'), 'stick')} #{params['why']}; " \
            "#{left.zero? ? 'none' : left} left in #{bundle.code}."
          end
        end

        post "/bundles/:id/receive" do
          with_bundle do |bundle|
            "#{counted(whole('count'), 'stick')} " \
            "received; #{Deeds::MoveSticks.receive(bundle, whole('count'), by: actor)} in #{bundle.code}."
          end
        end

        post "/bundles/:id/measure" do
          with_bundle do |bundle|
            run = Contracts::DiameterRun.read(params["diameters"].to_s[0, 4000], typed_units)
            if run.empty?
              example = Core::Measure::EXAMPLES_OF_THIN.fetch(orchard.units)
              raise Deeds::Refused, diameters: ["type at least one, as #{example}"]
            end

            Deeds::MoveSticks.measure(bundle, run, by: actor) && "#{counted(run.size, 'stick')} measured."
          rescue Core::BadInput => e
            raise Deeds::Refused, diameters: [e.allowed]
          end
        end

        post "/bundles/:id/move" do
          with_bundle do |bundle|
            Deeds::KeepBundle.move(bundle, whole("store"), on: today, by: actor) && "#{bundle.code} is moved."
          end
        end

        # Shoots that were cut up, or sticks that are none.
        post "/bundles/:id/shoots" do
          with_bundle do |bundle|
            what = params["shoots"].to_s
            raise Deeds::Refused, shoots: ["are shoots or sticks"] unless %w[shoots sticks].include?(what)

            Deeds::KeepBundle.shoots(bundle, what == "shoots", by: actor)
            "#{bundle.code} holds #{what == 'shoots' ? 'whole shoots' : 'sticks'}."
          end
        end

        # A label that was wrong.
        post "/bundles/:id/variety" do
          with_bundle do |bundle|
            variety = Contracts::Form.named(orchard, :variety, params["variety"])
            grafts = Deeds::KeepBundle.variety(bundle, variety, by: actor)
            "#{bundle.code} is #{variety.name}#{", and so are #{counted(grafts.size, 'graft')} of it" if grafts.any?}."
          end
        end

        post "/bundles/:id/date" do
          with_bundle do |bundle|
            Deeds::KeepBundle.date(bundle, typed_day("cut_on"), by: actor, today: today) &&
            "The day it was cut is kept."
          end
        end

        get "/labels" do
          erb :"wood/labels", locals: { bundles: orchard.wood_store(today).bundles(season: season),
                                        now: "One label a bundle: cut them apart, and tie one inside the bag and " \
                                             "one outside." }
        end

        post "/stores" do
          attempt(->(e) { redirect_with("The store's name #{e.words}.", to("wood")) }) do
            once { to("wood", "/stores/#{Deeds::KeepStore.open(orchard, params['name'].to_s, by: actor).id}") }
          end
        end

        get("/stores/:id") { store_page(orchard.store!(params["id"])) }

        # What it is called, and by what its thermometer is asked.
        post "/stores/:id/called" do
          store = orchard.store!(params["id"])
          reading = read(Contracts::StoreForm, called(store))
          try(reading, ->(wrong) { store_page(orchard.store!(params["id"]), reading: wrong) }) do |v|
            Deeds::KeepStore.correct(store, Contracts::StoreForm.to_row(reading), by: actor, version: v[:version])
            redirect to("wood", "/stores/#{store.id}")
          end
        end

        post "/stores/:id" do
          store = orchard.store!(params["id"])
          attempt(->(e) { store_page(orchard.store!(params["id"]), errors: e.errors) }) do
            file = sent("file").first or raise Deeds::Refused, file: ["choose a file first"]
            told = Deeds::KeepStore.read_file(store, file.read(5 * 1024 * 1024), unit: params["unit"].to_s, by: actor)
            notice "#{counted(told[:read], 'reading')} read, #{told[:new]} of them " \
                   "new" \
                   "#{"; the longest gap is #{told[:longest_gap_hours].round} hours" if told[:longest_gap_hours] > 24}."
            redirect to("wood", "/stores/#{store.id}")
          end
        end
      end
    end
  end
end
