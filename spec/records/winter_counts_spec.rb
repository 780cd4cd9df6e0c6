# frozen_string_literal: true

# Counts that were kept as the coming season's when they were made in winter.
RSpec.describe "The move of winter's counts to the summer they measure" do
  def migrate
    Sequel.extension(:migration)
    eval(File.read(File.join(Vestry::ROOT, "records/migrations/059_winter_counts.rb"))).apply(Vestry::DB, :up)
  end

  def counted(place, grafted_on, *counts)
    made = graft(limb(tree(place)), grafted_on: Date.iso8601(grafted_on))
    counts.each do |day, season|
      Vestry::Records::Tally.create(orchard_id: place.id, graft_id: made.id, season: season, alive: true,
                                    tallied_on: Date.iso8601(day), tallied_by: "Orla")
    end
    made
  end

  def seasons(graft) = Vestry::DB[:tallies].where(graft_id: graft.id).order(:tallied_on).select_map(:season)

  it "leaves what was counted in autumn, what has one already, and what was not made by then" do
    north, south = orchard, orchard(latitude: -43.2, longitude: 172.0)
    told = {
      counted(north, "2026-04-20", ["2026-11-20", 2027], ["2027-10-02", 2027 + 1]) => [2026, 2028],
      counted(north, "2026-04-20", ["2027-02-03", 2027]) => [2026],
      counted(north, "2026-04-20", ["2026-10-03", 2026], ["2026-12-03", 2027]) => [2026, 2027],
      counted(north, "2026-04-20", ["2027-03-20", 2027]) => [2027],
      counted(north, "2027-02-20", ["2027-03-01", 2027]) => [2027],
      counted(south, "2025-09-14", ["2026-06-10", 2026]) => [2025],
      counted(south, "2025-09-14", ["2026-04-04", 2025]) => [2025],
      counted(south, "2026-05-20", ["2026-06-10", 2026]) => [2026]
    }
    migrate
    expect(told.keys.map { |made| seasons(made) }).to eq told.values
  end
end
