# frozen_string_literal: true

RSpec.describe Vestry::Core::Survey::Figure do
  def figure(*limbs)
    described_class.new(trunk: { height_mm: 1400, base_mm: 150, top_mm: 120 }, limbs: limbs)
  end

  def limb(id, **facts)
    { id: id, parent: nil, fork_mm: 1000, bearing_deg: 90, rise_deg: 30, length_mm: 2000, diameter_mm: 60 }.merge(facts)
  end

  it "draws a limb as thick further out as it was measured there, else by the taper of most" do
    taper = Vestry::Core::Rulebook.shipped.value("reckoning.cut.taper")
    placed = figure(limb("A", tip_mm: nil), limb("B", tip_mm: 58.0)).limbs
    expect(placed.map { |each| [0, 1000, 2000].map { |mm| each.thickness(mm) } })
      .to match [[60.0, be_within(1e-9).of(60 - 30 * taper), be_within(1e-9).of(60 * (1 - taper))], [60.0, 59.0, 58.0]]
  end

  it "ends a limb where trigonometry says" do
    tip = figure(limb("A")).limb("A").tip
    expect(tip.map { |v| v.round(6) }).to eq [(2000 * Math.cos(Math::PI / 6)).round(6), 0.0, 2000.0]
  end

  it "starts a side branch on its parent" do
    drawn = figure(limb("A1", parent: "A", fork_mm: 1000, bearing_deg: 0), limb("A"))
    expect(drawn.limb("A1").base.map { |v| v.round(6) }).to eq(drawn.limb("A").at(1000).map { |v| v.round(6) })
  end

  it "draws nothing below the ground" do
    PropCheck.forall(PropCheck::Generators.choose(-90..90)) do |rise|
      expect(figure(limb("A", rise_deg: rise, length_mm: 5000)).limb("A").tip[2]).to be >= 0
    end
  end

  it "comes home after eight turns, and keeps every distance on the way" do
    point = [820.0, -310.0, 1500.0]
    seen = (0..8).map { |turn| described_class.seen_from(point, turn * 45) }
    expect(seen.last.map { |v| v.round(6) }).to eq(seen.first.map { |v| v.round(6) })
    expect(seen.map { |x, _, depth| Math.hypot(x, depth).round(6) }.uniq.size).to eq 1
  end

  it "shows the east to the right of someone standing in the south" do
    expect(described_class.seen_from([1000.0, 0.0, 0.0], 180).first).to be_within(1e-6).of(1000)
  end

  it "refuses limbs that grow from each other in a ring" do
    expect { figure(limb("A", parent: "B"), limb("B", parent: "A")) }.to raise_error(Vestry::Core::BadInput, /ring/)
  end

  it "hangs tags that do not cover each other" do
    anchors = (0...8).map { |i| { id: i, x: 200.0 + i * 3, y: 200.0 + i % 2, dx: 1.0, dy: 0.0 } }
    placed = Vestry::Core::Survey::Tags.place(anchors, size: [26.0, 18.0], box: [0.0, 0.0, 600.0, 400.0]).values
    placed.combination(2) { |(x, y), (u, v)| expect((x - u).abs >= 26 || (y - v).abs >= 18).to be true }
  end

  it "hangs a tag straight out and near where nothing is in its way, beside others of its row and of its column" do
    [[[200.0, 200.0], [260.0, 200.0]], [[200.0, 200.0], [200.0, 240.0]]].each do |points|
      anchors = points.each_with_index.map { |(x, y), id| { id: id, x: x, y: y, dx: 1.0, dy: 0.0 } }
      placed = Vestry::Core::Survey::Tags.place(anchors, size: [26.0, 18.0], box: [0.0, 0.0, 600.0, 400.0])
      points.each_with_index do |(x, y), id|
        expect(placed[id]).to match [be_within(1e-6).of(x + Math.hypot(26, 18) * 0.75), be_within(1e-6).of(y)]
      end
    end
  end
end
