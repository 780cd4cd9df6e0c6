# frozen_string_literal: true

require "nokogiri"

RSpec.describe "The drawings of wounds, stubs and rates" do
  def svg(text) = Nokogiri::XML(text) { |config| config.strict }.remove_namespaces!
  def points(path) = path.scan(/[ML](-?[\d.]+) (-?[\d.]+)/).map { |x, y| [x.to_f, y.to_f] }
  def margins(*rows) = rows.map { |at, low, high| { bearing_deg: at.to_f, low_mm: low.to_f, high_mm: high.to_f } }

  TWO = [[0, 100, 100], [40, 50, 200], [80, 100, 100], [180, 100, 100], [230, 80, 240], [300, 100, 100]].freeze

  def places(rows, girth)
    Vestry::Core::Repair::Bridge.call(girth_mm: girth.to_f, wound: rows)[:scions].each_with_index.map do |each, i|
      each.merge(number: i + 1, row: nil, fate: nil)
    end
  end

  describe Vestry::Drawings::Unrolled do
    def unrolled(rows, girth: 500, **more)
      described_class.new("C10", girth: girth.to_f, margins: rows, places: places(rows, girth), **more)
    end

    it "is to scale, the same both ways, at either width" do
      [described_class::WIDE, described_class::NARROW].each do |width|
        drawing = unrolled(margins(*TWO), width: width)
        expect((drawing.x(180) - drawing.x(0)) / drawing.scale).to be_within(1e-6).of(250)
        expect((drawing.y(0) - drawing.y(200)) / drawing.scale).to be_within(1e-6).of(200)
        expect(drawing.right).to be <= width
        expect(svg(drawing.svg).css("[x], [cx]").map { |each| (each["x"] || each["cx"]).to_f })
          .to all(be_between(0, width))
      end
    end

    it "is no taller than a page for a thin stem, and names what there is room for" do
      ring = margins([0, 150, 260], [90, 140, 300], [180, 120, 280], [270, 150, 250])
      [20, 80, 300].product([described_class::WIDE, described_class::NARROW], %w[metric imperial])
        .each do |girth, width, units|
        drawing = unrolled(ring, girth: girth, width: width, units: units)
        expect(drawing.height).to be <= width * described_class::TALLEST + 91
        expect((drawing.x(180) - drawing.x(0)) / drawing.scale).to be_within(1e-6).of(girth / 2.0)
        expect(drawing.ruler[:x]).to be_between(0, drawing.right - 20)
      end
      names = ->(girth) { unrolled(ring, girth: girth).compass.filter_map { |mark| mark[:name] } }
      expect([names[80], names[300].size]).to eq [%w[N E S W N], 9]
    end

    it "stands a stock in the soil and up to its seat above the wound, and within the sheet" do
      ring = margins([0, 150, 260], [180, 120, 280])
      stock = { number: 1, bearing_deg: 90.0, gap_mm: 135.0, length_mm: 230.0, low_mm: 0.0, high_mm: 270.0, fate: nil,
                row: Struct.new(:set_on).new(World::TODAY), stock: true }
      drawing = described_class.new("A4", girth: 300.0, margins: ring, places: [stock])
      bar = drawing.bars.first
      expect([bar.text, bar.spoken]).to eq ["", "Stock 1 at 90 degrees, set, not looked at yet."]
      expect(bar.seats[1]).to be_between(drawing.soil, drawing.height - 44)
      expect(bar.seats[0]).to be_within(0.1).of(drawing.y(270 + 45))
    end

    it "shows each stretch by itself, and one across north in two pieces" do
      expect(unrolled(margins(*TWO)).openings.size).to eq 2
      across = unrolled(margins([60, 100, 100], [300, 100, 100], [0, 40, 240])).openings
      expect(across.size).to eq 2
      expect(points(across[0]).map(&:first).max).to be_within(0.1)
        .of(unrolled(margins([60, 100, 100], [300, 100, 100], [0, 40, 240])).right)
      ring = unrolled(margins([0, 50, 150], [180, 60, 200])).openings
      expect([ring.size, points(ring[0]).map(&:first).minmax.map(&:round)]).to eq [1, [62, 706]]
    end

    it "stands every opening's edge where the margin is" do
      drawing = unrolled(margins(*TWO))
      shape = Vestry::Core::Repair::WoundShape.new(margins(*TWO))
      edge = points(drawing.openings[1])
      expect(edge.size).to be > 40
      strayed = edge.map do |x, y|
        degree = (x - drawing.x(0)) / (drawing.x(1) - drawing.x(0))
        shape.margins(degree).map { |mm| (drawing.y(mm) - y).abs }.min
      end
      expect(strayed.max).to be < 0.6
    end

    it "goes below the soil where the wound does, and says all of it in words" do
      drawing = unrolled(margins([0, -60, 140], [120, -20, 160], [240, -60, 140]))
      expect(drawing.soil).to be < drawing.height - 60
      expect(drawing.heights.map { |mark| mark[:text] }).to include("soil", "-100 mm")
      expect(drawing.description).to include("100 per cent of the girth is bare", "Scion 1 at")
      expect(unrolled([]).description).to eq "No margin is measured yet."
      expect(svg(unrolled([]).svg).css("g.scion")).to be_empty
    end

    it "tells planned, set, living and dead scions apart by more than colour" do
      set = Struct.new(:set_on).new(Date.new(2026, 4, 20))
      rows = margins(*TWO)
      all = places(rows, 500)
      all[1] = all[1].merge(row: set)
      all[2] = all[2].merge(row: set, fate: "alive")
      all[3] = all[3].merge(row: set, fate: "dead")
      drawn = svg(described_class.new("C10", girth: 500.0, margins: rows, places: all).svg)
      expect(drawn.css("g.scion").map { |each| each["class"].split.last }.first(4)).to eq %w[planned set alive dead]
      expect(drawn.css("g.dead path.lost").size).to eq 1
      expect(drawn.root["aria-label"]).to include("Scion 4 at").and include("dead.")
    end

    it "measures in inches where the orchard does" do
      drawing = unrolled(margins(*TWO), units: "imperial")
      expect(drawing.heights.map { |mark| mark[:text] }).to include("soil", "4 in", "8 in")
      expect(drawing.ruler[:text]).to eq "4 in"
      expect(drawing.ruler[:width] / drawing.scale).to be_within(1e-6).of(101.6)
    end

    it "gives handles only where something may be moved" do
      expect(svg(unrolled(margins(*TWO)).svg).css(".grip")).to be_empty
      expect(svg(unrolled(margins(*TWO), handles: true).svg).css(".grip").map { |each| each["data-edge"] }.tally)
        .to eq("high" => 2, "low" => 2)
      expect(svg("<both>#{described_class.both('C10', girth: 500.0, margins: margins(*TWO))}</both>").css("svg")
        .map { |each| each["class"].split.last }).to eq %w[wide narrow]
    end
  end

  describe Vestry::Drawings::TrunkRound do
    def round(rows) = svg(described_class.new("C10", margins: rows, places: places(rows, 500)).svg)

    it "closes its ring with bark and bare stretches, and puts scions round it in order" do
      drawn = round(margins(*TWO))
      expect([drawn.css("path.bare").size, drawn.css("path.bark").size]).to eq [2, 2]
      expect(drawn.css("g.scion text").map(&:text)).to eq (1..places(margins(*TWO), 500).size).map(&:to_s)
      ring = round(margins([0, 50, 150], [180, 60, 200]))
      expect([ring.css("path.bare").size, ring.css("path.bark").size]).to eq [1, 0]
      whole = round([])
      expect([whole.css("path.bare").size, whole.css("path.bark").size]).to eq [0, 1]
    end
  end

  describe Vestry::Drawings::Rings do
    def rings(readings, rate: 6.0, ends: 2029)
      described_class.new("A1 A", stub_mm: 64.0, readings: readings, rate_mm: rate, ends: ends)
    end

    it "draws each measured wound to its stub's scale, and the ones to come ever smaller" do
      drawing = rings([{ year: 2025, a_mm: 54.0, b_mm: 50.0 }, { year: 2026, a_mm: 42.0, b_mm: 36.0 }])
      expect(drawing.seen.map { |ring| [ring[:rx], ring[:ry]] }).to eq [[84.375, 78.125], [65.625, 56.25]]
      expect(drawing.coming.map { |ring| ring[:rx] }).to eq(drawing.coming.map { |ring| ring[:rx] }.sort.reverse)
      expect(drawing.coming.map { |ring| ring[:year] }).to eq [2027, 2028]
      expect(drawing.coming.flat_map { |ring| ring.values_at(:rx, :ry) }).to all(be > 0)
      expect(drawing.description).to eq "open 42 mm by 36 mm in 2026, of a stub of 64 mm; shut in 2029"
    end

    it "foresees nothing of a wound that is shut, does not close, or was never measured" do
      expect(rings([{ year: 2026, a_mm: 0.0, b_mm: 0.0 }]).coming).to eq []
      expect(rings([{ year: 2026, a_mm: 60.0, b_mm: 60.0 }], rate: -1.0, ends: nil).coming).to eq []
      expect([rings([]).coming, rings([], ends: nil).description]).to eq [[], "not measured yet, of a stub of 64 mm"]
    end
  end

  describe Vestry::Drawings::Intervals do
    it "stands dots and ends where the shares are, and shows a few trials as less sure" do
      lines = [{ kind: "Rind graft", takes: 17, trials: 22, rate: 17 / 22.0, low: 0.5656, high: 0.8988 },
               { kind: "Inlay", takes: 1, trials: 1, rate: 1.0, low: 0.2, high: 1.0 },
               { kind: "None", takes: 0, trials: 0, rate: nil, low: 0.0, high: 1.0 }]
      drawing = described_class.new(lines, title: "What took")
      zero, all = drawing.marks.first[:at], drawing.marks.last[:at]
      row = drawing.rows.first
      # Within a hundredth of the width.
      expect((row[:at] - zero) / (all - zero)).to be_within(1e-3).of(17 / 22.0)
      expect([row[:low], row[:high]]).to match [be_within(0.1).of(zero + (all - zero) * 0.5656), be > row[:at]]
      expect(drawing.rows.map { |each| each[:faint] }).to eq [false, true, true]
      drawn = svg(drawing.svg)
      # A line and its two ends each.
      expect([drawn.css(".interval").size, drawn.css(".rate").size]).to eq [9, 2]
      expect(drawn.root["aria-label"]).to eq "What took. Rind graft: 17 of 22; Inlay: 1 of 1; None: 0 of 0"
    end
  end

  describe Vestry::Drawings::SafeCurve do
    def curve(week:, shoot: nil, units: "metric")
      described_class.new([[0.0, 0.0], [10.0, 500.0], [20.0, 800.0]], week: week, shoot_mm: shoot, units: units,
                          title: "Unbraced")
    end

    it "reads today's figure off its line, and says when the shoot is longer" do
      expect([curve(week: 5).safe_now, curve(week: 15).safe_now, curve(week: 0).safe_now, curve(week: 30).safe_now])
        .to eq [250.0, 650.0, 0.0, 800.0]
      expect([curve(week: 10, shoot: 501.0).too_long?, curve(week: 10, shoot: 499.0).too_long?,
              curve(week: 10).too_long?]).to match [true, false, be_falsy]
      drawn = svg(curve(week: 10, shoot: 700.0).svg)
      expect(drawn.css("circle.shoot.over").size).to eq 1
      expect(drawn.root["aria-label"]).to eq "Unbraced: safe to 500 mm today, the shoot, 700 mm"
    end

    it "counts fruits as it measures lengths" do
      fruits = described_class.new([[0.0, 0.0], [52.0, 3.0]], week: 30.0, units: "fruits", title: "Fruit")
      expect(fruits.spoken).to eq "could carry 1 today"
      expect(fruits.levels.map { |level| level[:text] }).to eq %w[0 1 2 3]
      expect(svg(fruits.svg).css(".shoot")).to be_empty
    end
  end

  it "has a picture of its own for everything a visit may see" do
    seen = { buds: %w[asleep swelling leafing dead], callus: %w[none some full], seal: %w[sound cracked gone],
             wrap: %w[sound loose biting], stock_shoots: %w[none some many], pests: %w[none aphids caterpillars other] }
    seen.each do |kind, states|
      drawn = states.map { |state| svg(Vestry::Drawings::VisitMark.new(kind, state).svg).inner_html }
      expect([kind, drawn.uniq.size]).to eq [kind, states.size]
    end
    drawn = ->(**facts) { svg(Vestry::Drawings::ScionStock.new(faces: [-45.0, 45.0], **facts).svg) }
    expect(drawn[].css("text").map(&:text)).to include("keep", "rub off")
    many = drawn[seen: "many", dead: [2], nurse: "B"]
    counts = ["path.bad", "path.stick.dead", "path.guessed"].map { |which| many.css(which).size }
    expect(counts).to eq [11, 1, 0]
    expect(many.css("text").map(&:text)).to include("B, nurse", "its shoots stay")
    expect(drawn[seen: "none"].css("path.bad").size).to eq 0
    failed = drawn[seen: "some", verdict: "keep"]
    expect([failed.css("path.shoot").size, failed.css("path.stock").size]).to eq [0, 2]
    expect(failed.css("text").map(&:text)).to include("keep two or three")
    leave = drawn[seen: "some", verdict: "leave"]
    expect(leave.css("path.bad").size).to eq 0
    expect(leave.css("text").map(&:text)).to include("leave until it has taken")
  end

  it "stands what was set into a side in that side, under its head while that is on" do
    drawn = ->(**facts) { svg(Vestry::Drawings::ScionStock.new(faces: [0.0], **facts).svg) }
    words = ->(picture) { picture.css("text").map { |text| text.text.split.join(" ") } }
    asleep = drawn[kind: "bud", head: true, grows: false, verdict: "leave"]
    expect(words[asleep]).to include("bud: keep", "its head", "stays on", "leave until it grows")
    expect([asleep.css("path.bad").size, asleep.css("path.shoot:not(.stock)").size, asleep.css("path.wax").size])
      .to eq [0, 0, 0]
    grows = drawn[kind: "bud", head: false, verdict: "rub"]
    expect(words[grows] & ["its head", "stays on", "rub off"]).to eq ["rub off"]
    expect(grows.css("path.shoot").size).to eq 1
    expect(drawn[kind: "bud", verdict: "keep"].css("path.stick.dead").size).to eq 2
    expect(words[drawn[kind: "approach", head: true, grows: false, verdict: "leave"]])
      .to include("plant: keep", "leave until its donor is off")
    expect(words[drawn[kind: "side", head: true]]).to include("stick: keep", "rub off")
  end
end
