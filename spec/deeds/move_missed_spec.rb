# frozen_string_literal: true

RSpec.describe Vestry::Deeds::MoveMissed do
  let!(:here) { demo }

  def move(day) = described_class.call(here, by: "Orla Finch", today: Date.iso8601(day))
  def seasons = here.planned(:waiting, 2026).rows.map { |row| [row.limb.label, row.season, row.role] }

  it "moves what was not grafted by its last sensible day to the season that is planned, once" do
    waiting = seasons.map(&:first)
    expect(move("2026-09-20")).to eq [14, 2027, [], 7]
    rows = here.planned(:stubs, 2027).rows.to_h { |row| [row.limb.label, [row.season, row.role]] }
    expect(rows.values_at(*waiting).uniq).to eq [[2027, "work"]]
    expect(move("2026-09-20").first).to eq 0
  end

  it "puts all of them back where they stood, but for what was decided otherwise since, and once" do
    stood = seasons
    move("2026-09-20")
    other = here.planned(:stubs, 2027).rows.find { |row| row.limb.label == "A6 A" }.limb
    Vestry::Deeds::MoveLimb.call(other, 2028, by: "Gus", first: 2027)
    expect(described_class.back(here, by: "Orla Finch")).to eq 20
    expect(seasons).to eq(stood.reject { |label, *| label == "A6 A" })
    expect(described_class.back(here, by: "Orla Finch")).to eq 0
    expect(Vestry::Records::Limb[other.id].planned.season).to eq 2028
  end

  it "puts them back once, though two do at the same moment" do
    move("2026-09-20")
    expect(Array.new(2) { Thread.new { described_class.back(here, by: "Orla Finch") } }.map(&:value).sort).to eq [0, 21]
  end

  it "leaves what still has time, and keeps the others for a later season" do
    expect(move("2026-06-20")).to eq [12, 2027, [], 7]
    expect(seasons.map { |label, *rest| [label[/\A\w+/], *rest] }.uniq).to eq [["E3", 2026, "work"]]
    moved = Vestry::Records::PlanLimb.where(season: 2027, limb_id: here.trees_dataset.first(row: "A", number: 6).limbs
      .map(&:id)).select_map(:role)
    expect(moved.uniq).to eq ["later"]
  end

  it "waits for whoever moves one of them meanwhile, and lets it follow the others of its tree from there" do
    one = here.planned(:waiting, 2026).rows.map(&:limb).find { |limb| limb.label == "A6 A" }
    other = nil
    Vestry::DB.transaction do
      Vestry::Records::TreeQueries.hold([one.tree_id])
      other = Thread.new { move("2026-09-20") }
      until_waiting
      Vestry::Deeds::MoveLimb.call(one, 2028, by: "Gus", first: 2027)
    end
    expect(other.value.first).to eq 13
    expect(Vestry::Records::Limb[one.id].planned.season).to eq 2029
  end

  # Two limbs were to be worked one season and a third the next, so that no season takes too much.
  describe "a tree's limbs for the seasons after" do
    let(:trees) { here.trees_dataset.order(:row, :number).all }
    let(:tree) { trees.find { |each| each.label == "A6" } }
    let(:spare) { %w[A B].map { |tag| tree.standing_limbs.find { |limb| limb.tag == tag } } }

    before do
      spare.each_with_index do |limb, at|
        Vestry::Deeds::DecideLimb.call(limb, { role: "later", season: 2027 + at }, by: "Orla", season: 2026)
      end
    end

    def kept = spare.map { |limb| Vestry::Records::Limb[limb.id].planned.then { |row| [row.season, row.role] } }

    it "move on with what was missed, by as many seasons, and back with it" do
      expect(move("2026-09-20")).to eq [13, 2027, [], 9]
      expect(kept).to eq [[2028, "later"], [2029, "later"]]
      expect(described_class.back(here, by: "Orla")).to eq 22
      expect(kept).to eq [[2027, "later"], [2028, "later"]]
    end

    it "move on where they come off, as that, and are headed back when they were to be" do
      %w[lift renew].each_with_index do |role, at|
        Vestry::Deeds::DecideLimb.call(spare[at], { role: role, season: 2027 }, by: "Orla", season: 2026)
      end
      move("2026-09-20")
      expect(kept).to eq [[2028, "lift"], [2027, "renew"]]
    end
  end
end
