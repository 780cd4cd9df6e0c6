# frozen_string_literal: true

require "nokogiri"

RSpec.describe "The drawings" do
  let(:here) { orchard }
  let(:standing) { tree(here, form: "bush") }

  def svg(text) = Nokogiri::XML(text) { |config| config.strict }
  def elevation(**options) = Vestry::Drawings::Elevation.new(standing.reload, Vestry::Drawings::LimbStand.all(standing), **options)
  def numbers(path) = path.scan(/-?\d+(?:\.\d+)?/).map(&:to_f)

  before do
    limb(standing, "A", bearing_deg: 90)
    limb(standing, "B", bearing_deg: 270, rise_deg: 20)
    limb(standing, "C", bearing_deg: 180)
  end

  it "are sound SVG, with a title and a description for those who do not see them" do
    drawn = [elevation.svg, Vestry::Drawings::FromAbove.new(standing, Vestry::Drawings::LimbStand.all(standing)).svg,
             Vestry::Drawings::Stub.new(standing.limbs.first, stock_mm: 60.0, faces: [0, 120, 240], upright: true).svg]
    drawn.each { |text| expect(svg(text).at_xpath("//*[local-name()='title']").text).not_to be_empty }
    expect(svg(drawn[0]).at_xpath("//*[local-name()='desc']").text).to include("Limb A: 230 mm round, points 90 degrees, rises 45 degrees, nothing decided")
    expect(svg(drawn[2]).root["aria-label"]).to include("3 sticks: 0 degrees from north, 120 degrees from north")
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
    middle = Vestry::Drawings::Elevation::LEFT + (Vestry::Drawings::Elevation::WIDTH - Vestry::Drawings::Elevation::LEFT - Vestry::Drawings::Elevation::RIGHT) / 2
    expect([tip[180] > middle, tip[0] < middle]).to eq [true, true]
  end

  it "draw the same tree the same at every look" do
    expect(elevation.svg).to eq elevation.svg
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
    outlines = %w[work later nurse lift open renew grafted].to_h { |state| [state, Vestry::Drawings::Tag.shape(state, 0, 0)] }
    expect(outlines.values_at("work", "nurse", "lift", "renew", "grafted").uniq.size).to eq 5
    expect(outlines["open"]).to eq outlines["nurse"]
  end

  it "dash what will come off with a limb that is cut below it" do
    limb(standing, "A1", parent_id: standing.limbs_dataset.first(tag: "A").id, fork_mm: 1500, girth_mm: 80)
    Vestry::Deeds::PlanLimb.call(standing.limbs_dataset.first(tag: "A"), { role: "work", technique: "rind", cut: 700.0 }, by: "Orla", season: 2026)
    branches = elevation.branches.to_h { |each| [each.tag, each] }
    expect([branches["A"].cut.nil?, branches["A"].beyond.nil?, branches["A1"].outline.empty?, branches["A1"].beyond.nil?]).to eq [false, false, true, false]
  end

  it "draw shoots to the length that was measured" do
    made = graft(standing.limbs_dataset.first(tag: "A"), cut_mm: 700, sticks: 1)
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2026, tallied_on: Date.new(2026, 10, 1), alive: true, growth_mm: 900)
    shoot = elevation.branches.find { |each| each.tag == "A" }.sticks.first[:shoot]
    x, y, mx, my, tx, ty = numbers(shoot)
    metre = elevation.ground_y - elevation.staff_marks.find { |mark| mark[:text] == "1 m" }[:y]
    expect(Math.hypot(mx - x, my - y) + Math.hypot(tx - mx, ty - my)).to be_within(2).of(0.9 * metre)
  end

  it "put the year's windows and today where they fall" do
    window = Vestry::Drawings::YearBand::Window.new(station: "slip", name: "Slip", kind: "window", from: Date.new(2026, 4, 1), to: Date.new(2026, 4, 30))
    strip = svg(Vestry::Drawings::YearBand.new(here.season, Date.new(2026, 4, 16), [window]).svg)
    bar = strip.at_xpath("//*[local-name()='rect']")
    today = strip.at_xpath("//*[@class='today']")["d"][/M([\d.]+)/, 1].to_f
    expect(today).to be_between(bar["x"].to_f, bar["x"].to_f + bar["width"].to_f)
    expect(bar["x"].to_f).to be_within(1).of(1280 * 151 / 365.0)
  end
end
