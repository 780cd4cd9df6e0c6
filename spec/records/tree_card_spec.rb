# frozen_string_literal: true

# What a tree's card and its open address tell of each limb.
RSpec.describe Vestry::Records::TreeCard do
  let(:here) { orchard }
  let(:apple) { tree(here) }
  let(:kind) { variety(here, "Amber") }
  let(:today) { Date.new(2026, 9, 1) }

  def lines_by_tag
    described_class.new(Vestry::Records::Tree[apple.id], today).lines.to_h { |line| [line.tag, line.to_h] }
  end

  def decide(limb, role, season)
    Vestry::Deeds::DecideLimb.call(limb, { role: role, technique: "rind", cut: 700.0, practice: "pair",
                                           variety: kind.id, against_reason: "so", season: season },
                                   by: "Orla", season: 2026)
  end

  it "says what stands since when, what took, what was lost, what is planned and what is open" do
    waiting, took, lost, again, now, later = %w[A B C D E F].map { |tag| limb(apple, tag) }
    limb(apple, "G")
    [waiting, took, lost, again].each { |each| graft(each, grafted_on: Date.new(2026, 4, 21), variety_id: kind.id) }
    visit = lambda do |limb, verdict|
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: limb.grafts_dataset.first.id, verdict: verdict,
                                    seen_on: Date.new(2026, 6, 10), buds: verdict == "failed" ? "dead" : "leafing")
    end
    { took => "took", lost => "failed", again => "failed" }.each { |each, verdict| visit[each, verdict] }
    { again => ["later", 2027], now => ["work", 2026], later => ["later", 2028] }
      .each { |each, (role, season)| decide(Vestry::Records::Limb[each.id], role, season) }
    expect(lines_by_tag.transform_values { |line| line.values_at(:state, :season, :variety) })
      .to eq("A" => ["waiting", nil, "Amber"], "B" => ["took", nil, "Amber"], "C" => ["lost", nil, nil],
             "D" => ["planned", 2027, "Amber"], "E" => ["planned", 2026, "Amber"], "F" => ["planned", 2028, "Amber"],
             "G" => ["open", nil, nil])
    expect(lines_by_tag.transform_values { |line| line[:since] }.compact).to eq("A" => Date.new(2026, 4, 21),
                                                                        "B" => Date.new(2026, 4, 21))
  end
end
