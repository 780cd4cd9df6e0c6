# frozen_string_literal: true

RSpec.describe "canopy" do
  let(:limbs) do
    [{ id: "A", diameter_mm: 70 }, { id: "A1", parent: "A", diameter_mm: 40, fork_at_mm: 900 },
     { id: "B", diameter_mm: 60 }, { id: "C", diameter_mm: 50 }]
  end

  def canopy(cuts = [], of: limbs) = reckon("canopy", limbs: of, cuts: cuts)

  it "works out the example" do
    answer = canopy([{ limb: "A", at_mm: 700 }])
    expect(answer[:shares].transform_values { |v| v.round(5) })
      .to eq("A" => 0.44545, "A1" => 0.14545, "B" => 0.32727, "C" => 0.22727)
    expect(answer[:removed]).to be_within(1e-5).of(0.44545)
  end

  it "leaves a branch that forks below the cut" do
    expect(canopy([{ limb: "A", at_mm: 1200 }])[:removed]).to be_within(1e-9).of(canopy[:own]["A"])
  end

  it "counts nothing twice when a branch is cut as well as its limb" do
    expect(canopy([{ limb: "A", at_mm: 700 }, { limb: "A1", at_mm: 100 }, { limb: "A", at_mm: 900 }])[:removed])
      .to be_within(1e-9).of(canopy[:shares]["A"])
  end

  it "leaves a limb something of its own however thick its branches" do
    thick = [{ id: "A", diameter_mm: 50 }, { id: "A1", parent: "A", diameter_mm: 60 }]
    expect(canopy(of: thick)[:own]["A"]).to be_within(1e-9).of(250.0 / 3850)
  end

  it "shares out the whole head, and removes all of it when everything is cut" do
    some = PropCheck::Generators.array(PropCheck::Generators.tuple(PropCheck::Generators.choose(5..200),
        PropCheck::Generators.choose(-1..6)), min: 1, max: 9)
    PropCheck.forall(some) do |drawn|
      made = drawn.each_with_index.map { |(size, parent), i| { id: i, parent: parent >= 0 && parent < i ? parent : nil,
          diameter_mm: size } }
      answer = canopy(made.map { |each| { limb: each[:id], at_mm: 0 } }, of: made)
      expect(answer[:own].values.sum).to be_within(1e-9).of(1)
      expect(made.reject { |each| each[:parent] }.sum { |each| answer[:shares][each[:id]] }).to be_within(1e-9).of(1)
      expect(answer[:removed]).to be_within(1e-9).of(1)
    end
  end

  it "refuses unknown and repeated limbs, and limbs in a ring" do
    expect(refusal("canopy", limbs: limbs + [limbs[0]]).field).to eq "limbs[4].id"
    expect(refusal("canopy", limbs: [{ id: "A", parent: "Z", diameter_mm: 5 }]).field).to eq "limbs[0].parent"
    expect(refusal("canopy", limbs: [{ id: "A", parent: "B", diameter_mm: 5 },
                                     { id: "B", parent: "A", diameter_mm: 5 }]).message).to include("ring")
    expect(refusal("canopy", limbs: limbs, cuts: [{ limb: "Z", at_mm: 1 }]).field).to eq "cuts[0].limb"
    expect(refusal("canopy", limbs: []).field).to eq "limbs"
  end
end
