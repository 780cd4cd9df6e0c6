# frozen_string_literal: true

require "nokogiri"

RSpec.describe "Drawings that are worked in" do
  let(:here) { orchard(wind_from_deg: 240) }
  let(:stock) { tree(here) }
  let(:one) { limb(stock, "A", girth_mm: 300, length_mm: 2000, fork_mm: 900, rise_deg: 30, bearing_deg: 90) }

  def svg(text) = Nokogiri::XML(text) { |config| config.strict }

  describe Vestry::Drawings::LimbRule do
    let!(:branch) { limb(stock, "A1", parent_id: one.id, fork_mm: 1000, girth_mm: 120, length_mm: 700) }
    def rule(cut: { feasible: false }, at: 500.0)
      described_class.new(Vestry::Records::Limb[one.id], cut: cut, at_mm: at, thick_mm: [95.0, 40.0])
    end

    it "lays everything that decides the cut to one scale from the fork" do
      expect([rule.at, rule.forks]).to eq [25.0, [{ at: 50.0, tag: "A1" }]]
      # 30 degrees of rise: half a metre of height for each metre out; sheep at 1.30, the hand at the orchard's reach.
      expect(rule.crossings.find { |line| line[:kind] == "browse" }[:at]).to be_within(0.1).of(40.0)
      expect(rule.marks.count { |mark| mark[:major] }).to eq 5
      expect(rule.marks.filter_map { |mark| mark[:text] }).to eq ["0", "0.5 m", "1 m", "1.5 m"]
    end

    it "writes what was planned and what lies beside it to either side" do
      planned = ->(was) do
        described_class.new(Vestry::Records::Limb[one.id], cut: { feasible: false }, at_mm: 300.0, was_mm: was,
                                                           thick_mm: [95.0, 40.0])
      end
      browse = ->(drawn) { drawn.crossings.find { |line| line[:kind] == "browse" }[:anchor] }
      # The sheep's line lies at 40.
      told = [700.0, 900.0, 1600.0].map { |was| [planned[was].was_anchor, browse[planned[was]]] }
      expect(told).to eq [%w[end start], %w[start end], %w[middle middle]]
      expect([rule.was, browse[rule]]).to eq [nil, "middle"]
    end

    it "shows the sound part without its gaps" do
      cut = { feasible: true, from_mm: 400.0, to_mm: 1600.0, gaps: [{ from_mm: 900.0, to_mm: 1100.0 }] }
      expect(rule(cut: cut).sound).to eq [[20.0, 25.0], [55.0, 25.0]]
      expect(rule.sound).to eq []
      expect { svg(rule(cut: cut).svg) }.not_to raise_error
    end
  end

  describe Vestry::Drawings::MethodBar do
    it "is as long as the stretch that suits, darker where it suits best" do
      bar = described_class.new("Rind", { works: [200.0, 1500.0], ideal: [400.0, 1000.0] }, length_mm: 2000.0,
                                                                                            at_mm: 500.0)
      expect([bar.works, bar.ideal, bar.at]).to eq [[10.0, 65.0], [20.0, 30.0], 25.0]
      expect(described_class.new("Rind", { works: nil, ideal: nil }, length_mm: 2000.0, at_mm: 1.0).label)
        .to eq "Rind: nowhere here"
    end
  end

  describe Vestry::Drawings::BenchStub do
    it "draws the stub six times its size while there is room, and its sticks as they were measured" do
      thin = described_class.new(one, stub_mm: 40.0, scion_mm: 8.0, faces: [0.0])
      thick = described_class.new(one, stub_mm: 120.0, scion_mm: 8.0, faces: [0.0])
      expect([thin.scale, thin.disc_radius, thick.bark_radius]).to eq [6.0, 24.0, described_class::MOST]
    end

    it "sets a disc on the rim at its face: upwards for none, to the right for ninety" do
      up, right = described_class.new(one, stub_mm: 50.0, scion_mm: 8.0, faces: [0.0, 90.0], labels: ["W2·1"]).discs
      expect([up[:x], right[:y]]).to all(be_within(0.01).of(described_class::MIDDLE))
      expect([up[:y] < described_class::MIDDLE, right[:x] > described_class::MIDDLE]).to eq [true, true]
      expect([up[:label], right[:label]]).to eq ["W2·1", "stick 2"]
      expect([up, right].map { |disc| disc[:spoken] })
        .to eq ["W2·1: on the upper side", "stick 2: 90 degrees right of the upper side"]
    end

    it "has wind on an upright stub alone" do
      one.update(rise_deg: 80)
      upright = described_class.new(Vestry::Records::Limb[one.id], stub_mm: 50.0, scion_mm: 8.0, faces: [0.0])
      expect(upright.wind).to be_a String
      one.update(rise_deg: 30)
      expect(described_class.new(Vestry::Records::Limb[one.id], stub_mm: 50.0, scion_mm: 8.0, faces: [0.0]).wind)
        .to be_nil
    end
  end

  describe Vestry::Drawings::GraftUnion do
    let(:made) { graft(one, sticks: 3, stub_mm: 60, scion_mm: 8) }

    it "has every part and every state that a visit's form knows" do
      care = Vestry::Core::Tend::Care
      expect(described_class::PARTS).to eq(
        "buds" => care::BUDS, "callus" => care::CALLUS, "seal" => care::SEALS, "wrap" => care::WRAPS,
        "stock_shoots" => care::STOCK_SHOOTS, "pests" => care::PESTS
      )
    end

    it "stands as it was seen last, with the sticks that are dead" do
      union = described_class.new(made, seen: { "seal" => "cracked", "buds" => nil }, shoot_mm: 260.0, dead: [2])
      expect([union.last("seal"), union.last("buds")]).to eq %w[cracked asleep]
      expect(union.sticks.map { |stick| stick[:dead] }).to eq [false, true, false]
      expect(union.ruler_mm).to eq 600
      expect(svg(union.svg).xpath("//*[@data-part]").map { |part| part["data-part"] })
        .to match_array [*described_class::PARTS.keys, "shoot"]
    end

    it "of a rooted plant stands on its root until it is cut off, under the stock's head until that is" do
      joined = graft(limb(tree(here), "J", girth_mm: 90), technique: "approach", sticks: 1, stub_mm: 28, cut_mm: 500)
      words = lambda do |**told|
        svg(described_class.new(joined, **told).svg).xpath("//*[@class='of']").map(&:text).grep(/donor/).first
      end
      ends = -> { svg(described_class.new(joined).svg).at_xpath("//*[@class='stub']")["d"][/L([\d.]+) (30|240)/, 2] }
      expect([words[], words[parted: true]]).to eq ["the donor, rooted", "the donor, cut off"]
      expect(ends.call).to eq "30"
      allow(joined).to receive(:head_off?).and_return(true)
      expect(ends.call).to eq "240"
    end

    it "measures a shoot up a scale that is read at sight, in one unit" do
      texts = lambda do |units, shoot_mm|
        made.orchard.units = units
        described_class.new(made, shoot_mm: shoot_mm).ruler_marks.map { |mark| mark[:text] }
      end
      expect(texts["metric", 260.0]).to eq ["0", "150 mm", "300 mm", "450 mm", "600 mm"]
      expect(texts["metric", 1120.0]).to eq ["0", "0.75 m", "1.5 m", "2.25 m", "3 m"]
      expect(texts["imperial", 260.0]).to eq ["0", "6 in", "12 in", "18 in", "24 in"]
      expect(texts["imperial", 600.0]).to eq ["0", "1 ft", "2 ft", "3 ft", "4 ft"]
      expect(texts["imperial", nil]).to eq ["0", "2 in", "4 in", "6 in", "8 in"]
    end

    it "draws a bud in the side of a shoot whose head stands on, its tie and no seal" do
      bud = graft(limb(one.tree, "Z"), technique: "chip-bud", sticks: 1, stub_mm: 12, scion_mm: 7)
      drawn = svg(described_class.new(bud, seen: { "buds" => "swelling" }).svg)
      expect(drawn.xpath("//*[@data-part]").map { |part| part["data-part"] })
        .to match_array [*described_class::PARTS.keys - %w[seal], "shoot"]
      expect(drawn.at_xpath("//*[@data-part='wrap']")["data-words"]).to eq "tie"
      expect(drawn.xpath("//*[@data-stick]").size).to eq 1
      # Its stem runs out of the picture at both ends; a stub's ends below its sticks.
      stems = [bud, made].map do |each|
        svg(described_class.new(each).svg).at_xpath("//*[contains(@class, 'stub')]")["d"]
      end
      expect(stems).to match [/ 505L\S+ 30M/, / 505V338/]
      states = drawn.xpath("//*[@data-part='buds']//*[@data-state]").map { |each| each["data-state"] }.uniq
      expect(states).to match_array described_class::PARTS["buds"]
    end

    it "draws a stick in the side of a limb whose head stands on, with every part to be pressed" do
      side = graft(limb(one.tree, "Y"), technique: "side-bark", sticks: 1, stub_mm: 73)
      drawn = svg(described_class.new(side, seen: { "buds" => "leafing" }).svg)
      expect(drawn.xpath("//*[@data-part]").map { |part| part["data-part"] })
        .to match_array [*described_class::PARTS.keys, "shoot"]
      expect(drawn.at_xpath("//*[contains(@class, 'stub')]")["d"]).to match(/ 505L\S+ 30M/)
      expect(drawn.at_xpath("//*[@data-part='wrap']")["data-words"]).to eq "tape"
      states = ->(part) { drawn.xpath("//*[@data-part='#{part}']//*[@data-state]").flat_map { |each|
        each["data-state"].split } }
      described_class::PARTS.slice("buds", "callus", "seal", "wrap").each do |part, all|
        expect([part, states[part].uniq]).to match [part, match_array(all)]
      end
    end

    it "draws an approach graft as the donor's stem, on its own foot, against the stem it is joined to" do
      joined = graft(limb(one.tree, "Z"), technique: "approach", sticks: 1, stub_mm: 12, donor: "A potted one")
      drawn = svg(described_class.new(joined, seen: { "callus" => "full" }).svg)
      expect(drawn.xpath("//*[@data-part]").map { |part| part["data-part"] })
        .to match_array [*described_class::PARTS.keys, "shoot"]
      expect(drawn.at_xpath("//*[@data-stick]")["aria-label"]).to include "The donor's stem"
      # The donor stands on the ground beside it, and meets it face to face.
      stem = drawn.at_xpath("//*[contains(@class, 'stick')]/*[contains(@class, 'stick')]")["d"]
      xs = stem.scan(/(-?[\d.]+) (-?[\d.]+)/).map { |pair| pair.map(&:to_f) }
      right = described_class.new(joined).right
      expect([xs.find { |_, y| y > 500 }[0] > right + 30, xs.map(&:first).min]).to eq [true, right]
    end

    it "knows for every rule of aftercare where to look" do
      expect(described_class.looked_at("slit-tape")).to eq %w[wrap]
      rules = Vestry::Core::Rulebook.shipped.book("care")["rules"].keys
      expect(described_class::LOOKS.keys - rules).to eq []
    end
  end

  describe Vestry::Drawings::GraftStrip do
    def event(day, words, kind = "ahead")
      described_class::Event.new(on: Date.new(2026, 4, 1) + day, words: words, kind: kind)
    end

    def strip(*events)
      described_class.new(Date.new(2026, 4, 1), Date.new(2026, 7, 10), today: Date.new(2026, 5, 1), events: events)
    end

    it "names what finds room, on both sides, and leaves the others as dots" do
      marks = strip(event(0, "grafted"), event(1, "looked"), event(2, "sealed"), event(50, "light")).marks
      expect(marks.map { |mark| mark[:side] }).to eq [:above, :below, nil, :above]
      expect(marks.map { |mark| mark[:at] }).to eq [0.0, 1.0, 2.0, 50.0]
      expect(marks.first[:words]).to eq "grafted 1 Apr"
    end

    it "leaves out what lies beyond its ends" do
      expect(strip(event(-5, "before"), event(300, "after")).marks).to eq []
    end
  end

  describe Vestry::Drawings::CrewLane do
    it "lays blocks one behind another, as long as their minutes" do
      lane = described_class.new([{ name: "A6 A", minutes: 30, settled: true }, { name: "B5 E", minutes: 5 }],
                                 capacity: 150, longest: 300, title: "Tue")
      expect(lane.blocks.map { |block| block.values_at(:at, :wide, :name) })
        .to eq [[0.0, 10.0, "A6 A"], [10.0, 1.67, nil]]
      expect(lane.open).to eq 50.0
      expect(lane.label).to eq "Tue: A6 A 30 minutes, B5 E 5 minutes"
    end

    it "names a block where its name has room, at a desk and on a phone" do
      blocks = [["A6 A", 24], ["E3 W4", 24], ["E3 W4", 33], ["B1", 39], ["B1", 42]]
        .map { |name, minutes| { name: name, minutes: minutes } }
      lane = described_class.new(blocks, capacity: 900, longest: 900, title: "Tue")
      expect(lane.blocks.map { |block| block.values_at(:name, :tight) })
        .to eq [[nil, true], [nil, true], ["E3 W4", true], ["B1", true], ["B1", false]]
    end
  end
end
