# frozen_string_literal: true

# When wood is cut: asleep, and not so early that it is spent before its stubs can be set.
RSpec.describe Vestry::Records::WoodOrder, "when wood is cut" do
  let(:here) { orchard }
  let(:winter) { Date.new(2025, 12, 10) }

  def wanted(species)
    kind = variety(here, "Best #{species}", species: species)
    Vestry::Deeds::DecideLimb.call(limb(tree(here, species: species, number: here.trees_dataset.count + 1), "A"),
                                   { role: "work", technique: "bark", cut: 700.0, variety: kind.id, sticks: 2,
                                     season: 2026 }, by: "Orla", season: 2026)
    kind
  end

  def order(on = winter) = described_class.new(Vestry::Records::Orchard[here.id], 2026, on)

  def stirs = { "apple" => [Date.new(2024, 2, 20), Date.new(2025, 3, 1)], "walnut" => [Date.new(2025, 4, 3)] }

  it "is by kind: what keeps for half a winter is cut late, and still lives on its last sensible day" do
    apple, walnut = wanted("apple"), wanted("walnut")
    allow(told = order).to receive(:stirring).and_return(stirs)
    from = %w[apple walnut].to_h { |species| [species, told.window(species)[:from]] }
    last = here.last_days(winter).of_kind("walnut")
    # 150 days, of which the last 15 in the hundred are not worth a stub.
    expect(from).to eq("apple" => winter, "walnut" => last - 127)
    expect(told.windows.transform_values { |lines| lines.map { |line| line.variety.id } }.values)
      .to eq [[apple.id], [walnut.id]]
    expect(told.window[:from]).to eq winter
    expect(told.cutting_days(told.window("walnut"))).to all(be_between(from["walnut"], Date.new(2026, 4, 3)))
    ends = Vestry::Core::Wood::Spent.unmeasured_on("walnut", from["walnut"], here.rulebook)
    expect(ends).to eq last
  end

  it "is in the last days asleep where not even they suffice" do
    wanted("walnut")
    days = here.rulebook.value("reckoning.wood.cutting_days")
    early = Date.new(2026, 2, 1)
    allow(told = order).to receive(:stirring).and_return("walnut" => [early])
    expect(told.window("walnut").values_at(:from, :to, :by)).to eq [early - days, early, "weather"]
  end

  it "is by the latitude where no weather is known: later where bark opens late, and never while buds wake" do
    kinds = %w[apple walnut].to_h { |species| [species, wanted(species)] }
    until_on = lambda do |latitude|
      here.update(latitude: latitude)
      kinds.keys.to_h { |species| [species, order.window(species)[:to]] }
    end
    # Apple's bark opens on 14 April at 50 degrees and walnut's on 12 May, three days later for each degree; eight weeks
    # before that buds stir.
    expect(until_on[50]).to eq("apple" => Date.new(2026, 2, 20), "walnut" => Date.new(2026, 3, 17))
    expect(until_on[61]["apple"]).to eq Date.new(2026, 3, 22)
    expect(until_on[38]["apple"]).to eq Date.new(2026, 2, 20)
    expect(until_on[33]["apple"]).to eq Date.new(2026, 2, 8)
    band = Vestry::Records::YearWindows.of(Vestry::Records::Orchard[here.id], winter)
      .find { |each| each[:station] == "wood" }
    expect(band.values_at(:from, :to)).to eq order.window.values_at(:from, :to)
  end

  it "is by when an order is wanted, by what is asked for in it" do
    apple, walnut = wanted("apple"), wanted("walnut")
    Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: apple.id, season: 2026, sticks: 40,
                                        source: "Exchange", ordered_on: winter)
    allow(told = order).to receive(:stirring).and_return(stirs)
    nursery = Vestry::Records::NurseryOrder.new(here, told)
    expect([nursery.lines.map { |line| line.variety.id }, nursery.wanted_by]).to eq [[walnut.id], Date.new(2026, 4, 3)]
  end

  it "has woken by its own kind, and is cut by the day that comes next" do
    apple, walnut = wanted("apple"), wanted("walnut")
    on = lambda do |day|
      told = order(day)
      allow(told).to receive(:stirring).and_return(stirs)
      [told.woken?(apple), told.woken?(walnut), told.woken?, told.cut_until]
    end
    first, last = Date.new(2026, 2, 20), Date.new(2026, 4, 3)
    expect([on[first], on[first + 1], on[last], on[last + 1]])
      .to eq [[false, false, false, first], [true, false, false, last], [true, false, false, last],
              [true, true, true, last]]
  end
end
