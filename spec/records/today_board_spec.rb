# frozen_string_literal: true

RSpec.describe Vestry::Records::TodayBoard do
  let(:here) { demo }

  def board(on = World::TODAY) = described_class.new(here, on)
  def stations(on = World::TODAY) = board(on).matters.map(&:station)
  def front(words = { "first" => "one" }) = described_class.front(here, World::TODAY) { words }

  it "puts what is late before what is due, and what can wait last" do
    told = board.matters
    expect(told.first.station).to eq "tend"
    expect(told.map(&:urgency)).to eq told.map(&:urgency).sort
    expect(told.map { |matter| [matter.station, matter.urgency] }.sort)
      .to eq [["graft", 5], ["plan", 4], ["slip", 2], ["survey", 2], ["tend", 1], ["wood", 2]]
    expect(stations).not_to include("tally")
  end

  it "counts in autumn, and asks for trees where none stands" do
    expect(stations(Date.new(2026, 9, 20))).to include("tally")
    empty = orchard
    expect(described_class.new(empty, World::TODAY).matters.map(&:station)).to eq ["survey"]
  end

  it "leads from measured limbs to the first plan, and asks for no other where one was made" do
    begun = orchard
    one = limb(tree(begun))
    told = described_class.new(begun, World::TODAY).matters
    expect(told.map { |matter| [matter.station, matter.trees] }).to eq [["plan", [one.tree_id]]]
    limb(tree(begun), "A", bearing_deg: 10)
    Vestry::Deeds::DecideLimb.call(one, { role: "nurse" }, by: "Orla", season: 2026)
    expect(described_class.new(Vestry::Records::Orchard[begun.id], World::TODAY).matters).to eq []
  end

  it "marks the trees that a matter is about" do
    slip = board.matters.find { |matter| matter.station == "slip" }
    expect(Vestry::Records::Tree.where(id: slip.trees).map(&:label)).to contain_exactly("A6", "B5", "B6", "C1", "C2")
  end

  it "has no day to graft where no method of any kind is in its season" do
    fine = ->(place, day) do
      rows = (0..9).map { |i| { orchard_id: place.id, day: day + i, min_c: 9.0, max_c: 18.0, forecast: true } }
      Vestry::DB[:weather_days].where(orchard_id: place.id, day: day..(day + 9)).delete
      Vestry::DB[:weather_days].multi_insert(rows)
      place = Vestry::Records::Orchard[place.id]
      described_class.front(place, day) { { "first" => "one" } }.days.map(&:last).tally
    end
    south = orchard(latitude: -43.2, longitude: 172.0, time_zone: "UTC").tap { |place| tree(place) }
    expect(fine[south, Date.new(2026, 5, 18)].keys).to eq ["wait"]
    expect(fine[south, Date.new(2026, 9, 10)].keys).to include "good"
    expect(fine[here, Date.new(2026, 12, 20)].keys).to eq ["wait"]
  end

  it "is worked out once while nothing changes, and anew when something does" do
    Vestry::DB[:derived].where(orchard_id: here.id).delete
    expect(front.first).to eq "one"
    expect(front("first" => "two").first).to eq "one"
    here.trees_dataset.first(row: "B", number: 7).update(notes: "leans")
    fresh = Vestry::Records::Orchard[here.id]
    expect(described_class.front(fresh, World::TODAY) { { "first" => "two" } }.first).to eq "two"
  end
end
