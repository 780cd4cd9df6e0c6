# frozen_string_literal: true

RSpec.describe "cut-point" do
  let(:limb) do
    { base_diameter_mm: 80, length_mm: 2600, fork_height_mm: 1300, rise_deg: 40, method: "rind", lowest_mm: 1500,
      highest_mm: 2400 }
  end

  it "works out the example" do
    answer = reckon("cut-point", limb)
    expect(answer.values_at(:from_mm, :to_mm, :at_mm, :diameter_mm, :height_mm).map { |v| v.round(3) })
      .to eq [311.145, 1711.296, 1160.714, 55.0, 2046.093]
  end

  it "tapers by how long it grew where it was cut or broke since, and lies on what is left" do
    whole = reckon("cut-point", limb)
    left = whole[:at_mm] + 10
    answer = reckon("cut-point", limb.merge(length_mm: left, whole_mm: limb[:length_mm]))
    expect(answer.slice(:at_mm, :diameter_mm)).to eq whole.slice(:at_mm, :diameter_mm)
    expect(answer[:to_mm]).to be <= left
    expect(refusal("cut-point", limb.merge(whole_mm: limb[:length_mm] - 1)).field).to eq "whole_mm"
  end

  it "follows a measured taper" do
    answer = reckon("cut-point", limb.merge(measured: { at_mm: 1000, diameter_mm: 55 }))
    expect(answer[:at_mm]).to be_within(1e-6).of(1000)
  end

  it "refuses a limb that thickens outwards" do
    expect(refusal("cut-point", limb.merge(measured: { at_mm: 1000, diameter_mm: 80 })).field).to eq "measured"
  end

  it "names one limit that cannot hold at all" do
    answer = reckon("cut-point", limb.merge(length_mm: 200, lowest_mm: 1800, highest_mm: nil))
    expect(answer).to include(feasible: false, conflict: ["browse"])
  end

  it "names two limits that cannot hold together" do
    answer = reckon("cut-point", limb.merge(lowest_mm: 2000, highest_mm: 1900))
    expect(answer).to include(feasible: false, conflict: %w[browse reach])
    expect(answer[:limits].map { |each| each[:from_mm] }).to all(be_a(Float))
  end

  it "keeps the near end of a hanging limb when it must stay above the animals" do
    answer = reckon("cut-point", limb.merge(rise_deg: -20, fork_height_mm: 1800))
    expect(answer[:to_mm]).to be_within(1e-6).of(300 / Math.sin(20 * Math::PI / 180))
  end

  it "keeps above a branch that is grafted by what its fork needs, and above a nurse by what feeds it" do
    branch = { fork_at_mm: 900, diameter_mm: 40 }
    at = ->(**more) { reckon("cut-point", limb.merge(branches: [branch.merge(more)])) }
    # As in the example above: that branch leaves below where it is 55 mm thick.
    expect(at[grafted: true][:limits].last).to eq(name: "grafted", from_mm: 900, to_mm: 2600)
    expect([at[grafted: true][:at_mm], at[][:at_mm]].map { |mm| mm.round(1) }).to eq [1160.7, 1160.7]
    high = limb.merge(branches: [{ fork_at_mm: 1500, diameter_mm: 40, grafted: true }])
    expect(reckon("cut-point", high)[:at_mm]).to be_between(1520, 1600)
    expect(reckon("cut-point", limb.merge(branches: [branch.merge(fork_at_mm: 1800, grafted: true)])))
      .to include(feasible: false, conflict: %w[reach grafted])
  end

  it "takes a level limb as all within or all without" do
    expect(reckon("cut-point", limb.merge(rise_deg: 0))[:conflict]).to eq ["browse"]
    expect(reckon("cut-point", limb.merge(rise_deg: 0, fork_height_mm: 1500))[:feasible]).to be true
  end

  it "stays in fresh wood below a stub that died, and says where there is none" do
    free = reckon("cut-point", limb)
    below = reckon("cut-point", limb.merge(stub_mm: free[:from_mm] + 20))
    expect(below.values_at(:from_mm, :to_mm)).to eq [free[:from_mm], free[:from_mm] + 20]
    expect(below[:limits].last).to eq(name: "stub", from_mm: 0.0, to_mm: free[:from_mm] + 20)
    none = reckon("cut-point", limb.merge(stub_mm: free[:from_mm] - 20))
    expect(none.values_at(:feasible, :conflict)).to eq [false, %w[browse stub]]
  end

  it "always cuts inside every limit" do
    sizes = PropCheck::Generators.tuple(PropCheck::Generators.choose(20..200), PropCheck::Generators.choose(300..6000),
                                        PropCheck::Generators.choose(-40..90))
    PropCheck.forall(sizes) do |(diameter, length, rise)|
      answer = reckon("cut-point", limb.merge(base_diameter_mm: diameter, length_mm: length, rise_deg: rise))
      next unless answer[:feasible]

      answer[:limits].each { |each| expect(answer[:at_mm]).to be_between(each[:from_mm] - 1e-6, each[:to_mm] + 1e-6) }
      expect(answer[:height_mm]).to be_between(1500 - 1e-6, 2400 + 1e-6)
    end
  end
end
