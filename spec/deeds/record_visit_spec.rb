# frozen_string_literal: true

RSpec.describe Vestry::Deeds::RecordVisit do
  let(:here) { orchard }
  let(:made) { graft(limb(tree(here)), grafted_on: Date.new(2026, 4, 20)) }
  let(:today) { Date.new(2026, 6, 20) }

  def visit(on: today, **seen)
    described_class.call(made, { seen_on: on, seen_by: "Tam" }.merge(seen), by: "Tam", today: today)
  end

  def refusal
    yield
    nil
  rescue Vestry::Deeds::Refused => e
    e.errors
  end

  it "writes what was seen of the graft, with its line of history" do
    row = visit(buds: "swelling", callus: "some", note: "slow")
    expect(row.values.slice(:orchard_id, :graft_id, :seen_on, :buds, :callus, :note, :seen_by, :verdict))
      .to eq(orchard_id: here.id, graft_id: made.id, seen_on: today, buds: "swelling", callus: "some", note: "slow",
             seen_by: "Tam", verdict: nil)
    line = Vestry::DB[:history].where(table_name: "observations", row_id: row.id).first
    expect(line.slice(:action, :who)).to eq(action: "add", who: "Tam")
    expect(line[:after].to_h).to include("buds" => "swelling", "graft_id" => made.id)
  end

  it "takes what is in leaf, or has a shoot of a hand's length, as taken, and nothing that is dead" do
    hand = here.rulebook.value("care.figures.hand")
    expect([visit(buds: "leafing"), visit(longest_shoot_mm: hand), visit(longest_shoot_mm: hand - 1),
            visit(buds: "dead", longest_shoot_mm: hand), visit(buds: "leafing", verdict: "failed")].map(&:verdict))
      .to eq ["took", "took", nil, nil, "failed"]
  end

  it "happened after the graft was made, and not tomorrow" do
    expect([made.grafted_on, today].map { |day| visit(on: day).seen_on }).to eq [made.grafted_on, today]
    expect(refusal { visit(on: made.grafted_on - 1) }[:seen_on].first).to include("before the graft was made")
    expect(refusal { visit(on: today + 1) }[:seen_on].first).to include("lies in the future")
  end
end
