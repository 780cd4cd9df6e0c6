# frozen_string_literal: true

# A person's own hand: what is counted of it, and where it begins.
RSpec.describe Vestry::Records::OwnHand do
  let(:here) { orchard(reach_mm: 2000) }
  let(:apple) { tree(here) }
  let(:kind) { variety(here) }
  let(:today) { Date.new(2026, 4, 1) }

  def hand(name = "Tam") = described_class.new(Vestry::Records::Orchard[here.id], name, today)

  def work(tag, role: "work", hand: nil, on: apple, **facts)
    one = limb(on, tag, **facts)
    Vestry::Deeds::DecideLimb.call(one, { role: role, season: 2026, cut: 700.0, technique: "rind", variety: kind.id,
                                          against_reason: "so" }, by: "Orla", season: 2026)
    one.planned.update(hand: hand) if hand
    one.label
  end

  def first = hand.first_limb&.limb&.label

  it "begins on what is its own, else on what is spare, within reach, and least" do
    expect(first).to be_nil
    thick = work("A", girth_mm: 260)
    expect(first).to eq thick
    high = work("B", girth_mm: 200, fork_mm: 2100)
    expect(first).to eq thick
    thin = work("C", girth_mm: 240)
    expect(first).to eq thin
    spare = work("D", girth_mm: 280, fork_mm: 2100, role: "backup")
    expect(first).to eq spare
    own = work("E", girth_mm: 300, fork_mm: 2100, hand: "Tam")
    expect([first, high]).to match [own, be_a(String)]
    work("F", girth_mm: 100, hand: "Wim")
    expect(first).to eq own
  end

  it "counts its own grafts by the day, those that took and those that were lost" do
    { "A" => ["Tam", nil], "B" => ["Tam", "2026-03-30"], "C" => ["Wim", "2026-03-30"] }.each do |tag, (who, lost_on)|
      graft(limb(apple, tag), grafter: who, grafted_on: Date.new(2025, 4, 20), lost_on: lost_on,
                              lost_cause: lost_on && "failed")
    end
    expect([hand.record, hand.trials, hand.beginner?]).to eq [{ took: 0, lost: 1 }, 1, true]
    expect(hand("Wim").record).to eq(took: 0, lost: 1)
    expect(hand("Nobody").trials).to eq 0
  end

  it "is a beginner's until ten grafts are counted" do
    lost = lambda do |tag|
      graft(limb(apple, tag), grafter: "Tam", grafted_on: Date.new(2025, 4, 20), lost_on: "2026-03-30",
                              lost_cause: "failed")
    end
    ("A".."I").each(&lost)
    expect([hand.trials, hand.beginner?]).to eq [9, true]
    lost["J"]
    expect([hand.trials, hand.beginner?]).to eq [10, false]
  end
end
