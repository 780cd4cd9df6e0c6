# frozen_string_literal: true

# One graft is asked for its fate in Ruby, many in SQL: both must say the same.
RSpec.describe Vestry::Records::Fate, :database do
  let(:here) { orchard }
  let(:standing) { tree(here) }

  # A graft with what was said of it, drawn by chance.
  def history(chance, number)
    made = graft(limb(standing, "L#{number}"), grafted_on: Date.new(2021, 4, 1), **(chance.rand < 0.1 ? { lost_on: Date.new(2023, 6, 1), lost_cause: "blown-out" } : {}))
    days = Array.new(chance.rand(4)) { Date.new(2021, 5, 1) + chance.rand(1500) }.uniq
    days.each { |day| Vestry::Records::Observation.create(orchard_id: here.id, graft_id: made.id, seen_on: day, buds: [nil, "asleep", "leafing", "dead"].sample(random: chance), verdict: [nil, nil, "took", "wait", "failed"].sample(random: chance), seen_by: "Orla Finch", hidden_at: (Time.now if chance.rand < 0.1)) }
    (2021..2024).to_a.sample(chance.rand(3), random: chance).each { |year| Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: year, tallied_on: Date.new(year, 10, 4), alive: chance.rand < 0.6, tallied_by: "Orla Finch") }
    made
  end

  it "is the same for one graft and for many, whatever was said of them" do
    chance = Random.new(7)
    grafts = Array.new(150) { |i| history(chance, i) }
    told = described_class.beside(Vestry::DB[:grafts]).select_map([Sequel[:grafts][:id], described_class.lost.as(:lost), described_class.took.as(:took)]).to_h { |id, lost, took| [id, { lost: lost, took: took }] }
    grafts.each do |made|
      made = Vestry::Records::Graft[made.id]
      expect([made.id, told[made.id][:lost]]).to eq [made.id, made.fate == "lost"]
      expect([made.id, told[made.id][:took]]).to eq [made.id, true] if made.fate == "took"
    end
    expect(described_class.tally(:all) { Vestry::DB[:grafts] }).to eq(lost: told.values.count { |each| each[:lost] }, took: told.values.count { |each| each[:took] && !each[:lost] })
    expect(grafts.map { |made| made.refresh.fate }.uniq).to contain_exactly("lost", "took", "waiting")
  end

  it "hears nothing that came after the day" do
    made = graft(limb(standing), grafted_on: Date.new(2025, 4, 1), lost_on: Date.new(2025, 9, 1), lost_cause: "failed")
    Vestry::Records::Observation.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2025, 6, 1), verdict: "took", seen_by: "Orla Finch")
    said = ->(day) { described_class.beside(Vestry::DB[:grafts], today: day).get([described_class.took.as(:took), described_class.lost(today: day).as(:lost)]) }
    expect([Date.new(2025, 5, 1), Date.new(2025, 7, 1), Date.new(2025, 10, 1)].map { |day| said.call(day) }).to eq [[false, false], [true, false], [true, true]]
  end

  it "takes a tree out of trouble when its limb was counted alive after all" do
    made = graft(limb(standing))
    Vestry::Records::Observation.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 5, 10), verdict: "failed", seen_by: "Orla Finch")
    expect(Vestry::Records::Reading.tree_states(here.id, [standing.id])[standing.id]).to eq "trouble"
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2026, tallied_on: Date.new(2026, 10, 1), alive: true, tallied_by: "Orla Finch")
    expect(Vestry::Records::Reading.tree_states(here.id, [standing.id])[standing.id]).to eq "grafted"
    expect(Vestry::Records::Reading.in_state(here.id, here.trees_dataset, "trouble").count).to eq 0
  end
end
