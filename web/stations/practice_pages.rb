# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # The practice bench: exercises to learn seeing by, and a person's own record of them.
      class PracticePages < Base
        SEEDS = 2**31

        helpers Helpers::PracticeBench

        helpers do
          def tries = @tries ||= Records::PracticeTry.of(account)

          # What tells what a person sees unaided.
          def counted_tries = tries.select(&:first?).map(&:plain)

          def stands(exercise)
            Core::Practice::Next.stands(counted_tries.select { |try| try[:exercise] == exercise },
                                        rulebook: orchard.rulebook)
          end

          def exercise!(name) = Deeds::Practise::EXERCISES.fetch(name) { raise Records::Missing, "no such exercise" }

          def asked
            { seed: Integer(params["seed"].to_s[0, 10], 10, exception: false).to_i.clamp(0, SEEDS - 1),
              level: Integer(params["level"].to_s[0, 2], 10, exception: false).to_i.clamp(1, 5) }
          end

          # The numbers of a limb that it is practised with, where its cut is this one.
          def own(name)
            limb = params["limb"] && orchard.limb!(params["limb"]) or return nil
            exercise, numbers = Records::PracticeNumbers.of(limb, today)
            exercise == name ? numbers : nil
          end

          # An exercise to be done.
          def bench(name, answer: nil, errors: {})
            own = own(name)
            question = { **asked, **(own ? { own: own } : {}) }
            shown = exercise!(name).reckon(question, rulebook: orchard.rulebook)[:exercise]
            show(name, shown, asked[:level], answer: answer, errors: errors, limb: own && orchard.limb!(params["limb"]))
          end

          # One that was done, as it was, with what it came to.
          def judged(try)
            question = try.question
            result, shown = [question, question.except(:answer)].map do |asked|
              exercise!(try.exercise).reckon(asked, rulebook: orchard.rulebook)
            end
            show(try.exercise, shown[:exercise], try.level, result: result, try: try, answer: question[:answer])
          end

          def show(name, shown, level, result: nil, try: nil, answer: nil, errors: {}, limb: nil)
            before = tries.select { |each| each.exercise == name && (try.nil? || each.id < try.id) }
            erb :"practice/exercise", locals: { name: name, exercise: shown, level: level, result: result, try: try,
                                                answer: answer, errors: errors, limb: limb, last: before.last,
                                                now: say_practice(name, result) }
          end

          def cut_log(errors: {})
            kind = chosen("kind", Core::Practice::CutLog::KINDS, "face")
            log = Core::Practice::CutLog.of(kind, Records::PracticeCut.of(account, kind).map(&:plain),
                                            rulebook: orchard.rulebook)
            erb :"practice/cuts", locals: { kind: kind, log: log, errors: errors, now: say_cut_log(log) }
          end

          # Lengths are typed as everywhere here; nil where nothing was.
          def typed_mm(name)
            text = params[name].to_s[0, 40]
            Core::Measure.parse(text, units: typed_units).mm unless text.strip.empty?
          rescue Core::BadInput
            raise Deeds::Refused, name.to_sym => ["is a length, such as 62 mm"]
          end

          def typed_cut
            { length_mm: typed_mm("length"), depth_mm: typed_mm("depth"), across_mm: typed_mm("across"),
              rocks: params["rocks"] == "yes", daylight: params["daylight"] == "yes" }
          end

          # By which a form that is sent again is known.
          def key_of_form
            key = params["client_key"]
            key.is_a?(String) && key.match?(/\A\h{8}(-\h{4}){3}-\h{12}\z/) ? key : nil
          end

          def hand = @hand ||= Records::OwnHand.new(orchard, actor, today)

          # An address at which an exercise is new.
          def fresh(name, level, seed: new_seed, **more)
            to("practice", "/#{name}?#{Rack::Utils.build_query(level: level, seed: seed, **more)}")
          end

          def new_seed = Random.rand(SEEDS)
        end

        get "/" do
          offered = Core::Practice::Next.today(counted_tries, today, southern: orchard.southern?,
                                                                     rulebook: orchard.rulebook)
          shown = may?("steward") ? Records::PracticeTry.shown_in(orchard, except: account) : {}
          erb :"practice/index", locals: { offered: offered, shown: shown, now: say_offered(offered) }
        end

        get("/cuts") { cut_log }

        post "/cuts" do
          attempt(->(e) { cut_log(errors: e.errors) }) do
            photo = params["photo"].is_a?(Hash) ? params["photo"][:tempfile] : nil
            once do
              Deeds::Practise.log_cut(account, params["kind"].to_s, typed_cut, photo: photo, today: today)
              to("practice", "/cuts?kind=#{params['kind']}")
            end
          end
        end

        get "/cuts/:id/:size" do
          picture = Records::PracticeCut.own!(account, params["id"]).picture!(params["size"])
          headers "cache-control" => "private, no-cache"
          etag picture["id"].to_s
          content_type "image/jpeg"
          Outside::PhotoStore.read(picture)
        end

        post "/shown" do
          Deeds::Practise.show(account, orchard, params["shown"] == "yes")
          redirect to("practice")
        end

        get("/tries/:id") { judged(Records::PracticeTry.own!(account, params["id"])) }

        get "/:name" do
          exercise!(params["name"])
          if params["seed"].to_s.empty?
            more = params["limb"] ? { limb: orchard.limb!(params["limb"]).id } : {}
            redirect fresh(params["name"], params["level"] || stands(params["name"])[:level], **more)
          end
          bench(params["name"])
        end

        post "/:name" do
          name, answer = params["name"], nil
          exercise!(name)
          attempt(->(e) { bench(name, answer: answer, errors: Contracts::PracticeAnswer.errors(e.errors, params)) }) do
            answer = Contracts::PracticeAnswer.read(name, params)
            try = Deeds::Practise.call(account, name, **asked, answer: answer, own: own(name), today: today,
                                                      rulebook: orchard.rulebook, client_key: key_of_form)
            redirect to("practice", "/tries/#{try.id}")
          end
        end
      end
    end
  end
end
