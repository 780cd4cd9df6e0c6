# frozen_string_literal: true

RSpec.describe Vestry::Deeds::SurveyLimbs do
  let(:standing) { tree(orchard) }
  let!(:stem) { limb(standing, "A", girth_mm: 200, length_mm: 2400) }

  def add(*reads) = described_class.call(standing, reads, by: "Orla Finch", today: World::TODAY)
  def doubts(**values) = described_class.doubts(standing, { tag: "B" }.merge(values))

  it "adds limbs and their branches together, and keeps how they were typed" do
    made = add({ tag: "B", girth_mm: 210.0, typed: "21 cm" }, { tag: "B1", parent: "b", girth_mm: 80.0 })
    expect([made[1].parent_id, made[0].thickness_typed, made[0].surveyed_on]).to eq [made[0].id, "21 cm", World::TODAY]
  end

  it "adds none of them when one cannot be" do
    [{ tag: "a", girth_mm: 90.0 }, { tag: "C1", parent: "C", girth_mm: 90.0 }].each do |bad|
      expect { add({ tag: "B", girth_mm: 210.0 }, bad) }.to raise_error(Vestry::Deeds::Refused)
      expect(standing.limbs_dataset.select_map(:tag)).to eq ["A"]
    end
  end

  it "lets nothing grow from a limb that has come off" do
    stem.update(gone_on: World::TODAY)
    why = "A has come off; a branch grows from what stands"
    expect(described_class.impossible(standing.reload, { tag: "A1", parent: "a", girth_mm: 90.0 })).to eq why
    expect { add({ tag: "A1", parent: "A", girth_mm: 90.0 }) }.to raise_error(Vestry::Deeds::Refused, /#{why}/)
    expect { Vestry::Deeds::MarkSite.call(standing, { tag: "S", limb_id: stem.id, at_mm: 300.0 }, by: "Orla Finch") }
      .to raise_error(Vestry::Deeds::Refused, /is not a limb of A1/)
  end

  it "does not take the tag of a limb that is out of sight, which may be brought back" do
    Vestry::Deeds::Hide.call(stem, by: "Orla Finch")
    expect { add({ tag: "A", girth_mm: 90.0 }) }.to raise_error(Vestry::Deeds::Refused,
        /A1 had a limb A that was taken away/)
  end

  it "doubts what is possible and not likely, and only that" do
    expect(doubts(girth_mm: 90.0, parent: "A")).to eq []
    expect(doubts(girth_mm: 9999.0)).to eq ["a girth of 10.00 m", "B thicker than the trunk"]
    expect(doubts(girth_mm: 501.0)).to eq ["B thicker than the trunk"]
    expect(doubts(girth_mm: 499.0, fork_mm: 3999.0, length_mm: 5000.0)).to eq []
    expect(doubts(girth_mm: 210.0, fork_mm: 4100.0)).to eq ["leaving at 4.10 m, where A1 is 4.00 m high"]
    expect(doubts(girth_mm: 210.0, length_mm: 61_000.0)).to eq ["a length of 61.00 m"]
    expect(doubts(girth_mm: 501.0, leader: true)).to eq []
    expect(doubts(girth_mm: stem.girth_mm.to_f, parent: "A")).to eq []
    expect(doubts(girth_mm: 260.0, parent: "a")).to eq ["B thicker than A, which it grows from"]
    expect(doubts(wide_mm: 90.0, narrow_mm: 80.0, parent: "A").size).to eq 1
  end

  it "says why a branch cannot leave its limb beyond its end, where that end was measured" do
    expect(described_class.impossible(standing, tag: "B", parent: "A", fork_mm: 2500.0))
      .to eq "A is 2.40 m long; a branch leaves it before that"
    expect(described_class.impossible(standing, tag: "B", parent: "A", fork_mm: 2300.0)).to be_nil
    stem.update(length_mm: nil)
    expect(described_class.impossible(standing.reload, tag: "B", parent: "A", fork_mm: 2500.0)).to be_nil
  end
end
