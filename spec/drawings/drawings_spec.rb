# frozen_string_literal: true

require "nokogiri"

RSpec.describe "The drawings" do
  let(:here) { orchard }
  let(:standing) { tree(here, form: "bush") }

  def svg(text) = Nokogiri::XML(text) { |config| config.strict }
  def elevation(**options)
    stands = Vestry::Drawings::DrawnLimb.all(standing.reload, planning: 2026)
    Vestry::Drawings::Elevation.new(standing, stands, **options)
  end
  def numbers(path) = path.scan(/-?\d+(?:\.\d+)?/).map(&:to_f)

  before do
    limb(standing, "A", bearing_deg: 90)
    limb(standing, "B", bearing_deg: 270, rise_deg: 20)
    limb(standing, "C", bearing_deg: 180)
  end

  it "are sound SVG, with a title and a description for those who do not see them" do
    stands = Vestry::Drawings::DrawnLimb.all(standing, planning: 2026)
    drawn = [elevation.svg, Vestry::Drawings::FromAbove.new(standing, stands).svg,
             Vestry::Drawings::Stub.new(standing.limbs.first, stock_mm: 60.0, faces: [0, 120, 240], upright: true).svg]
    drawn.each { |text| expect(svg(text).at_xpath("//*[local-name()='title']").text).not_to be_empty }
    expect(svg(drawn[0]).at_xpath("//*[local-name()='desc']").text)
      .to include("Limb A: 230 mm round, points 90 degrees, rises 45 degrees, nothing decided")
    expect(svg(drawn[2]).root["aria-label"]).to include("3 sticks: 0 degrees from north, 120 degrees from north")
  end

  it "set a stick where its cambium lies on the stub's: under bark, in a split at its ends, and on a stub as thick" do
    # The middle of a stick at north, and its radius, in shares of the wood's radius.
    seat = lambda do |technique, scion_mm|
      stub = Vestry::Drawings::Stub.new(standing.limbs.first, stock_mm: 40.0, faces: [0], upright: true,
                                                              technique: technique, scion_mm: scion_mm)
      stick = stub.sticks.first
      [(stub.middle - stick[:y]) / stub.wood_radius, stick[:r] / stub.wood_radius, stub.split.nil?]
    end
    ["bark", "rind", nil].each { |technique| expect(seat[technique, 10.0]).to match [be > 1, be < 0.5, true] }
    out, radius, whole = seat["cleft", 10.0]
    # Its bark reaches a little beyond the wood, no further.
    expect([out + radius, whole]).to match [be_between(1, 1.1), false]
    expect(seat["three-flap", nil]).to match [0, be >= 1, true]
    expect(seat["whip-and-tongue", 20.0]).to match [be_between(0.3, 0.6), be < 0.8, true]
    expect(seat["whip-and-tongue", nil].first).to be < 0.2
  end

  it "stay on their sheet from every side" do
    Vestry::Drawings::Elevation::BEARINGS.each_key do |from|
      drawing = elevation(from_deg: from)
      drawing.branches.each do |branch|
        xs, ys = numbers(branch.outline).each_slice(2).to_a.transpose
        expect(xs).to all(be_between(0, drawing.width))
        expect(ys).to all(be_between(0, drawing.ground_y + 6))
      end
    end
  end

  it "show the east limb to the right from the south, and to the left from the north" do
    tip = ->(from) { elevation(from_deg: from).branches.find { |each| each.tag == "A" }.leader[0] }
    middle = Vestry::Drawings::Elevation::LEFT +
      (Vestry::Drawings::Elevation::WIDTH - Vestry::Drawings::Elevation::LEFT - Vestry::Drawings::Elevation::RIGHT) / 2
    expect([tip[180] > middle, tip[0] < middle]).to eq [true, true]
  end

  it "draw the same tree the same at every look" do
    expect(elevation.svg).to eq elevation.svg
  end

  describe "kept once they are drawn" do
    let(:kind) { variety(here, "Tollgate Amber") }
    let(:first) { standing.limbs_dataset.first(tag: "A") }
    let(:made) { Vestry::Records::Graft.first(limb_id: first.id) || graft(first, variety_id: kind.id) }
    let(:plan) { Vestry::Records::Plan.create(orchard_id: here.id, tree_id: standing.id) }

    def drawn(from: 180, chosen: nil, faults: {}, stretch: nil)
      tree = Vestry::Records::Tree[standing.id]
      stands = Vestry::Drawings::DrawnLimb.all(tree, planning: 2026)
      { elevation: Vestry::Drawings::Elevation.new(tree, stands, from_deg: from, chosen: chosen, faults: faults,
          stretch: stretch, href: ->(id) { "?limb=#{id}" }),
        from_above: Vestry::Drawings::FromAbove.new(tree, stands, from_deg: from, chosen: chosen,
            href: ->(id) { "?limb=#{id}" }) }
    end

    def pictures(...) = drawn(...).transform_values(&:svg)
    def fresh(...) = drawn(...).to_h { |name, drawing| [name, Vestry::Drawings::Template.render(name.to_s, drawing)] }

    { "a limb is thicker" => ->(it) { it.first.update(girth_mm: 320) },
      "a limb is longer" => ->(it) { it.first.update(length_mm: 1900) },
      "a limb rises more" => ->(it) { it.first.update(rise_deg: 70) },
      "a limb points elsewhere" => ->(it) { it.first.update(bearing_deg: 20) },
      "a limb forks higher" => ->(it) { it.first.update(fork_mm: 1200) },
      "a limb has another tag" => ->(it) { it.first.update(tag: "Q") },
      "a limb comes off" => ->(it) { it.first.update(gone_on: Date.new(2026, 2, 1)) },
      "a limb is grafted" => ->(it) { it.made },
      "a limb is to be lifted" => ->(it) { it.plan.add_plan_limb(orchard_id: it.here.id, limb_id: it.first.id,
          role: "lift", cut_mm: 500) },
      "the trunk is thicker" => ->(it) { it.standing.update(trunk_girth_mm: 900) },
      "the tree stands elsewhere" => ->(it) { it.standing.update(row: "Z") } }.each do |what, change|
      it "are both drawn anew when #{what}" do
        before = pictures
        change.call(self)
        expect(pictures).to eq fresh
        before.each { |name, picture| expect([name, pictures[name]]).not_to eq [name, picture] }
      end
    end

    { "the tree has a leader" => ->(it) { it.standing.update(form: "central-leader") },
      "a limb is damaged" => ->(it) { it.first.update(damage: "canker") },
      "the orchard measures in inches" => ->(it) { it.here.update(units: "imperial") },
      "nothing grazes" => ->(it) { it.here.update(grazing: "none") },
      "people reach higher" => ->(it) { it.here.update(reach_mm: 2900) },
      "the rulebook's browse line is " \
      "overruled" => ->(it) { it.here.update(overrides: Sequel.pg_jsonb("site.browse.sheep" => { "value" => 1500,
        "why" => "tall ewes", "who" => "Orla" })) },
        "a place in the side is marked" => ->(it) { Vestry::Records::Site.create(orchard_id: it.here.id,
          tree_id: it.standing.id, limb_id: it.first.id, tag: "s1", at_mm: 400, bearing_deg: 90) },
          "a graft has a longer shoot" => ->(it) { Vestry::Records::Visit.create(orchard_id: it.here.id,
            graft_id: it.made.id, seen_on: Date.new(2026, 5, 10), buds: "leafing", longest_shoot_mm: 300,
            seen_by: "Orla") }, "a variety is called otherwise" => ->(it) { it.made &&
              it.kind.update(name: "Evensong") }, "a graft has more sticks" => ->(it) { it.made.update(sticks: 4) } }
                .each do |what, change|
      it "are drawn anew from the side when #{what}" do
        made
        before = pictures[:elevation]
        change.call(self)
        expect(pictures).to eq fresh
        expect(pictures[:elevation]).not_to eq before
      end
    end

    { "a limb is flatter on a side" => ->(it) { it.first.update(flat_deg: 140) },
      "the wind comes from elsewhere" => ->(it) { it.here.update(wind_from_deg: 10) } }.each do |what, change|
      it "are drawn anew from above when #{what}" do
        before = pictures[:from_above]
        change.call(self)
        expect(pictures).to eq fresh
        expect(pictures[:from_above]).not_to eq before
      end
    end

    it "differ by where one looks from, by the limb that is chosen, and by what is wrong with it" do
      looks = [{}, { from: 90 }, { chosen: first.id }, { chosen: first.id, stretch: [300.0, 900.0] },
               { faults: { first.id => "too low" } }]
      expect(looks.map { |look| pictures(**look) }).to eq(looks.map { |look| fresh(**look) })
      expect(looks.map { |look| pictures(**look)[:elevation] }.uniq.size).to eq looks.size
      above = drawn[:from_above]
      expect(standing.limbs.map { |limb| above.choosing(limb.id).svg })
        .to eq(standing.limbs.map { |limb| fresh(chosen: limb.id)[:from_above] })
    end
  end

  it "draw the browse line where the animals reach, and none where nothing grazes" do
    line = elevation.lines.find { |each| each[:kind] == "browse" }
    metre = elevation.staff_marks.find { |mark| mark[:text] == "1 m" }[:y]
    expect((elevation.ground_y - line[:y]) / (elevation.ground_y - metre)).to be_within(1e-6).of(1.3)
    here.update(grazing: "none")
    expect(elevation.lines.map { |each| each[:kind] }).to eq ["reach"]
  end

  it "mark a staff in feet where feet are used" do
    here.update(units: "imperial")
    expect(elevation.staff_marks.map { |mark| mark[:text] }.compact).to include("2 ft", "4 ft")
  end

  it "tell roles apart by outline as well as by colour" do
    outlines = %w[work later nurse lift lost open renew grafted].to_h do |state|
      [state, Vestry::Drawings::Tag.shape(state, 0, 0)]
    end
    expect(outlines.values_at("work", "nurse", "lift", "lost", "renew", "grafted").uniq.size).to eq 6
    expect(outlines["open"]).to eq outlines["nurse"]
  end

  it "stand whole until they are cut, and leave a ghost in the season after" do
    limb(standing, "A1", parent_id: standing.limbs_dataset.first(tag: "A").id, fork_mm: 1500, girth_mm: 80)
    Vestry::Deeds::DecideLimb.call(standing.limbs_dataset.first(tag: "A"),
                                 { role: "work", technique: "rind", cut: 700.0 }, by: "Orla", season: 2026)
    branches = elevation.branches.to_h { |each| [each.tag, each] }
    expect([branches["A"].cut.nil?, branches["A"].beyond.nil?, branches["A1"].outline.empty?,
            branches["A1"].beyond.nil?, branches["A1"].cut.nil?]).to eq [false, true, false, true, true]
    again = Vestry::Records::Tree[standing.id]
    stands = Vestry::Drawings::DrawnLimb.all(again, after: 2026, planning: 2026)
    after = Vestry::Drawings::Elevation.new(again, stands).branches
      .to_h do |each|
      [each.tag, each]
    end
    expect([after["A"].beyond.nil?, after["A"].outline == branches["A"].outline, after.key?("A1")])
      .to eq [false, false, false]
  end

  it "draw shoots to the length that was measured" do
    made = graft(standing.limbs_dataset.first(tag: "A"), cut_mm: 700, sticks: 1)
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2026,
                                  tallied_on: Date.new(2026, 10, 1), alive: true, growth_mm: 900)
    shoot = elevation.branches.find { |each| each.tag == "A" }.sticks.first[:shoot]
    x, y, mx, my, tx, ty = numbers(shoot)
    metre = elevation.ground_y - elevation.staff_marks.find { |mark| mark[:text] == "1 m" }[:y]
    expect(Math.hypot(mx - x, my - y) + Math.hypot(tx - mx, ty - my)).to be_within(2).of(0.9 * metre)
  end

  describe Vestry::Drawings::YearBand do
    def span(station, from, to)
      described_class::BandWindow.new(station: station, name: station.capitalize, kind: "window",
                                      from: Date.iso8601(from), to: Date.iso8601(to))
    end

    def band(*windows, current: nil)
      described_class.new(here.season, Date.new(2026, 4, 16), windows, current: current)
    end

    it "puts the year's windows and today where they fall, as shares of the width" do
      strip = svg(band(span("slip", "2026-04-01", "2026-04-30")).svg)
      bar = strip.at_xpath("//*[local-name()='rect']")
      today = strip.at_xpath("//*[@class='today']")["x1"].to_f
      expect(bar["x"].to_f).to be_within(0.01).of(100 * 151 / 365.0)
      expect(bar["width"].to_f).to be_within(0.01).of(100 * 30 / 365.0)
      expect(today).to be_within(0.01).of(100 * 166 / 365.0)
    end

    it "lays a link on each window, wide enough for its word and within the year" do
      links = band(span("wood", "2025-11-01", "2025-11-03"), span("slip", "2026-04-01", "2026-06-29"),
                   span("tally", "2026-10-30", "2026-10-31")).links
      expect(links.transform_values { |link| [link[:from], link[:to], link[:lane]] })
        .to eq("wood" => [1, 5, 1], "slip" => [32, 50, 1], "tally" => [70, 74, 1])
    end

    it "opens the window of the station one is in, and no other" do
      windows = [span("slip", "2026-04-01", "2026-04-30"), span("graft", "2026-04-10", "2026-06-20")]
      expect(band(*windows, current: "graft").opening).to eq [43.836, 63.562]
      expect(band(*windows, current: "survey").opening).to be_nil
    end
  end

  it "draw the orchard's trees with their limbs to bearing, length and state" do
    limb = ->(state, bearing, cut = nil) do
      to = [2 * Math.sin(bearing * Math::PI / 180), 2 * Math.cos(bearing * Math::PI / 180)]
      Vestry::Records::Crowns::CrownLimb.new(tag: "A", state: state, from: [0.0, 0.0], to: to,
                                             cut: cut && to.map { |side| side * cut }, across_m: 0.1)
    end
    one = tree(here)
    one.update(map_x: 5.0, map_y: 5.0)
    map = Vestry::Drawings::OrchardMap.new([0.0, 0.0, 86.0, 52.0], trees: [one], states: { one.id => "planned" },
                                           crowns: { one.id => [limb["open", 90], limb["work", 0, 0.5],
                                                               limb["lost", 180, 0.5]] })
    strokes = map.marks.first.strokes
    expect(map.scale).to eq 10.0
    expect(strokes["open"]).to eq "M0 0L20 0"
    expect(strokes["cut"]).to eq "M3.2 -10L-3.2 -10"
    expect(strokes["wood"]).to eq "M0 0L0 -20M0 0L0 10"
    expect(strokes["cross"]).to start_with "M-3 7"
    expect(%w[open cut cross grafted later].select { |kind| map.shows?(kind) }).to eq %w[open cut cross]
  end

  it "measure the orchard with a ruler of a round number in its own units" do
    ruler = ->(wide, units) { Vestry::Drawings::OrchardMap.new([0, 0, wide, wide], trees: [], states: {},
                                                               units: units).ruler.values }
    # 860 wide: ten to the metre over 86 m.
    expect([ruler[86.0, "metric"], ruler[860.0, "metric"]]).to eq [["10 m", 100.0], ["100 m", 100.0]]
    text, long = ruler[86.0, "imperial"]
    expect([text, long]).to match ["20 ft", be_within(1e-6).of(20 * 3.048)]
  end

  it "draws the scale beside a stub's photo in the orchard's own unit" do
    view = { size_px: 400, marks_px: [[10, 10], [200, 10], [100, 150]] }
    drawn = ->(units) { Vestry::Drawings::OpeningPhoto.new(view, "/x", "the stub", units: units) }
    long = %w[metric imperial].map { |units| drawn[units].svg.scan(/h([\d.]+)"/).flatten.map(&:to_f).uniq }
    expect(%w[metric imperial].map { |units| drawn[units].svg[%r{>([^<]+)</text>}, 1] }).to eq ["10 mm", "1/2 in"]
    expect(long.map(&:size)).to eq [1, 1]
    expect(long[1][0] / long[0][0]).to be_within(1e-6).of(1.27)
  end
end
