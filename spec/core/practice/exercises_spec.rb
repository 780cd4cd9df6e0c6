# frozen_string_literal: true

RSpec.describe "The exercises", :core do
  exercises = %w[to-wood which-shoot shoot right-way line-up seat seal order which-face hands where-to-cut face bridge
                 ten-years]
  levels = (1..5)

  def shown(name, seed, level) = reckon("practice-#{name}", seed: seed, level: level)[:exercise]
  def told(name, seed, level, answer) = reckon("practice-#{name}", seed: seed, level: level, answer: answer)

  # What a careful person does, by what is drawn alone.
  def careful(name, exercise)
    case name
    when "to-wood" then to_wood(exercise)
    when "which-shoot" then { cuts: below_the_rim(exercise).map { |shoot| { shoot: shoot[:id] } } }
    when "shoot" then shoot_wood(exercise)
    when "right-way" then { turned: upside_down(exercise), seconds: exercise[:seconds] - 1 }
    when "line-up"
      { in_mm: [exercise[:stock_bark_mm].sum / 2 - exercise[:stick_bark_mm].sum / 2].first.round(1), tilt_deg: 0.0 }
    when "seat" then { in_mm: exercise[:face_mm] - exercise[:showing_mm].last + 0.4 }
    when "order" then { order: in_the_book(exercise), **clock(exercise) }
    when "hands" then behind_the_blade(exercise)
    when "face" then long_face(exercise)
    when "bridge" then bridging(exercise)
    when "where-to-cut"
      { at_mm: middle_of_room(exercise), first: "under", torn: exercise[:tear_mm] > 15 ? "again" : "trim" }
    when "which-face" then { bearings_deg: flattest(exercise) }
    when "ten-years" then planned(exercise)
    when "seal"
      bare = %w[tip slit rim shoulder split]
      { sealed: exercise[:places].select { |place| bare.include?(place[:is]) }.map { |place| place[:id] } }
    end
  end

  # The thickest limbs into the first spring that bears them, sticks in turn while there are any, ties to the wind.
  def planned(exercise)
    limbs = exercise[:limbs].sort_by { |limb| -limb[:share] }
    gone = Hash.new(0.0)
    plan = limbs.to_h do |limb|
      spring = (1..3).find { |each| gone[each] + limb[:share] <= exercise[:cap] }
      gone[spring] += limb[:share]
      [limb[:id], { id: limb[:id], spring: spring, sticks: 1, braced: false }]
    end
    hand_out(exercise, limbs, plan)
    limbs.sort_by { |limb| limb[:windy] ? 0 : 1 }.first(exercise[:braces])
      .each { |limb| plan[limb[:id]][:braced] = true }
    { limbs: plan.values, nurse_off: carried(exercise, plan) }
  end

  def hand_out(exercise, limbs, plan)
    3.times do
      limbs.each do |limb|
        mine = plan[limb[:id]]
        enough = (mine[:spring]..3).all? do |spring|
          used = plan.values.sum { |each| each[:spring] <= spring ? each[:sticks] : 0 }
          used < exercise[:sticks] + (spring - 1) * exercise[:sticks_a_winter]
        end
        mine[:sticks] += 1 if enough && mine[:sticks] < limb[:most]
      end
    end
  end

  # A year after what is expected to live carries half of the head, as shoots of 9 mm that thicken by 12 a year.
  def carried(exercise, plan)
    (3..9).find do |year|
      exercise[:limbs].sum do |limb|
        mine = plan[limb[:id]]
        lives = 1 - (1 - exercise[:take])**mine[:sticks]
        limb[:share] * lives * [1.0, ((9 + 12.0 * (year - mine[:spring])) / limb[:stub_mm])**2].min
      end >= 0.45
    end + 1
  end

  # The stick's own face dries from its cut on, and is shut when it is bound.
  def clock(exercise)
    says = { starts: /Cut the long face|Shave the stick|slow wedge|sloping cut/, stops: /\ABind from below/ }
    exercise[:asks_clock].to_h do |which|
      [which, exercise[:steps].find { |step| says.fetch(which).match?(step[:does]) }[:id]]
    end
  end

  # Evenly round, each by its own gap once what is dead is off, those turned whose buds hang.
  def bridging(exercise)
    scions = Array.new(exercise[:count]) do |i|
      at = i * 360.0 / exercise[:count]
      from, past = at.divmod(45)
      one, other = exercise[:wound].values_at(from, (from + 1) % 8)
      gap = [one, other].zip([45 - past, past]).sum { |each, share| (each[:high_mm] - each[:low_mm]) * share / 45 }
      { bearing_deg: at, length_mm: (gap + 2 * exercise[:dead_mm]) * (1 + 8.0 / 3 * 0.12**2) + 90 }
    end
    { scions: scions, trim_mm: exercise[:dead_mm],
      turned: (1..exercise[:count]).select { |n| exercise[:scions][n - 1][:lean].negative? } }
  end

  # Under the lowest bud, on its other side, straight from half of the stick to nothing, against where the hand strays.
  def long_face(exercise)
    bud = exercise[:buds].first
    base = bud[:at_mm] - exercise[:above_mm].sum / 2.0
    points = (0..20).map do |n|
      share = n / 20.0
      { at_mm: base + n * 3,
        depth_mm: exercise[:scion_mm] / 2 * (1 - share) - exercise[:strays_mm] * 4 * share * (1 - share) }
    end
    { base_mm: base, side: (%w[up down] - [bud[:side]]).first, points: points }
  end

  # On the stick, on the side that the blade goes away from.
  def behind_the_blade(exercise)
    stick, blade = exercise.values_at(:stick_deg, :blade_deg).map { |degrees| degrees * Math::PI / 180 }
    far = Math.cos(stick - blade).positive? ? -115 : 115
    { x_mm: far * Math.cos(stick), y_mm: far * Math.sin(stick) }
  end

  # As the slide rule would show it: the best place of the reckoning that the planning of a limb stands on.
  def middle_of_room(exercise)
    asked = exercise.slice(:method, :length_mm, :base_diameter_mm, :fork_height_mm, :rise_deg, :lowest_mm, :highest_mm,
                           :branches, :unsound)
    reckon("cut-point", asked)[:at_mm]
  end

  # As the steps of the method stand in the rulebook.
  def in_the_book(exercise)
    book = Vestry::Core::Rulebook.shipped.book("steps")
    kind = Vestry::Core::Rulebook.shipped.book("methods").fetch(exercise[:method]).fetch("cuts")
    all = [*book["ready"], *book["kinds"].fetch(kind), *book["binding"]].map { |step| step["does"] }
    patterns = all.map { |does| /\A#{Regexp.escape(does).gsub(/\\\{[\w.\\]+?\\\}/, ".*")}\z/ }
    exercise[:steps].sort_by { |step| patterns.index { |pattern| pattern.match?(step[:does]) } }
      .map { |step| step[:id] }
  end

  # Each in turn where the rim rises least under the face, clear of those that are set.
  def flattest(exercise)
    rise = lambda do |at|
      half = exercise[:width_mm] / 2
      ahead = (-60..60).filter_map do |turn|
        from, past = ((at + turn) % 360).divmod(10)
        radius = exercise[:radii_mm][from] * (10 - past) / 10 + exercise[:radii_mm][(from + 1) % 36] * past / 10
        way = turn * Math::PI / 180
        radius * Math.cos(way) if (radius * Math.sin(way)).abs <= half
      end
      ahead.max - ahead.min
    end
    places = (0...360).step(5).to_h { |at| [at, rise[at]] }
    wind = exercise[:wind_from_deg]
    sets = places.keys.combination(exercise[:sticks]).select do |few|
      few.combination(2).all? { |one, other| ((one - other + 180) % 360 - 180).abs >= exercise[:apart_deg] } &&
        (wind.nil? || few.any? { |at| ((at - wind + 180) % 360 - 180).abs <= 50 })
    end
    sets.min_by { |few| few.sum { |at| places[at] } }
  end

  # Most of its buds lean down.
  def upside_down(exercise)
    exercise[:sticks].select { |stick| stick[:buds].sum { |bud| bud[:lean_deg] }.negative? }.map { |stick| stick[:id] }
  end

  # Evenly round the stick, as deep as leaves the narrowest strip but for a tenth.
  def to_wood(exercise)
    strip = exercise[:strip_mm].first + 0.1
    half = (Math::PI * exercise[:scion_mm] / exercise[:flaps] - strip) / exercise[:scion_mm]
    depth = exercise[:scion_mm] / 2 * (1 - Math.cos(half))
    { faces: Array.new(exercise[:flaps]) { |i| { at_deg: i * 360.0 / exercise[:flaps], depth_mm: depth } } }
  end

  # From the stub's own bark, and not from the nurse that stands clear of it.
  def below_the_rim(exercise)
    exercise[:shoots].select do |shoot|
      x, y = shoot[:points].first
      y.negative? && x.abs <= exercise[:half_mm]
    end
  end

  def shoot_wood(exercise)
    whole = exercise.values_at(:thick_to_mm, :green_from_mm)
    hurt = exercise[:damage]
    from, to = hurt ? [[whole[0], hurt[0]], [hurt[1], whole[1]]].max_by { |low, high| high - low } : whole
    growing = exercise[:nodes].select do |node|
      node[:at_mm].between?(from, to) && %w[leaf pair triple].include?(node[:is])
    end
    cuts = growing.each_slice(3).to_a[1..].to_a.map do |few|
      (growing[growing.index(few.first) - 1][:at_mm] + few.first[:at_mm]) / 2
    end
    { from_mm: from, to_mm: to, buds: growing.map { |node| node[:id] }, cuts: cuts }
  end

  # What is done without looking.
  def careless(name, exercise)
    case name
    when "to-wood"
      { faces: Array.new(exercise[:flaps]) { |i| { at_deg: i * 60, depth_mm: exercise[:bark_mm].first * 0.9 } } }
    when "which-shoot" then { cuts: exercise[:shoots].map { |shoot| { shoot: shoot[:id] } } }
    when "right-way" then { turned: exercise[:sticks].map { |stick| stick[:id] } }
    when "line-up" then { in_mm: 0.0 }
    when "seat" then { in_mm: exercise[:face_mm] + 2.0 }
    when "order" then { order: exercise[:steps].map { |step| step[:id] } }
    when "bridge"
      { scions: Array.new(exercise[:count]) { |i| { bearing_deg: i * 20, length_mm: 300 } }, turned: [] }
    when "face"
      { base_mm: 0, side: exercise[:buds].first[:side], points: [[0, 1], [10, 6], [30, 0]].map { |at, depth|
        { at_mm: at, depth_mm: depth } } }
    when "hands"
      way = exercise[:blade_deg] * Math::PI / 180
      { x_mm: 100 * Math.cos(way), y_mm: 100 * Math.sin(way) }
    when "where-to-cut" then { at_mm: middle_of_room(exercise), first: "top", torn: "trim" }
    when "which-face" then { bearings_deg: ridges(exercise) }
    when "ten-years"
      { limbs: exercise[:limbs].each_with_index.map { |limb, i| { id: limb[:id], spring: 3 - i % 3, sticks: 1 } },
        nurse_off: 10 }
    when "seal" then { sealed: exercise[:places].map { |place| place[:id] } }
    when "shoot"
      { from_mm: 0, to_mm: exercise[:length_mm], buds: exercise[:nodes].map { |node| node[:id] }, cuts: [] }
    end
  end

  # Where the rim stands out most.
  def ridges(exercise)
    top = exercise[:radii_mm].each_index.max_by { |i| exercise[:radii_mm][i] } * 10
    Array.new(exercise[:sticks]) { |i| (top + i * 20) % 360 }
  end

  exercises.product(levels.to_a).each do |name, level|
    it "#{name} at level #{level} is passed by who looks, and failed by who does not" do
      # A plan is run through many years, and places on a rim are all tried, which takes its time.
      { "ten-years" => 1, "which-face" => 4 }.fetch(name, 12).times do |seed|
        exercise = shown(name, seed, level)
        looked = told(name, seed, level, careful(name, exercise))
        expect([seed, looked[:passed], looked[:feedback]]).to match [seed, true, anything]
        expect([seed, told(name, seed, level, careless(name, exercise))[:passed]]).to eq [seed, false]
      end
    end
  end

  it "are the same for the same seed and level, and others for others" do
    exercises.product(levels.to_a).each do |name, level|
      expect(shown(name, 11, level)).to eq shown(name, 11, level)
      all = (0..24).map { |seed| shown(name, seed, level) }
      expect(all.uniq.size).to be >= 24
      expect(shown(name, 11, level)).not_to eq shown(name, 11, level % 5 + 1)
    end
  end

  it "show nothing of what is hidden, and with the answer all of it" do
    expect(shown("to-wood", 3, 2).keys).to match_array %i[scion_mm flaps stock_wood_mm bark_mm strip_mm]
    expect(shown("which-shoot", 3, 2)[:shoots].flat_map(&:keys).uniq).to match_array %i[id points]
    best = told("which-shoot", 3, 2, cuts: [])[:best]
    expect(best[:of].values.uniq).to match_array %w[scion stock nurse]
    expect(told("to-wood", 3, 2, to_wood(shown("to-wood", 3, 2)))[:best][:barks_mm].size).to be_between(3, 4)
  end

  it "go by the orchard's own figures, as its pages do" do
    longer = Vestry::Core::Rulebook.shipped.overruled("reckoning.bridge.seat" => { "value" => 60 },
                                                            "reckoning.bridge.bow" => { "value" => 0.2 })
    bridge = Vestry::Core::Practice::Bridge
    exercise = bridge.call(seed: 4, level: 3, rulebook: longer)[:exercise]
    gaps = bridging(exercise)[:scions].map { |scion| (scion[:length_mm] - 90) / (1 + 8.0 / 3 * 0.12**2) }
    scions = bridging(exercise)[:scions].zip(gaps).map do |scion, gap|
      scion.merge(length_mm: gap * (1 + 8.0 / 3 * 0.2**2) + 120)
    end
    answer = bridging(exercise).merge(scions: scions)
    expect(bridge.call(seed: 4, level: 3, answer: answer, rulebook: longer)).to include(passed: true)
    expect(bridge.call(seed: 4, level: 3, answer: answer)[:feedback].map { |each| each[:code] })
      .to all(eq("practice_bridge_long"))
  end

  describe "to-wood" do
    let(:exercise) { shown("to-wood", 5, 3) }
    let(:good) { to_wood(exercise)[:faces] }

    def codes(faces) = told("to-wood", 5, 3, faces: faces)[:feedback].map { |each| each[:code] }

    it "fails for one face that lies on bark, however good the rest is" do
      shallow = good.each_with_index.map { |face, i| i.zero? ? face.merge(depth_mm: 0.3) : face }
      judged = told("to-wood", 5, 3, faces: shallow)
      expect(judged[:passed]).to be false
      bark = judged[:best][:barks_mm].first
      short = be_within(1e-9).of(bark - 0.3)
      expect(judged[:feedback].first).to match(code: "practice_green", face: 1, short_mm: short)
    end

    it "names a strip that is too wide, too narrow, or gone" do
      turned = good.each_with_index.map { |face, i| i.zero? ? face.merge(at_deg: 14.0) : face }
      told = told("to-wood", 5, 3, faces: turned)[:feedback].to_h { |each| [each[:code], each] }
      # Turned by 14 degrees of a stick of so many millimetres, the arc before it is longer and the one behind shorter.
      arc = 14 * Math::PI / 180 * exercise[:scion_mm] / 2
      expect(told["practice_strip_narrow"][:strip_mm]).to be_within(1e-6).of(exercise[:strip_mm].first + 0.1 - arc)
      expect(told["practice_strip_wide"][:strip_mm]).to be_within(1e-6).of(exercise[:strip_mm].first + 0.1 + arc)
    end

    it "names a face that is wider than its flap, and refuses another number of faces" do
      deep = good.map { |face| face.merge(depth_mm: exercise[:scion_mm] * 0.4) }
      expect(codes(deep)).to include("practice_bare", "practice_strip_narrow")
      expect(refusal("practice-to-wood", seed: 5, level: 3, answer: { faces: good.drop(1) }).field).to eq "answer.faces"
    end

    it "is made with a limb's own numbers" do
      own = { scion_mm: 13.0, stock_wood_mm: 13.0, flaps: 4 }
      expect(reckon("practice-to-wood", seed: 1, level: 2, own: own)[:exercise]).to include(own)
    end
  end

  it "which-face asks after the wind from its fourth level on, and not before" do
    blows = [1, 2, 3, 4, 5].map { |level| !shown("which-face", 1, level)[:wind_from_deg].nil? }
    expect(blows).to eq [false, false, false, true, true]
  end

  it "which-face says nothing against the flattest places there are" do
    (1..6).each do |seed|
      best = told("which-face", seed, 3, bearings_deg: ridges(shown("which-face", seed, 3)))[:best][:bearings_deg]
      judged = told("which-face", seed, 3, bearings_deg: best)
      expect([seed, judged.values_at(:score, :feedback)]).to eq [seed, [1.0, [{ code: "practice_seated" }]]]
    end
  end

  describe "which-shoot" do
    let(:exercise) { shown("which-shoot", 8, 4) }
    let(:stock) { below_the_rim(exercise).map { |shoot| shoot[:id] } }

    def judged(cuts) = told("which-shoot", 8, 4, cuts: cuts)

    it "is nothing once a scion or a nurse's shoot is cut" do
      other = exercise[:shoots].map { |shoot| shoot[:id] } - stock
      other.each do |id|
        answer = judged((stock + [id]).map { |each| { shoot: each } })
        expect(answer.values_at(:score, :passed)).to eq [0.0, false]
        expect(answer[:feedback].first[:code]).to match(/practice_cut_(scion|nurse)/)
      end
    end

    it "loses a tenth for each that is missed, and half of that for a stump" do
      expect(judged(stock.drop(1).map { |id| { shoot: id } })[:score]).to be_within(1e-9).of(0.9)
      high = stock.each_with_index.map { |id, i| { shoot: id, up_mm: i.zero? ? 7.0 : 0.0 } }
      expect(judged(high).values_at(:score, :feedback))
        .to match [be_within(1e-9).of(0.95), [{ code: "practice_left_stub", shoot: stock.first }]]
    end

    it "kills what the blade runs on into" do
      found = (0..16).filter_map do |seed|
        exercise = shown("which-shoot", seed, 5)
        stay = exercise[:shoots] - below_the_rim(exercise)
        below_the_rim(exercise).each do |shoot|
          (10..120).step(5) do |up|
            answer = told("which-shoot", seed, 5, cuts: [{ shoot: shoot[:id], up_mm: up.to_f }])
            run = answer[:feedback].find { |each| each[:code] == "practice_overrun" } or next
            expect(stay.map { |each| each[:id] }).to include run[:shoot]
            expect(answer[:passed]).to be false
            break seed
          end
        end
      end
      expect(found).not_to be_empty
    end

    it "refuses a shoot that is not drawn, and one cut twice" do
      expect(refusal("practice-which-shoot", seed: 8, level: 4, answer: { cuts: [{ shoot: 999 }] }).field)
        .to eq "answer.cuts"
      twice = [{ shoot: stock.first }] * 2
      expect(refusal("practice-which-shoot", seed: 8, level: 4, answer: { cuts: twice }).field).to include "cuts"
    end
  end

  describe "shoot" do
    let(:exercise) { shown("shoot", 12, 3) }
    let(:good) { shoot_wood(exercise) }

    def judged(**changed) = told("shoot", 12, 3, good.merge(changed))
    def codes(**changed) = judged(**changed)[:feedback].map { |each| each[:code] }

    it "fails for older wood, whatever else is right" do
      answer = judged(from_mm: exercise[:ring_at_mm] - 9)
      expect(answer[:passed]).to be false
      expect(answer[:feedback].first).to eq(code: "practice_old_wood", over_mm: 9)
      expect(judged(from_mm: exercise[:ring_at_mm] - 7)[:feedback].map { |each| each[:code] })
        .to include "practice_thick_base"
    end

    it "weighs the stretch by half, the buds by three tenths and the sticks by a fifth" do
      expect(judged[:score]).to be_within(1e-9).of(1.0)
      long = good[:to_mm] - good[:from_mm]
      short = judged(to_mm: good[:to_mm] - long / 2.0, cuts: [])
      # Half of the stretch; the buds are still named; one stick is still cut.
      most = good[:cuts].size + (good[:buds].size % 3 == 0 ? 1 : 0)
      expect(short[:score]).to be_within(1e-9).of(0.25 + 0.3 + 0.2 / most)
      expect(codes(buds: [])).to include "practice_buds_unnamed"
      expect(judged(buds: [])[:score]).to be_within(1e-9).of(0.7)
    end

    it "is as fine as a knife's place, and no finer" do
      ring, green = exercise.values_at(:ring_at_mm, :green_from_mm)
      named = ->(code, places) { places.map { |place| codes(**place).include?(code) } }
      expect(named["practice_old_wood", [{ from_mm: ring - 8 }, { from_mm: ring - 8.01 }]]).to eq [false, true]
      expect(named["practice_unripe", [{ to_mm: green + 8 }, { to_mm: green + 8.01 }]]).to eq [false, true]
    end

    it "names the tip, the wound, and buds that grow nothing" do
      expect(codes(to_mm: exercise[:length_mm])).to include("practice_unripe")
      expect(codes(from_mm: exercise[:thick_to_mm], to_mm: exercise[:green_from_mm])).to include("practice_damage")
      fat = exercise[:nodes].select { |node| node[:is] == "fat" }.map { |node| node[:id] }
      expect(judged(buds: good[:buds] + fat)[:feedback]).to include(code: "practice_buds_fat", nodes: fat)
      expect(refusal("practice-shoot", seed: 12, level: 3, answer: good.merge(to_mm: good[:from_mm])).field)
        .to eq "answer.to_mm"
    end
  end

  describe "the others" do
    def codes(told) = told[:feedback].map { |each| each[:code] }

    it "bridge fails on dead bark, and on too much that is sound" do
      exercise = shown("bridge", 6, 4)
      right = bridging(exercise)
      short = told("bridge", 6, 4, right.merge(trim_mm: exercise[:dead_mm] - 3))
      expect([short[:passed], short[:feedback].first]).to eq [false, { code: "practice_bridge_dead", mm: 3.0 }]
      far = told("bridge", 6, 4, right.merge(trim_mm: exercise[:dead_mm] + 11))
      expect(codes(far)).to include "practice_bridge_cut_away"
      expect(shown("bridge", 6, 1)[:dead_mm]).to eq 0
    end

    it "face is cut where the hand strays to, and not where it was drawn" do
      exercise = shown("face", 2, 5)
      right = long_face(exercise)
      straight = right.merge(points: right[:points].each_with_index.map do |point, n|
        point.merge(depth_mm: exercise[:scion_mm] / 2 * (1 - n / 20.0))
      end)
      expect(codes(told("face", 2, 5, straight))).to eq ["practice_face_wavy"]
      cut = told("face", 2, 5, straight)[:cut][10]
      expect(cut[:depth_mm]).to be_within(1e-9).of(exercise[:scion_mm] / 4 + exercise[:strays_mm])
    end

    it "which-face fails with none to windward, and order costs 0.15 for each end of the clock" do
      exercise = shown("which-face", 3, 5)
      wind = exercise[:wind_from_deg]
      lee = Array.new(exercise[:sticks]) { |i| (wind + 60 + i * 100) % 360 }
      expect(codes(told("which-face", 3, 5, bearings_deg: lee))).to include "practice_leeward"
      steps = shown("order", 3, 5)
      right = { order: in_the_book(steps), **clock(steps) }
      expect(told("order", 3, 5, right.except(:stops)).values_at(:score, :feedback))
        .to match [be_within(1e-9).of(0.85), [{ code: "practice_clock_stops", step: right[:stops] }]]
      expect(told("order", 3, 5, right.merge(starts: right[:stops], stops: right[:starts]))[:score])
        .to be_within(1e-9).of(0.7)
    end

    it "ten-years fails for what starves the tree, wants wood that is not there, or ties all" do
      exercise = shown("ten-years", 4, 3)
      plan = lambda do |**more|
        { limbs: exercise[:limbs].map { |limb| { id: limb[:id], sticks: 1, **more } }, nurse_off: 8 }
      end
      expect(codes(told("ten-years", 4, 3, plan[spring: 1]))).to eq ["practice_too_much"]
      expect(codes(told("ten-years", 4, 3, plan[spring: 1, braced: true]))).to include "practice_no_braces"
      full = { limbs: exercise[:limbs].map { |limb| { id: limb[:id], spring: 1, sticks: limb[:most] } }, nurse_off: 8 }
      expect(codes(told("ten-years", 4, 3, full))).to include "practice_no_wood"
      early = told("ten-years", 4, 3, planned(exercise).merge(nurse_off: 3))
      expect([early[:score], codes(early)]).to eq [0.0, ["practice_nurse_early"]]
      late = told("ten-years", 4, 3, planned(exercise).merge(nurse_off: 10))
      expect(late[:feedback].map { |each| each[:code] }).to include "practice_nurse_late"
      expect(late[:fans][:mine].map { |year| year[:year] }).to eq (1..10).to_a
      expect(refusal("practice-ten-years", seed: 4, level: 3, answer: plan[spring: 4]).field).to include "spring"
      expect(refusal("practice-ten-years", seed: 4, level: 3, answer: plan[spring: 1, id: "A"]).field)
        .to include "limbs"
    end

    it "ten-years wants the nurse until the autumn in which grafts that surely live carry the head, and no longer" do
      # Shoots of 1800 mm, by what a fifth of the head is pushed, begin with 2.5 + 0.0095 x 1800 = 19.6 mm and gain 12
      # a year: of 19.6, 31.6 and 43.6 the last is the first of which (mm / 48)^2 x 0.8 passes 0.45.
      limbs = [{ id: "A", stub_mm: 48, most: 2, share: 0.8, windy: false }]
      exercise = shown("ten-years", 9, 2).merge(limbs: limbs, take: 0.999, cap: 1.0, sticks: 9, sticks_a_winter: 9,
                                                past: Array.new(3) { { minutes: 9000, gust: 1.0 } })
      years = Vestry::Core::Practice::PlannedYears.new(exercise, Vestry::Core::Rulebook.shipped)
      told = (2..5).to_h do |year|
        plan = { limbs: [{ id: "A", spring: 1, sticks: 2, braced: false }], nurse_off: year }
        late = years.costs(plan, plan).find { |each| each[:code] == "practice_nurse_late" }
        [year, [years.faults(plan).map { |each| each[:code] }, late && late[:years]]]
      end
      expect(told).to eq(2 => [["practice_nurse_early"], nil], 3 => [[], nil], 4 => [[], 1], 5 => [[], 2])
    end

    it "ten-years is never worth more than its best, and a choice that it names is worth what it says" do
      exercise = shown("ten-years", 9, 2)
      years = Vestry::Core::Practice::PlannedYears.new(exercise, Vestry::Core::Rulebook.shipped)
      random = Random.new(5)
      tried = Array.new(12) do
        { limbs: exercise[:limbs].map { |limb| { id: limb[:id], spring: 1 + random.rand(3),
                                                 sticks: 1 + random.rand(limb[:most]), braced: random.rand < 0.5 } },
          nurse_off: 10 }
      end.select { |plan| years.allowed?(plan) }
      expect(tried).not_to be_empty
      expect(tried.map { |plan| years.worth(plan) }).to all(be <= years.worth(years.best) + 0.01)
      plain = years.plain
      first = years.costs(plain, years.best).reject { |each| each[:code] == "practice_nurse_late" }.first
      changed = { spring: "practice_other_spring", sticks: "practice_other_sticks", braced: "practice_other_brace" }
        .key(first[:code])
      other = plain[:limbs].map { |limb| limb[:id] == first[:limb] ? limb.merge(changed => first[:best]) : limb }
      borne = [other, plain[:limbs]].map do |limbs|
        years.fan({ limbs: limbs, nurse_off: 10 }).drop(5).sum { |year| year[:mean] } / 5
      end
      expect(first[:share]).to be_within(1e-9).of(borne[0] - borne[1])
    end

    it "right-way fails with two of twenty, or when it takes too long" do
      exercise = shown("right-way", 4, 2)
      right = upside_down(exercise)
      ids = exercise[:sticks].map { |stick| stick[:id] }
      judged = ->(turned, **more) { told("right-way", 4, 2, { turned: turned }.merge(more)) }
      expect(judged[right].values_at(:score, :passed)).to eq [1.0, true]
      one, two = ids - right
      expect(judged[right + [one]].values_at(:score, :passed)).to eq [0.95, true]
      expect(judged[right + [one, two]]).to include(score: 0.9, passed: false,
                                                    feedback: [{ code: "practice_upside_down", sticks: [one, two] }])
      expect(judged[right, seconds: exercise[:seconds] + 1])
        .to include(passed: false, feedback: [{ code: "practice_slow", seconds: exercise[:seconds] + 1,
                                                most: exercise[:seconds] }])
      expect(refusal("practice-right-way", seed: 4, level: 2, answer: { turned: [99] }).field).to eq "answer.turned"
    end

    it "line-up meets over the face where cambium is on cambium, crosses where it leans, and not where it is flush" do
      exercise = shown("line-up", 9, 1)
      codes = ->(**answer) { told("line-up", 9, 1, answer)[:feedback].map { |each| each[:code] } }
      barks = told("line-up", 9, 1, in_mm: 0.0)[:best][:barks_mm]
      expect(codes[in_mm: barks[0] - barks[1]]).to eq %w[practice_line_full]
      expect(codes[in_mm: barks[0] - barks[1] + 0.6]).to eq %w[practice_line_off]
      expect(codes[in_mm: 0.0]).to eq %w[practice_line_flush]
      leaned = told("line-up", 9, 1, in_mm: barks[0] - barks[1] + 0.6, tilt_deg: 3.0)
      # Half a millimetre either way of the crossing, which lies 0.6 / tan 3 degrees off the middle.
      stretch = 1 / Math.tan(3 * Math::PI / 180)
      expect(leaned[:feedback].first).to include(code: "practice_line_crosses", met_mm: be_within(1e-6).of(stretch))
      expect(leaned[:score]).to be_within(1e-6).of(stretch / exercise[:length_mm])
    end

    it "order counts the pairs that are the wrong way round, and names the worst" do
      exercise = shown("order", 3, 2)
      right = told("order", 3, 2, order: exercise[:steps].map { |step| step[:id] })[:best][:order]
      expect(told("order", 3, 2, order: right)).to include(score: 1.0, feedback: [{ code: "practice_in_order" }])
      pairs = right.size * (right.size - 1) / 2
      swapped = [right[1], right[0], *right.drop(2)]
      early = { code: "practice_too_early", step: right[0], before: right[1] }
      expect(told("order", 3, 2, order: swapped)).to include(score: 1 - 1.0 / pairs, feedback: [early])
      expect(told("order", 3, 2, order: right.reverse)[:score]).to eq 0.0
      expect(refusal("practice-order", seed: 3, level: 2, answer: { order: right.drop(1) }).field).to eq "answer.order"
    end

    it "which-face fails for sticks that stand too close, and refuses another number of them" do
      exercise = shown("which-face", 5, 3)
      best = told("which-face", 5, 3, bearings_deg: [0, 100, 200])[:best][:bearings_deg]
      close = [best[0], (best[0] + exercise[:apart_deg] - 1) % 360, best[2]]
      expect(told("which-face", 5, 3, bearings_deg: close)).to include(passed: false)
      expect(told("which-face", 5, 3, bearings_deg: close)[:feedback].first[:code]).to eq "practice_crowded"
      expect(told("which-face", 5, 3, bearings_deg: best))
        .to include(score: 1.0, feedback: [{ code: "practice_seated" }])
      expect(refusal("practice-which-face", seed: 5, level: 3, answer: { bearings_deg: [10] }).field)
        .to eq "answer.bearings_deg"
    end

    it "read-graft weighs each choice by how likely it lives, and what binds or gapes comes first" do
      worth = Vestry::Core::Rulebook.shipped.value("reckoning.practice_read_graft.worth")
      60.times do |seed|
        exercise = shown("read-graft", seed, 1 + seed % 5)
        alive = reckon("read", **exercise.slice(:callus_share, :days, :expected_take, :seen))[:alive]
        mine = worth.to_h do |choice, (lives, dead)|
          mended = { "biting" => "slit", "loose" => "rewrap" }[exercise[:wrap]]
          lives += mended == choice ? 0.25 : -0.2 if mended
          dead = 0 if choice == "regraft" && !exercise[:regraft]
          [choice, alive * lives + (1 - alive) * dead]
        end
        mine.each do |choice, value|
          judged = told("read-graft", seed, 1 + seed % 5, choice: choice)
          expect(judged[:score]).to be_within(1e-9).of([value / mine.values.max, 0].max)
          expect(judged[:feedback].first[:alive]).to be_within(1e-9).of(alive)
        end
        worst = mine.min_by(&:last).first
        expect(told("read-graft", seed, 1 + seed % 5, choice: worst)[:passed]).to be false
      end
      expect(refusal("practice-read-graft", seed: 1, level: 1, answer: { choice: "pray" }).field).to include "choice"
    end

    it "face is flat, as long and as deep as it should be, and has a bud opposite" do
      exercise = shown("face", 3, 4)
      good = long_face(exercise)
      judged = ->(**changed) { told("face", 3, 4, good.merge(changed)) }
      codes = ->(**changed) { judged[**changed][:feedback].map { |each| each[:code] } }
      expect(judged[].values_at(:score, :feedback)).to match [be_within(1e-9).of(1.0), [{ code: "practice_face_true" }]]
      moved = ->(by) { good[:points].map { |point| point.merge(depth_mm: point[:depth_mm] + by) } }
      expect(codes[points: moved[-1.2]]).to eq %w[practice_face_shallow]
      expect(codes[points: moved[1.2]]).to eq %w[practice_face_deep]
      expect(codes[points: good[:points].first(11)]).to eq %w[practice_face_length]
      expect(codes[side: exercise[:buds].first[:side]]).to eq %w[practice_face_bud_cut]
      expect(codes[base_mm: good[:base_mm] + 9]).to eq %w[practice_face_bud_far]
      # A hand that wanders by a millimetre at every second point: none lies within four tenths of the line.
      wavy = good[:points].each_with_index.map do |point, i|
        point.merge(depth_mm: point[:depth_mm] + (i.odd? ? 1 : -1))
      end
      expect(codes[points: wavy]).to include "practice_face_wavy"
      expect(judged[points: wavy][:score]).to be <= 0.6
      expect(refusal("practice-face", seed: 3, level: 4, answer: good.merge(points: [])).field).to eq "answer.points"
    end

    it "bridge fails for a scion that is upside down, and names what does not fit" do
      exercise = shown("bridge", 4, 3)
      good = bridging(exercise)
      judged = ->(**changed) { told("bridge", 4, 3, good.merge(changed)) }
      expect(judged[].values_at(:score, :feedback)).to match [be_within(1e-9).of(1.0), [{ code: "practice_bridged" }]]
      other = (1..exercise[:count]).to_a - good[:turned]
      expect(judged[turned: other]).to include(passed: false)
      expect(judged[turned: other][:feedback].first)
        .to eq(code: "practice_bridge_upside_down", scions: (1..exercise[:count]).to_a)
      first, *rest = good[:scions]
      short = judged[scions: [first.merge(length_mm: first[:length_mm] - 30), *rest]]
      expect(short[:feedback]).to match [{ code: "practice_bridge_short", scion: 1, mm: be_within(0.5).of(30) }]
      expect(short[:score]).to be_within(1e-6).of(1 - 0.5 / exercise[:count])
      heaped = good[:scions].map { |each| each.merge(bearing_deg: each[:bearing_deg] / 3) }
      expect(judged[scions: heaped][:feedback]).to include(code: "practice_bridge_uneven")
      expect(refusal("practice-bridge", seed: 4, level: 3, answer: good.merge(scions: rest)).field)
        .to eq "answer.scions"
    end

    it "hands fail with one mistake: in the blade's way, off the stick, or too far along it" do
      exercise = shown("hands", 4, 1)
      way = exercise[:blade_deg] * Math::PI / 180
      code = lambda do |along, aside|
        at = [along * Math.cos(way) - aside * Math.sin(way), along * Math.sin(way) + aside * Math.cos(way)]
        judged = told("hands", 4, 1, x_mm: at[0], y_mm: at[1])
        [judged[:feedback].first[:code], *judged.values_at(:score, :passed)]
      end
      expect(code[-115, 0]).to eq ["practice_hand_safe", 1.0, true]
      expect(code[120, 0]).to eq ["practice_hand_in_the_way", 0.0, false]
      # Fifteen degrees and a hand's width beside it still meet; well beside it holds nothing.
      expect(code[150, 150 * Math.tan(15 * Math::PI / 180) + 40]).to eq ["practice_hand_in_the_way", 0.0, false]
      expect(code[0, 150]).to eq ["practice_hand_holds_nothing", 0.0, false]
      expect(code[-200, 0]).to eq ["practice_hand_too_far", 0.0, false]
      # Nearer than a hand to where the blade begins, it is cut as well.
      expect(code[-30, 0]).to eq ["practice_hand_in_the_way", 0.0, false]
    end

    it "where-to-cut keeps the limits, undercuts first, and knows a short tear from a long one" do
      exercise = shown("where-to-cut", 6, 4)
      good = careful("where-to-cut", exercise)
      judged = ->(**changed) { told("where-to-cut", 6, 4, good.merge(changed)) }
      expect(judged[]).to include(passed: true, feedback: [include(code: "practice_cut_well")])
      expect(judged[first: "top"]).to include(passed: false, feedback: include(code: "practice_top_first"))
      other = (%w[trim again] - [good[:torn]]).first
      expect(judged[torn: other]).to include(passed: true, score: be_within(0.01).of(0.85))
      fork = judged[at_mm: 2.0]
      expect(fork).to include(passed: false, feedback: include(code: "practice_place_clearance"))
      nurse = exercise[:branches].find { |branch| branch[:nurse] }
      codes = judged[at_mm: nurse[:fork_at_mm] - 60.0][:feedback].map { |each| each[:code] }
      expect(codes).to include "practice_place_nurse"
    end

    it "seat is too deep, too high, below the rim, or forced further than the bark was opened" do
      exercise = shown("seat", 6, 3)
      face, (low, high) = exercise.values_at(:face_mm, :showing_mm)
      judged = ->(down) { told("seat", 6, 3, in_mm: down) }
      codes = ->(down) { judged[down][:feedback].map { |each| each[:code] } }
      expect(codes[face + 1.0]).to include("practice_seat_below")
      expect(codes[face - low + 1.0]).to include("practice_seat_deep")
      expect(codes[face - high - 1.0]).to eq %w[practice_seat_high]
      expect(codes[exercise[:slit_mm] + 0.5]).to include("practice_seat_forced")
      expect(judged[face - high]).to include(passed: true, score: be_within(1e-9).of(0.8))
    end

    it "seal is lost where wax runs between the faces, and less for what is missed or needless" do
      exercise = shown("seal", 2, 4)
      of = exercise[:places].group_by { |place| place[:is] }.transform_values { |all| all.map { |place| place[:id] } }
      open = of.values_at("tip", "slit", "rim", "shoulder", "split").compact.flatten
      judged = ->(sealed) { told("seal", 2, 4, sealed: sealed) }
      expect(judged[open].values_at(:score, :passed)).to eq [1.0, true]
      expect(judged[open.drop(1)][:score]).to be_within(1e-9).of(1 - 1.0 / open.size)
      face = judged[open + of["face"].first(1)]
      expect(face).to include(passed: false, score: be_within(1e-9).of(1 - 1.0 / (open.size + 1)))
      expect(face[:feedback].first[:code]).to eq "practice_seal_face"
      needless = of.values_at("bud", "scar", "lenticel").compact.flatten.first
      expect(judged[open + [needless]][:feedback].map { |each| each[:code] }).to eq %w[practice_seal_needless]
      expect(refusal("practice-seal", seed: 2, level: 4, answer: { sealed: [77] }).field).to eq "answer.sealed"
    end
  end

  describe "what comes next" do
    def stands(*tries) = Vestry::Core::Practice::Next.stands(tries)
    def try(on, passed, level: 1, exercise: "shoot")
      { exercise: exercise, level: level, passed: passed, on: Date.iso8601(on) }
    end

    it "comes again after more and more days, and after a fail the next day, a step back" do
      days = %w[2026-01-01 2026-01-02 2026-01-05 2026-01-12 2026-01-28 2026-03-04]
      due = days.each_index.map { |n| stands(*days[0..n].map { |on| try(on, true) })[:due_on].iso8601 }
      expect(due).to eq %w[2026-01-02 2026-01-05 2026-01-12 2026-01-28 2026-03-04 2026-04-08]
      failed = stands(try("2026-01-01", true), try("2026-01-02", true, level: 2), try("2026-01-05", false, level: 3))
      expect(failed).to include(step: 1, due_on: Date.new(2026, 1, 6), level: 3, passed: 2, tries: 3)
      expect(stands).to include(step: 0, level: 1, due_on: nil)
    end

    it "is a level harder once one is passed, and never past the fifth" do
      levels = (1..6).map { |level| try("2026-01-0#{level}", true, level: [level, 5].min) }
      expect(stands(*levels.first(2))[:level]).to eq 3
      expect(stands(*levels)[:level]).to eq 5
    end

    it "offers what was failed, then what is due, then what the season asks for" do
      today = ->(on, tries = [], **more) do
        Vestry::Core::Practice::Next.today(tries, Date.iso8601(on), **more).map { |each| each[:exercise] }
      end
      expect(today["2026-01-15"]).to eq %w[shoot where-to-cut hands right-way face]
      expect(today["2026-06-15"].first(2)).to match_array %w[read-graft which-shoot]
      # In the south June is winter.
      expect(today["2026-06-15", southern: true].first(2)).to eq %w[shoot where-to-cut]
      tries = [try("2026-01-10", true), try("2026-01-14", false, exercise: "which-shoot")]
      expect(today["2026-01-15", tries].first(2)).to eq %w[which-shoot shoot]
      # What is due comes before what was never tried, whatever the season asks for.
      expect(today["2026-01-15", 
[try("2026-01-10", true, exercise: "which-shoot")]].first(2)).to eq %w[which-shoot shoot]
      expect(today["2026-01-14", tries]).to eq %w[shoot where-to-cut hands right-way face]
      expect(today["2026-01-10", tries.first(1)]).to eq %w[where-to-cut hands right-way face line-up]
    end
  end

  it "makes a limb by the book as it ships where an orchard's own figures leave no place for the cut" do
    own = { "reckoning.practice_where_to_cut.base" => { "value" => [3, 3] } }
    exercise = Vestry::Core.reckoning("practice-where-to-cut")
      .reckon({ seed: 5, level: 4 }, rulebook: Vestry::Core::Rulebook.shipped.overruled(own))[:exercise]
    expect(exercise[:base_diameter_mm]).to be_between(60, 130)
  end
end
