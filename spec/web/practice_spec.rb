# frozen_string_literal: true

require "nokogiri"
require "rack/test"
require "tempfile"
require "vips"

RSpec.describe "The practice bench" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let(:tam) { person("Tam Reed", grafter: here) }

  before { enter tam }

  def text = Nokogiri::HTML(last_response.body).text.squeeze(" \n")
  def tries = Vestry::Records::PracticeTry.where(account_id: tam.id).order(:id).all

  def submit(name, seed: 5, level: 2, **fields)
    get "/o/#{here.slug}/practice/#{name}?seed=#{seed}&level=#{level}"
    post "/o/#{here.slug}/practice/#{name}?seed=#{seed}&level=#{level}",
         fields.transform_keys(&:to_s).merge("authenticity_token" => token)
    follow_redirect! if last_response.redirect?
  end

  def exercise(name, seed: 5, level: 2)
    Vestry::Deeds::Practise::EXERCISES.fetch(name).reckon({ seed: seed, level: level })[:exercise]
  end

  # From the bark below the rim, and not from the nurse.
  def stock
    exercise("which-shoot")[:shoots].select do |shoot|
      shoot[:points].first.then { |x, y| y.negative? && x.abs <= exercise("which-shoot")[:half_mm] }
    end
  end

  it "offers what the season asks for, and leads to an exercise that is new each time" do
    get "/o/#{here.slug}/practice"
    expect(text).to include("5 exercises for today", "Nobody else sees it here.", "no licence to climb")
    seeds = Array.new(2) do
      get "/o/#{here.slug}/practice/shoot"
      expect(last_response.status).to eq 302
      last_response["location"][/level=1&seed=(\d+)/, 1]
    end
    expect(seeds.uniq.size).to eq 2
  end

  it "is offered on the front page in the quiet months, and in no others" do
    tree(here)
    offered = lambda do |day|
      allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
      get "/o/#{here.slug}/today"
      text.include?("practice bench")
    end
    expect(offered[Date.new(2026, 1, 15)]).to be true
    limb(Vestry::Records::Tree.first, "A")
    expect(offered[Date.new(2026, 12, 2)]).to be true
    expect(Vestry::Core::Practice::Next.quiet?(Date.new(2026, 7, 1), southern: true)).to be true
    expect(Vestry::Core::Practice::Next.quiet?(Date.new(2026, 7, 1))).to be false
  end

  it "judges an answer, keeps it as theirs, and counts a second try at the same for nothing" do
    wrong = stock.drop(1).map { |shoot| shoot[:id] } - [stock[1]&.fetch(:id)]
    submit("which-shoot", cut: wrong)
    expect(text).to include("grows from the stock below the cut, and was left")
    submit("which-shoot", cut: stock.map { |shoot| shoot[:id] })
    expect(text).to include("All that grew from the stock is gone, and nothing else.", "1.00", "try 2 at this one")
    expect(tries.map { |try| [try.nth, try.level, try.seed, try.passed] })
      .to match [[1, 2, 5, anything], [2, 2, 5, true]]
    expect(tries.first.passed).to eq(tries.first.score >= 0.8)
    # By the first alone it comes again tomorrow.
    get "/o/#{here.slug}/practice"
    expect(text).not_to match(/For today.*Which shoot goes.*All exercises/m)
  end

  it "is one try however often its form is sent, shown again as it was, and nobody else's" do
    get "/o/#{here.slug}/practice/which-shoot?seed=5&level=2"
    fields = { "cut" => stock.map { |shoot| shoot[:id].to_s }, "authenticity_token" => token,
               "client_key" => SecureRandom.uuid }
    2.times { post "/o/#{here.slug}/practice/which-shoot?seed=5&level=2", fields }
    expect(tries.size).to eq 1
    post "/o/#{here.slug}/practice/which-shoot?seed=5&level=2", fields, "HTTP_ACCEPT" => "application/json"
    expect(JSON.parse(last_response.body)).to eq("key" => fields["client_key"],
                                                 "location" => "/o/#{here.slug}/practice/tries/#{tries.first.id}")
    get "/o/#{here.slug}/practice/tries/#{tries.first.id}"
    expect(text).to include("All that grew from the stock is gone", "level 2")
    clear_cookies
    enter person("Orla Finch", steward: here)
    get "/o/#{here.slug}/practice/tries/#{tries.first.id}"
    expect(last_response.status).to eq 404
  end

  it "fails whoever cuts a scion, and says what it was" do
    graft = exercise("which-shoot")[:shoots].find { |shoot| shoot[:points].first[1] > 20 }
    submit("which-shoot", cut: [graft[:id]])
    expect(text).to include("It was the graft.", "0.00")
    expect(tries.last).to have_attributes(score: 0.0, passed: false)
  end

  it "takes the other two by words alone" do
    wood = exercise("to-wood")
    deep = wood[:bark_mm].last + 0.2
    faces = (1..wood[:flaps]).to_h do |n|
      [["depth_#{n}", "#{deep.round(2)}"], ["at_#{n}", ((n - 1) * 360 / wood[:flaps]).to_s]].then { |pairs| [n, pairs] }
    end
    submit("to-wood", **faces.values.flatten(1).to_h.transform_keys(&:to_sym))
    expect(tries.last.exercise).to eq "to-wood"
    expect(text).not_to include("lies on bark")
    shoot = exercise("shoot")
    submit("shoot", from: "0", to: shoot[:length_mm].to_s, cuts: "200 400", bud: %w[1 2])
    expect(text).to include("that wood is older than a year", "into the green tip")
    expect(tries.last.answer.to_h).to include("cuts" => [200.0, 400.0], "buds" => [1, 2])
  end

  it "names what is no answer, keeps what was typed, and writes nothing" do
    wood = exercise("to-wood")
    typed = (1..wood[:flaps]).flat_map { |n| [["depth_#{n}", "deep"], ["at_#{n}", "90"]] }.to_h
    submit("to-wood", **typed.transform_keys(&:to_sym))
    expect(last_response.status).to eq 422
    expect(text).to include("“deep” is not a length; write it as 8, 9.5 or 1.2 cm")
    html = Nokogiri::HTML(last_response.body)
    expect(html.at_css("#depth_1-wrong")).to be_truthy
    expect(html.css("input[name^=depth_], input[name^=at_]").to_h { |each| each.to_h.values_at("name", "value") })
      .to eq typed
    submit("to-wood", depth_1: "1", at_1: "0")
    expect([last_response.status, text]).to match [422, include("one for each flap")]
    submit("shoot", from: "300", to: "200", cuts: "")
    expect([last_response.status, text]).to match [422, include("beyond where it begins, at 300")]
    submit("which-shoot", cut: ["77"])
    expect([last_response.status, text]).to match [422, include("shoots that are drawn")]
    submit("shoot", from: "", to: "<b>", cuts: "x")
    expect(last_response.status).to eq 422
    expect(last_response.body).not_to include("<b>”")
    expect(tries).to eq []
    get "/o/#{here.slug}/practice/juggling"
    expect(last_response.status).to eq 404
    get "/o/#{here.slug}/practice/shoot?seed=-4&level=99"
    expect(last_response.status).to eq 200
  end

  it "practises a limb's own cut, with the numbers of that limb" do
    stock = limb(tree(here), "A", girth_mm: 220)
    { "rind" => "seat", "cleft" => "line-up" }.each do |technique, name|
      Vestry::Deeds::DecideLimb.call(stock, { role: "work", technique: technique, cut: 700.0,
                                              variety: variety(here, technique).id, against_reason: "to try it" },
                                     by: "Orla", season: 2026)
      get "/o/#{here.slug}/graft/limbs/#{stock.id}/cuts"
      expect(last_response.body).to include("/practice/#{name}?limb=#{stock.id}")
      get "/o/#{here.slug}/practice/#{name}?limb=#{stock.id}"
      expect(last_response["location"]).to include("limb=#{stock.id}")
      follow_redirect!
      expect(text).to include("with #{stock.label}'s numbers")
    end
    get "/o/#{here.slug}/practice/shoot?limb=#{stock.id}&seed=1&level=1"
    expect(text).not_to include("numbers")
    get "/o/#{here.slug}/practice/seat?limb=999999&seed=1"
    expect(last_response.status).to eq 404
  end

  it "keeps the cuts that were made on prunings, and says when the hand is ready" do
    cut = lambda do |length, **more|
      get "/o/#{here.slug}/practice/cuts"
      post "/o/#{here.slug}/practice/cuts", { "kind" => "face", "length" => length, "authenticity_token" => token }
        .merge(more.transform_keys(&:to_s))
    end
    cut["80 mm"]
    cut["6 cm", rocks: "yes"]
    get "/o/#{here.slug}/practice/cuts"
    expect(text).to include("0 of the last 2 are as they should be; 18 of 20 are wanted.")
    18.times { cut["60"] }
    get "/o/#{here.slug}/practice/cuts?kind=face"
    expect(text).to include("Ready: 18 of the last 20")
    get "/o/#{here.slug}/practice/cuts?kind=wedge"
    expect(text).to include("Twenty cuts of one kind")
    cut["a hand"]
    expect([last_response.status, text]).to match [422, include("is a length, such as 62 mm")]
    cut["900"]
    expect([last_response.status, text]).to match [422, include("is a length between 1 and 500 mm")]
    cut["60", kind: "juggling"]
    expect(last_response.status).to eq 422
    expect(Vestry::Records::PracticeCut.where(account_id: tam.id).count).to eq 20
  end

  it "tells a new hand what to expect, and the spare limb to begin on" do
    stock = tree(here)
    plan = lambda do |tag, role, girth|
      limb(stock, tag, girth_mm: girth, bearing_deg: tag.ord * 80 % 360, fork_mm: 900).tap do |each|
        Vestry::Deeds::DecideLimb.call(each, { role: role, technique: "rind", cut: 600.0, practice: "single",
                                               variety: (@kind ||= variety(here, "Amber")).id, season: 2026 },
                                       by: "Orla", season: 2026)
      end
    end
    plan["A", "work", 200]
    spare = plan["B", "backup", 260]
    get "/o/#{here.slug}/practice"
    book = Vestry::Core::Rulebook.shipped
    first = Vestry::Core::Plan::Methods.expected_take("apple", "rind", book)
    expect(text).to include("No graft of yours is counted here yet.", "Begin on #{spare.label}, which is spare")
    expect(text).to match(/in\s+#{(first * 0.7 * 100).round} %\s+of cases/)
    6.times do |n|
      made = graft(limb(stock, "K#{n}"), grafter: "Tam Reed", grafted_on: Date.new(2025, 4, 20))
      Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2025, alive: true,
                                    tallied_on: Date.new(2025, 10, 20))
    end
    get "/o/#{here.slug}/practice"
    expect(text).to include("Of 6 grafts of yours that are counted here, 6 took.")
    # With the book as eight: (8 x 0.7 x first + 6) / 14.
    expect(text).to match(/in\s+#{((8 * 0.7 * first + 6) / 14 * 100).round} %\s+of cases/)
  end

  it "has a sentence for everything that can be right or wrong with an answer" do
    place = here
    voice = Class.new do
      include Vestry::Web::Helpers::Words
      include Vestry::Web::Sentences
      define_method(:orchard) { place }
    end.new
    answers = {
      "to-wood" => lambda do |x|
        [0.2, 1.3, 5].map { |mm| { faces: Array.new(x[:flaps]) { |i| { at_deg: i * 95 % 360, depth_mm: mm } } } }
      end,
      "which-shoot" => lambda do |x|
        [[], x[:shoots].map { |shoot| { shoot: shoot[:id], up_mm: 40.0 } }].map { |cuts| { cuts: cuts } }
      end,
      "shoot" => lambda do |x|
        [[0, x[:length_mm]], [x[:ring_at_mm], 300], [x[:thick_to_mm], x[:green_from_mm]]].map do |from, to|
          { from_mm: from, to_mm: to, buds: x[:nodes].map { |node| node[:id] }, cuts: [] }
        end
      end,
      "right-way" => ->(x) { [{ turned: [1] }, { turned: x[:sticks].map { |stick| stick[:id] }, seconds: 900 }] },
      "line-up" => ->(_) { [{ in_mm: 0.0 }, { in_mm: 9.0 }, { in_mm: 2.5, tilt_deg: 4.0 }] },
      "seat" => ->(x) { [1, -1, -20, -4].map { |mm| { in_mm: x[:face_mm] + mm } } },
      "seal" => ->(x) { [[], x[:places].map { |spot| spot[:id] }].map { |all| { sealed: all } } },
      "order" => ->(x) { [{ order: x[:steps].map { |step| step[:id] } }] },
      "which-face" => ->(x) { [20, 90].map { |by| { bearings_deg: Array.new(x[:sticks]) { |i| i * by } } } },
      "bridge" => lambda do |x|
        [100, 900].map do |mm|
          { scions: Array.new(x[:count]) { |i| { bearing_deg: i * 9, length_mm: mm } }, turned: [1],
            trim_mm: mm / 15.0 }
        end
      end,
      "face" => lambda do |x|
        bud = x[:buds].first
        [[0, 9], [-2, 0], [bud[:at_mm] - 25, 4]].product(%w[up down]).map do |(base, deep), side|
          { base_mm: [base, 0].max, side: side,
            points: (0..9).map { |n| { at_mm: n * 7.0, depth_mm: deep * (n.even? ? 1 : 0.2) } } }
        end + [{ base_mm: 0, side: "up", points: [{ at_mm: 0, depth_mm: 1 }, { at_mm: 9, depth_mm: 0 }] }]
      end,
      "hands" => ->(_) { [[100, 0], [-100, 0], [0, 240], [0, -120]].map { |x, y| { x_mm: x, y_mm: y } } },
      "where-to-cut" => lambda do |x|
        (0..12).map { |n| { at_mm: x[:length_mm] * n / 12.0, first: n.even? ? "under" : "top", torn: "trim" } } +
          [{ at_mm: 0.0, first: "under", torn: "again" }]
      end,
      "ten-years" => lambda do |x|
        plan = ->(**more) { x[:limbs].map { |limb| { id: limb[:id], spring: 1, sticks: 1, braced: false, **more } } }
        turned = plan.call.each_with_index.map { |limb, i| { **limb, spring: 1 + i % 3 } }
        [[plan.call, 5], [turned, 1], [turned, 10], [plan.call(braced: true), 5],
         [plan.call.zip(x[:limbs]).map { |limb, drawn| { **limb, sticks: drawn[:most] } }, 5]]
          .map { |limbs, off| { limbs: limbs, nurse_off: off } }
      end,
      "read-graft" => ->(_) { %w[leave open slit rewrap regraft].map { |choice| { choice: choice } } }
    }
    expect(answers.keys).to match_array Vestry::Deeds::Practise::EXERCISES.keys
    said = answers.flat_map do |name, tried|
      # A plan is run through many years, which takes its time.
      tries = name == "ten-years" ? [[1, 0], [5, 0]] : (1..5).to_a.product((0..6).to_a)
      tries.flat_map do |level, seed|
        exercise = Vestry::Deeds::Practise::EXERCISES.fetch(name)
        shown = exercise.reckon({ seed: seed, level: level })[:exercise]
        wrong = tried[shown].map { |answer| exercise.reckon({ seed: seed, level: level, answer: answer }) }
        best = wrong.first[:best].except(:barks_mm, :of)
        [*wrong, exercise.reckon({ seed: seed, level: level, answer: best })].flat_map { |told| told[:feedback] }
      end
    end
    words = said.uniq { |reason| reason[:code] }.to_h { |reason| [reason[:code], voice.say(reason)] }
    expect(words.values).to all(match(/\A[A-Z0-9].*[.]\z/))
    expect(words.size).to be > 25
    here.update(units: "imperial")
    expect(said.map { |reason| voice.in_own_units(voice.say(reason)) }.grep(/\bmm\b/)).to eq []
  end

  it "shows no millimetres on any exercise, of any level, where the orchard has inches" do
    here.update(units: "imperial")
    metric = Vestry::Deeds::Practise::EXERCISES.keys.product([1, 3, 5]).flat_map do |name, level|
      get "/o/#{here.slug}/practice/#{name}?seed=5&level=#{level}"
      Nokogiri::HTML(last_response.body).at_css("main").text.scan(/.{0,30}\bmm\b.{0,10}/).map { |found| [name, found] }
    end
    expect(metric).to eq []
    get "/o/#{here.slug}/practice/bridge?seed=5&level=2"
    fields = Nokogiri::HTML(last_response.body).css("#practice-form label").map { |each| each.text.strip }
    expect(fields).to include("long, inches", "Both margins trimmed by, inches")
  end

  it "draws and says its exercises in inches where the orchard has them" do
    here.update(units: "imperial")
    drawn = %w[face to-wood line-up hands shoot bridge seat where-to-cut].to_h do |name|
      get "/o/#{here.slug}/practice/#{name}?seed=5&level=1"
      drawing = Nokogiri::HTML(last_response.body).at_css("main svg.drawing")
      [name, [drawing.to_s[/\d mm\b/], drawing.to_s[/\d in\b/]].map { |found| !found.nil? }]
    end
    expect(drawn.values).to all(eq([false, true]))
  end

  it "takes lengths in inches where its form was in inches, as fractions too, and shows them again as they were" do
    here.update(units: "imperial")
    shoot = exercise("shoot")
    submit("shoot", from: "1/2", to: "15 3/4", cuts: "3.937 7.874", bud: %w[1 2], unit: "in")
    expect(tries.last.answer.to_h).to include("from_mm" => 12.7, "to_mm" => 400.05)
    expect(tries.last.answer["cuts"]).to match [be_within(0.01).of(100), be_within(0.01).of(200)]
    submit("shoot", from: "soon", to: "15 3/4", cuts: "3.937", unit: "in")
    expect([last_response.status, text]).to match [422, include("write it as 3/8, 5/16")]
    html = Nokogiri::HTML(last_response.body)
    expect(%w[to unit].map { |name| html.at_css("input[name=#{name}]")["value"] }).to eq ["15 3/4", "in"]
    get "/o/#{here.slug}/practice/shoot?seed=5&level=2"
    expect(Nokogiri::HTML(last_response.body).at_css("input[name=to]")["value"].to_f)
      .to be_within(0.006).of(shoot[:length_mm] / 25.4)
      end

  it "draws no bark between faces that run into each other, and widths in the orchard's unit" do
    asked = { seed: 5, level: 3 }
    wood = Vestry::Deeds::Practise::EXERCISES.fetch("to-wood")
    shown = wood.reckon(asked)[:exercise]
    faces = Array.new(shown[:flaps]) { |i| { at_deg: i * 40.0, depth_mm: shown[:scion_mm] * 0.3 } }
    result = wood.reckon({ **asked, answer: { faces: faces } })
    said = %w[metric imperial].map do |units|
      Vestry::Drawings::PracticeToWood.new(shown, faces: faces, result: result, units: units).strips
                                      .map { |strip| strip[:said] }
    end
    expect([said[0].first, said[1].first]).to eq [0.0, "0.00"]
    expect(said[1].last.to_f).to be_within(0.01).of(said[0].last / 25.4)
  end

  it "says how far apart sticks are set where there are several, and of one nothing" do
    bench = Object.new.extend(Vestry::Web::Helpers::Words, Vestry::Web::Helpers::PracticeBench)
    told = [1, 3].map do |sticks|
      bench.send(:task_of_which_face, { sticks: sticks, width_mm: 9.0, apart_deg: 60, wind_from_deg: nil })
    end
    expect(told).to eq ["Pull 1 stick with faces 9 mm wide round the rim to where they lie flattest.",
                        "Pull 3 sticks with faces 9 mm wide round the rim to where they lie flattest, at least 60° " \
                        "apart."]
  end

  it "takes a cut that goes right through, and none that is nothing, or of a stick that is none" do
    sent = { %w[100 100] => 302, %w[0.1 0.1] => 302, %w[0 9] => 422, %w[9.1 9] => 422, %w[9 100.1] => 422,
             %w[9 101] => 422 }
    expect(sent.to_h { |typed, _| [typed, send_to("/o/#{here.slug}/practice/cuts", kind: "face", length: "60",
      depth: typed.first, across: typed.last)] }).to eq sent
    expect(last_response.body).to include("is less than the stick is thick, and a stick is up to 100 mm")
  end

  it "keeps how deep a cut went and its picture, which nobody else opens and no purge takes" do
    picture = Tempfile.new(["cut", ".jpg"])
    Vips::Image.gaussnoise(900, 600, mean: 120, sigma: 30).cast("uchar").write_to_file(picture.path)
    cut = lambda do |**more|
      get "/o/#{here.slug}/practice/cuts"
      post "/o/#{here.slug}/practice/cuts", { "kind" => "face", "length" => "60", "authenticity_token" => token }
        .merge(more.transform_keys(&:to_s))
    end
    cut[depth: "4.5", across: "9", photo: Rack::Test::UploadedFile.new(picture.path, "image/jpeg")]
    cut[depth: "6", across: "9"]
    follow_redirect!
    expect(text).to include("1 of the last 2 are as they should be")
    kept = Vestry::Records::PracticeCut.where(account_id: tam.id).order(:id).first
    expect(last_response.body).to include("/practice/cuts/#{kept.id}/small")
    get "/o/#{here.slug}/practice/cuts/#{kept.id}/large"
    expect([last_response.status, last_response.media_type]).to eq [200, "image/jpeg"]
    allow(Vestry::Outside::PhotoStore).to receive(:kept)
      .and_return(kept.image.values.to_h { |each| [each["id"], Time.at(0)] })
    Vestry::Deeds::Purge.photos
    get "/o/#{here.slug}/practice/cuts/#{kept.id}/small"
    expect(last_response.status).to eq 200
    { { depth: "5" } => "how thick the stick is", { depth: "9", across: "5" } => "less than the stick is thick",
      { photo: Rack::Test::UploadedFile.new(StringIO.new("no picture"), "image/jpeg", original_filename: "a.jpg") } =>
        "The file" }.each do |fields, words|
      cut[**fields]
      expect([last_response.status, text]).to match [422, include(words)]
    end
    clear_cookies
    enter person("Orla Finch", steward: here)
    get "/o/#{here.slug}/practice/cuts/#{kept.id}/large"
    expect(last_response.status).to eq 404
  end

  it "gives a new hand a spare limb of its own, whose chances the plan and the reserve go by" do
    kind = variety(here)
    one = limb(tree(here), "A", fork_mm: 900)
    two = limb(tree(here), "A", fork_mm: 900, girth_mm: 200)
    plan = ->(limb, role) { Vestry::Deeds::DecideLimb.call(limb, { role: role, cut: 700.0, technique: "rind",
                                                                   variety: kind.id, practice: "single" },
                                                           by: "Orla", season: 2026) }
    rows = [plan[one, "work"], plan[two, "backup"]]
    get "/o/#{here.slug}/practice"
    expect(text).to include("Begin on A2 A, which is spare, from the ground.")
    reserve = -> { Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[here.id], 2026, World::TODAY).lines }
    before = reserve.call.first
    post "/o/#{here.slug}/graft/limbs/#{two.id}/hand", mine: "yes", authenticity_token: token
    follow_redirect!
    # Seven tenths of what a stick of the rulebook's takes, and of the orchard's where nothing is counted yet.
    book = before.success.first
    expect(text).to include("A2 A is yours to graft.", "Tam Reed grafts it, and is new at it",
                            "#{(book * 70).round} % are expected to take")
    after = reserve.call.first
    expect(after.success.map { |each| each.round(9) }).to eq [(book * 0.7).round(9), book.round(9)]
    expect(after.reserve).to be >= before.reserve
    advice = Vestry::Records::StubAdvice.new(two, planned: two.planned, today: World::TODAY)
    expect(advice.stub_take).to be_within(1e-9).of(book * 0.7)
    expect(rows.map { |row| row.refresh.hand }).to eq [nil, "Tam Reed"]
    # Nobody else takes it, and it is given back.
    other = -> { Vestry::Deeds::TakeOnLimb.call(two, by: "Gus", mine: true) }
    expect(&other).to raise_error(Vestry::Deeds::Refused, /Tam Reed took A2 A on/)
    post "/o/#{here.slug}/graft/limbs/#{two.id}/hand", mine: "no", authenticity_token: token
    expect(rows.last.refresh.hand).to be_nil
  end

  it "lets one of two have a limb that both take on at once" do
    kind = variety(here)
    one = limb(tree(here))
    Vestry::Deeds::DecideLimb.call(one, { role: "work", cut: 700.0, technique: "rind", variety: kind.id,
                                          practice: "single" }, by: "Orla", season: 2026)
    went = %w[Tam Gus Ines Rob].map do |name|
      Thread.new do
        Vestry::Deeds::TakeOnLimb.call(Vestry::Records::Limb[one.id], by: name, mine: true).hand
      rescue Vestry::Deeds::Refused
        nil
      end
    end.map(&:value)
    expect(went.compact).to eq [one.planned.hand]
  end

  it "is seen by nobody else until it is let, and then by stewards alone" do
    submit("which-shoot", cut: stock.map { |shoot| shoot[:id] })
    other = person("Ines Vale", viewer: here)
    orla = person("Orla Finch", steward: here)
    see = lambda do |account|
      clear_cookies
      enter account
      get "/o/#{here.slug}/practice"
      text.include?("Tam Reed")
    end
    expect([see[orla], see[other]]).to eq [false, false]
    clear_cookies
    enter tam
    get "/o/#{here.slug}/practice"
    post "/o/#{here.slug}/practice/shown", "shown" => "yes", "authenticity_token" => token
    expect([see[orla], see[other]]).to eq [true, false]
    # A viewer practises too.
    submit("which-shoot")
    expect(Vestry::Records::PracticeTry.where(account_id: other.id).count).to eq 1
  end

  it "keeps one first try of two that come at once" do
    answer = { cuts: stock.map { |shoot| { shoot: shoot[:id], up_mm: 0.0 } } }
    account = Vestry::Records::Account[tam.id]
    threads = Array.new(4) do
      Thread.new do
        Vestry::Deeds::Practise.call(Vestry::Records::Account[account.id], "which-shoot", seed: 5, level: 2,
                                     answer: answer, today: World::TODAY, rulebook: here.rulebook)
      end
    end
    threads.each(&:join)
    expect(tries.map(&:nth).sort).to eq [1, 2, 3, 4]
  end
end
