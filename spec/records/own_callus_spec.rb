# frozen_string_literal: true

RSpec.describe Vestry::Records::OwnCallus do
  let(:here) { orchard }

  # Days of one warmth, 20 °C, at which a day is one unit for an apple.
  before do
    Vestry::DB[:weather_days].multi_insert([2023, 2024, 2025, 2026].flat_map do |year|
      (Date.new(year, 4, 1)..Date.new(year, 6, 30)).map do |day|
        { orchard_id: here.id, day: day, min_c: 20, max_c: 20 }
      end
    end)
  end

  def seen(year, none:, some:)
    made = graft(limb(tree(here), "A"), grafted_on: Date.new(year, 4, 20))
    { none => "none", some => "some" }.each do |after, callus|
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: made.grafted_on + after,
                                    callus: callus)
    end
    made
  end

  def figures(on = Date.new(2026, 5, 18)) = described_class.new(here, on).figures

  it "learns from callus seen between two near visits of former seasons, and nothing from this one" do
    seen(2024, none: 13, some: 15)
    seen(2025, none: 12, some: 16)
    seen(2025, none: 2, some: 14)
    seen(2026, none: 13, some: 15)
    # 14 and 14, with the book's 10 as six sights; the visits twelve days apart say too little.
    expect(figures["apple"]).to include(seen: 2, own: 11.0, used: true)
    expect(figures(Date.new(2024, 5, 18))).to eq({})
  end

  it "learns nothing where a day of the weather is missing on the way" do
    seen(2024, none: 13, some: 15)
    seen(2025, none: 13, some: 15)
    expect(figures["apple"]).to include(seen: 2)
    Vestry::DB[:weather_days].where(day: Date.new(2025, 5, 4)).delete
    expect(figures["apple"]).to include(seen: 1)
  end

  it "moves the day a union has knit here, on every page the same, and not where the steward said another" do
    2.times { |n| 3.times { seen(2024 + n, none: 15, some: 17) } }
    made = graft(limb(tree(here), "A"), grafted_on: Date.new(2026, 4, 20))
    today = Date.new(2026, 5, 18)
    # Six sights of 16 with the book's 10: thirteen days of warmth, and the thirteenth is 2 May.
    expect(Vestry::Records::CoreInputs.care(made, today)[:knit_on]).to eq Date.new(2026, 5, 2)
    expect(Vestry::Records::GraftReport.new(made, today).care[:knit_on]).to eq Date.new(2026, 5, 2)
    Vestry::Records::CareSchedule.refresh(here, today)
    expect(Vestry::DB[:care_states].where(graft_id: made.id).get(:knit_on)).to eq Date.new(2026, 5, 2)
    here.update(overrides: Sequel.pg_jsonb({ "species.apple.callus_units" => { "value" => 10, "why" => "the book" } }))
    fresh = Vestry::Records::Graft[made.id]
    expect(Vestry::Records::CoreInputs.care(fresh, today)[:knit_on]).to eq Date.new(2026, 4, 29)
  end
end
