# frozen_string_literal: true

RSpec.describe Vestry::Records::VarietyFit do
  let(:here) { orchard }
  let(:kind) do
    variety(here, bloom_from: "05-05", bloom_to: "05-18", harvest_from: "10-01", harvest_to: "10-20", vigour: "strong")
  end
  let(:other) do
    variety(here, "Evensong", bloom_from: "05-15", bloom_to: "05-25", harvest_from: "11-20", harvest_to: "01-10",
            vigour: "weak", pollen: "good")
  end
  let(:standing) { tree(here, map_x: 0, map_y: 0) }

  def line(of = kind) = described_class.new(here, [standing], World::TODAY).line(of)

  it "knows no overlap of two blooms where one has no end" do
    open_end = variety(here, "Open", bloom_from: "05-10")
    expect([[kind, other], [kind, open_end], [open_end, kind]].map { |pair| described_class.overlap(*pair) })
      .to eq [4, nil, nil]
  end

  it "finds partners within reach and none beyond it" do
    expect(line.partners).to eq []
    far = tree(here, variety_id: other.id, map_x: 41, map_y: 0)
    expect(line.partners).to eq []
    far.update(map_x: 40)
    expect(line.partners.map(&:metres)).to eq [40.0]
    far.update(map_x: 39)
    expect(line.partners.map { |each| [each.variety.name, each.days, each.metres] }).to eq [["Evensong", 4, 39.0]]
    other.update(pollen: "none")
    expect(line.partners).to eq []
  end

  it "counts what is grafted on the tree itself as a partner, and compares growth with it" do
    graft(limb(standing), variety_id: other.id)
    expect(line.partners.first.metres).to eq 0.0
    expect(line.beside).to eq [{ code: "beside_stronger", other: "Evensong" }]
    expect(line(other).beside).to eq []
  end

  it "counts no graft that was lost, or was worked over, as a partner" do
    stub = limb(standing)
    made = graft(stub, variety_id: other.id, grafted_on: Date.new(2025, 4, 20))
    names = -> { line.partners.map { |each| each.variety.name } }
    expect(names.call).to eq ["Evensong"]
    lost = Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, tallied_on: Date.new(2025, 10, 20),
                                         season: 2025, alive: false)
    expect([names.call, line.beside]).to eq [[], []]
    lost.destroy
    third = variety(here, "Amber", bloom_from: "05-05", bloom_to: "05-18", pollen: "good")
    graft(stub, variety_id: third.id, grafted_on: Date.new(2026, 4, 20))
    expect(names.call).to eq ["Amber"]
    stub.update(gone_on: World::TODAY)
    expect(names.call).to eq []
  end

  it "counts five varieties that are planned together on one tree for each other" do
    kinds = Array.new(5) { |i| variety(here, "Kind #{i}", bloom_from: "05-05", bloom_to: "05-18", pollen: "good") }
    kinds.each_with_index do |one, i|
      branch = limb(standing, (65 + i).chr, bearing_deg: 72 * i)
      Vestry::Deeds::DecideLimb.call(branch, { role: "work", technique: "rind", cut: 700.0, practice: "single",
                                               variety: one.id }, by: "Orla", season: 2027)
    end
    found = kinds.map { |one| line(one).partners.map { |each| each.variety.name } }
    expect(found.map(&:size)).to eq [4] * 5
    expect(found.first).to match_array(kinds.drop(1).map(&:name))
  end

  it "counts months of picking, over New Year too" do
    expect(described_class.months(other)).to eq [11, 12, 1]
    graft(limb(standing), variety_id: other.id)
    expect([line.months, line.adds]).to eq [[10], [10]]
  end

  it "says how it lasts on the worst of the stocks it would stand on" do
    pear = tree(here, species: "pear")
    outlook = described_class.new(here, [standing, pear], World::TODAY)
    expect(outlook.line(kind).compatibility["value"]).to eq "doubtful"
    expect(line.compatibility["value"]).to eq "good"
  end

  it "reckons frost from the past springs kept here, and none without any" do
    expect(line.frost).to be_nil
    (2020..2025).each do |year|
      (Date.new(year, 2, 1)..Date.new(year, 7, 1)).each do |day|
        cold = year == 2023 && day == Date.new(year, 5, 10) ? -3.0 : 5.0
        Vestry::DB[:weather_days].insert(orchard_id: here.id, day: day, min_c: cold, max_c: 15.0)
      end
    end
    here.refresh
    frost = line.frost
    expect(frost[:years].size).to eq 6
    expect(frost[:years].map { |year| year[:loss] > 0.01 }).to eq [false, false, false, true, false, false]
    expect(frost[:years][3][:coldest_c]).to eq(-3.0)
  end

  it "sees no weather after today, nor another orchard's" do
    Vestry::DB[:weather_days].insert(orchard_id: orchard.id, day: Date.new(2026, 5, 1), min_c: 1, max_c: 9)
    Vestry::DB[:weather_days].insert(orchard_id: here.id, day: Date.new(2026, 5, 19), min_c: 1, max_c: 9)
    expect(Vestry::Records::SiteWeather.new(here, World::TODAY).any?).to be false
    expect(Vestry::Records::SiteWeather.new(here, World::TODAY.next_day).any?).to be true
  end
end
