# frozen_string_literal: true

require "nokogiri"

RSpec.describe "The curves and small drawings" do
  def svg(text) = Nokogiri::XML(text) { |config| config.strict }.remove_namespaces!
  def points(path) = path.scan(/[ML](-?[\d.]+) (-?[\d.]+)/).map { |x, y| [x.to_f, y.to_f] }

  describe Vestry::Drawings::Decade do
    let(:projection) do
      Vestry::Core::Plan::Projection.reckon({ plans: [{ name: "p",
                                                        work: [{ id: 1, share: 0.4, season: 0, take: 1.0 },
                                                               { id: 2, share: 0.4, season: 2, take: 1.0 }] }],
                                                               measured: [{ season: 1, canopy: 0.7 }] })[:plans].first
    end
    let(:drawing) { described_class.new(projection, first: 2026, title: "Two seasons") }

    it "stands the crop where its share says, between nought and all" do
      crop = points(drawing.crop)
      expect(crop.size).to eq 10
      top, floor = drawing.levels.last[:y], drawing.levels.first[:y]
      expect(crop.first[1]).to be_within(0.1).of(floor - (floor - top) * 0.6)
      expect(crop.map(&:last)).to all(be_between(top - 20, floor))
    end

    it "marks each season that takes something, and what was measured" do
      expect(drawing.cuts.map { |cut| cut[:text] }).to eq ["40 % off", "40 % off"]
      expect(drawing.seen.size).to eq 1
      expect(svg(drawing.svg).root["aria-label"]).to include("Two seasons: 2026: 61 % of the head")
    end
  end

  describe Vestry::Drawings::Fan do
    let(:today) { Date.new(2026, 3, 1) }
    let(:paths) do
      so_far = (0..28).map { |i| [Date.new(2026, 2, 1) + i, i.to_f] }
      { so_far: so_far, ahead: [2, 4].map { |a_day| (1..60).map { |i| [today + i, 28.0 + i * a_day] } } }
    end

    def fan(units: "metric", from: Date.new(2026, 2, 1), **told)
      described_class.new(paths, { threshold_dd: 120.0, accumulated_dd: 28.0, reached_on: nil, p10: today + 23,
                                   p50: today + 40, p90: today + 46 }.merge(told), today: today,
                                   biofix: from, units: units, closes_on: Date.new(2026, 6, 5), name: "Apple")
    end

    it "spans the forecast's dates, in order, with a ray for each past spring" do
      drawing = fan
      expect(drawing.rays.size).to eq 2
      expect(drawing.span[:words].map { |mark| mark[:x] }).to eq(drawing.span[:words].map { |mark| mark[:x] }.sort)
      expect(drawing.span[:x]).to be > drawing.today_x
      expect(drawing.description).to include("28 of 120 degree-days", "as likely as not by 10 April")
      svg(drawing.svg)
    end

    it "marks warmth in degrees of its own thermometer, where it says the threshold" do
      marks = %w[metric imperial].to_h do |units|
        drawing = fan(units: units)
        [units, drawing.levels.to_h { |level| [level[:text], level[:y].round(1)] }
          .merge(drawing.threshold_words[/\d+/] => drawing.threshold_y.round(1))]
      end
      expect(marks["metric"].keys).to eq %w[0 50 100 150 120]
      expect(marks["imperial"].keys).to eq %w[0 50 100 150 200 250 216]
      # 90 degrees of one are 50 of the other.
      floor, fifty = marks["metric"].values_at("0", "50")
      expect(marks["imperial"]["100"]).to be_within(0.2).of(floor - (floor - fifty) / 0.9)
      expect(marks["imperial"]["216"]).to eq marks["metric"]["120"]
    end

    it "has no line for today before the spring that it draws" do
      expect(svg(fan.svg).css("path.today").size).to eq 1
      ahead = fan(from: today + 10)
      expect([ahead.today_x, svg(ahead.svg).css("path.today").size, ahead.svg.include?("today")]).to eq [nil, 0, false]
    end

    it "crosses the threshold where a spring gets there" do
      ray = points(fan.rays.last)
      day_23 = fan.span[:x]
      before, after = ray.partition { |x, _| x < day_23 - 0.2 }
      expect(before.last[1]).to be > fan.threshold_y
      expect(after.first[1]).to be <= fan.threshold_y + 0.2
    end

    it "shows what has come in place of what is to come" do
      drawing = fan(reached_on: today - 2, p10: nil, p50: nil, p90: nil)
      expect([drawing.rays, drawing.span]).to eq [[], nil]
      expect(drawing.reached[:text]).to eq "slips since 27 Feb"
      expect(svg(drawing.svg).at_css("circle.reached")).not_to be_nil
    end
  end

  describe Vestry::Drawings::StoreCurve do
    let(:readings) do
      (0..99).map { |i| { at: Time.utc(2026, 2, 1) + i * 10_800, celsius: i.between?(40, 49) ? 9.0 : 1.0 } }
    end

    def curve(list = readings, units: "metric")
      described_class.new(list, warm_c: 4.5, frozen_c: -2.0, units: units, title: "Fridge")
    end

    it "marks the one stretch in which buds would wake, as long as it lasted" do
      warm = curve.warm
      expect(warm.size).to eq 1
      expect(warm.first[:width]).to be_within(0.5).of((curve.right - curve.left) * 10 / 99.0)
    end

    it "keeps the coldest and warmest when it thins many readings" do
      many = Array.new(5000) { |i| { at: Time.utc(2026, 1, 1) + i * 600, celsius: i == 2500 ? 14.0 : 1.0 } }
      thin = points(curve(many).line)
      expect(thin.size).to be < 1300
      expect(thin.map(&:last).min).to be_within(0.2).of(points(curve(many).line).map(&:last).min)
      expect(thin.count { |_, y| y < curve(many).warm_y }).to be >= 1
    end

    it "has fewer days beneath it on a phone, and the same line" do
      desk, phone = Nokogiri::HTML5.fragment(
        described_class.both(readings, warm_c: 4.5, frozen_c: -2.0, units: "metric", title: "Fridge")
      ).css("svg")
      expect([desk, phone].map { |each| [each["class"].split.last, each["viewBox"].split[2]] })
        .to eq [%w[wide 860], %w[narrow 358]]
      days = [desk, phone].map { |each| each.css("text[text-anchor=middle]").map(&:text) }
      expect(days).to eq [["1 Feb", "3 Feb", "5 Feb", "7 Feb", "9 Feb", "11 Feb", "13 Feb"], ["1 Feb", "8 Feb"]]
      expect(points(phone.at_css(".line")["d"]).map(&:last)).to eq(points(desk.at_css(".line")["d"]).map(&:last))
    end

    it "speaks the orchard's units, and says when there is nothing" do
      expect(curve(units: "imperial").warm_words).to eq "above 40 °F buds wake"
      expect(curve([]).spoken).to eq "no readings"
      svg(curve.svg)
    end
  end

  describe Vestry::Drawings::VarietyYear do
    let(:here) { orchard }

    it "begins where the working year does, and breaks a picking that runs over its end" do
      late = variety(here, "Evensong", bloom_from: "05-08", bloom_to: "05-22", harvest_from: "10-18",
                     harvest_to: "11-05")
      north = described_class.new([late], Vestry::Core::Season.new(southern: false))
      expect(north.months.first[:text]).to eq "Nov"
      expect(north.rows.first.bars.map(&:kind)).to eq %w[bloom harvest harvest]
      south = described_class.new([late], Vestry::Core::Season.new(southern: true))
      expect([south.months.first[:text], south.rows.first.bars.map(&:kind)]).to eq ["May", %w[bloom harvest]]
      expect(svg(north.svg).at_css("g[role=img]")["aria-label"]).to include("Evensong: blooms 05-08 to 05-22")
    end

    it "is drawn for a phone, too, with a letter for each month" do
      desk, phone = Nokogiri::HTML5.fragment(described_class.both([variety(here, bloom_from: "05-08",
        bloom_to: "05-22")], Vestry::Core::Season.new(southern: false))).css("svg")
      expect([desk, phone].map { |each| each["class"].split.last }).to eq %w[wide narrow]
      expect(phone.css("text").map(&:text).first(12).join).to eq "NDJFMAMJJASO"
      month = (358 - 138 - 6) / 12.0
      expect(phone.at_css("rect.bloom")["x"].to_f).to be_within(0.1).of(138 + (6 + 7 / 31.0) * month)
    end

    it "draws no bar for what is not written down" do
      expect(described_class.new([variety(here)], Vestry::Core::Season.new(southern: false)).rows.first.bars).to eq []
    end
  end

  describe Vestry::Drawings::Cuts do
    def cuts(technique, stub: 60.0, scion: 10.0)
      figures = Vestry::Core::Graft::Figures.of(technique, stub_mm: stub, scion_mm: scion, bark_mm: 2.0)
      sheet = Vestry::Core::Graft::Figures::IN_SIDE.include?(figures[:kind]) ? Vestry::Drawings::SideCuts :
        described_class
      sheet.new(technique, stub_mm: stub, scion_mm: scion, figures: figures, say: ->(mm) { "#{mm.round} mm" })
    end

    it "draws every method of which there is a right drawing, sound and to scale" do
      book = Vestry::Core::Rulebook.shipped
      drawn = book.stub_methods.select do |name|
        Vestry::Core::Graft::Figures::AT_END.include?(book.method_fact(name, "cuts"))
      end
      beside = book.stub_methods - drawn
      expect(beside).to match_array %w[side-bark tongued-side shield-bud chip-bud approach]
      drawings = beside.map { |technique| svg(cuts(technique, stub: 14.0, scion: 10.0).svg) }
      expect(drawings.map { |each| each.css("path").map { |path| path["d"] }.join }.uniq.size).to eq 5
      expect(drawings.map { |each| each.css("text").size }).to eq [4] * 5
      expect(drawings.map { |each| each.css("path").map { |path| path["d"] }.join }.join).not_to match(/NaN|Infinity/)
      drawn.each do |technique|
        drawing = cuts(technique, stub: 14.0, scion: 14.0)
        expect(svg(drawing.svg).root["aria-label"]).to match(/The cuts of the #{technique[/\w+/]}/)
        expect(drawing.foot - drawing.face_top).to be_within(0.01).of(drawing.px(drawing.figure(:face)))
      end
    end

    it "says when a stub is too wide for the sheet, and leaves a rind graft's face showing" do
      expect([cuts("rind").stub_cut?, cuts("rind", stub: 120.0).stub_cut?]).to eq [false, true]
      expect(cuts("rind").stub_top - cuts("rind").face_top).to be_within(0.01).of(cuts("rind").px(5))
      expect(cuts("bark").stub_top).to eq cuts("bark").face_top
    end
  end

  it "draws as many sticks as a stub takes, those wanting apart" do
    drawing = Vestry::Drawings::Fit.new(60.0, [9.0], wanted: 3, words: "Stub A1 A")
    expect(svg(drawing.svg).css("circle.there").size).to eq 1
    expect(svg(drawing.svg).css("circle.wanting").size).to eq 2
    ratio = drawing.sticks.first[:r] / drawing.stub_radius
    expect(ratio).to be_within(0.001).of(9 / 60.0)
  end

  it "draws each card, stage and mistake, with words for those who do not see them" do
    cards = Vestry::Drawings::WoodCard::NAMES.map { |name| svg(Vestry::Drawings::WoodCard.new(name).svg) }
    expect(cards.map { |card| card.root["aria-label"] }.uniq.size).to eq 5
    stages = Vestry::Records::PhenologySeen::STAGES.keys.map do |stage|
      svg(Vestry::Drawings::BudStage.new(stage).svg).to_s
    end
    expect(stages.uniq.size).to eq 6
    sheet = svg(Vestry::Drawings::BudStage.sheet(%w[dormant green]))
    expect(sheet.css("symbol.bud-stage").map { |each| each["id"] }).to eq %w[bud-dormant bud-green]
    expect(svg(Vestry::Drawings::BudStage.new("green").again).at_css("use")["href"]).to eq "#bud-green"
    mistakes = Vestry::Core::Rulebook.shipped.book("steps")["mistakes"].values.flatten
    drawn = mistakes.map { |words| Vestry::Drawings::Mistake.for(words) }
    expect(mistakes.zip(drawn).select { |_, each| each.nil? }).to eq []
    expect(drawn.map { |each| svg(each.svg).at_css("svg").inner_html }.uniq.size).to eq drawn.map(&:kind).uniq.size
    drawn.each { |each| expect(svg(each.svg).root["aria-label"]).to eq each.words }
    expect(Vestry::Drawings::Mistake.for("wrapped in a hurry")).to be_nil
  end
end
