# frozen_string_literal: true

RSpec.describe "triage", :core do
  BARK = { opens_on: "2026-04-15", closes_on: "2026-06-20", next_opens_on: "2027-04-18" }.freeze

  def triage(share, today: "2026-02-01", girth: 500, **more) = reckon("triage", { girdled_share: share, girth_mm: girth, today: today }.merge(BARK, more))
  def codes(answer) = answer[:reasons].map { |each| each[:code] }

  it "puts a ring before a half, a half before a scratch" do
    rings = [triage(1.0, today: "2026-05-01"), triage(1.0, drying: true), triage(0.9, covered: true), triage(0.4, covered: true), triage(0.1), triage(0.1, covered: true)]
    expect(rings.map { |each| each[:rank] }).to eq [0, 1, 2, 3, 4, 5]
  end

  it "says how long there is" do
    expect(triage(0.8).values_at(:by, :days_left)).to eq [Date.new(2026, 6, 20), 139]
    expect(triage(0.8, today: "2026-07-01")[:by]).to be_nil
    expect(codes(triage(0.8, today: "2026-07-01"))).to include "triage_too_late"
    expect(triage(0.4, today: "2026-07-01")[:by]).to eq Date.new(2027, 6, 20)
    expect(triage(0.1)[:by]).to be_nil
    expect(codes(triage(0.8, today: "2026-04-15"))).to include "triage_slips"
  end

  it "saves the wood of a thin stem that is stripped below its own union, and cuts it back" do
    answer = triage(0.7, girth: 80, below_union: true)
    expect(answer[:verdict]).to eq "cut-back"
    expect(codes(answer)).to eq %w[triage_cut_back triage_save_wood]
    expect(answer[:by]).to eq Date.new(2026, 2, 22)
  end

  it "asks to dig, to cover, and to inarch where no root bark lives" do
    answer = triage(0.6, buried: true, root_bark: false, drying: true)
    expect(codes(answer)).to eq %w[triage_inarch triage_dig triage_cover triage_bark_ahead]
    expect(answer[:reasons].last[:days]).to eq 73
    expect(refusal("triage", BARK.merge(girdled_share: 1.1, girth_mm: 300, today: "2026-02-01")).field).to eq "girdled_share"
  end
end

RSpec.describe "shoots", :core do
  def shoots(scions, shoots, **more)
    reckon("shoots", { scions: scions.each_with_index.map { |mm, i| { id: i, length_mm: mm } }, shoots: shoots.each_with_index.map { |(mm, thick), i| { id: "S#{i}", length_mm: mm, diameter_mm: thick } } }.merge(more))
  end

  it "cuts long scions from long shoots and names what is missing" do
    answer = shoots([300, 200, 260, 500], [[520, 9], [620, 8]])
    expect(answer[:cuts]).to match_array [{ shoot: "S0", left_mm: 10.0, scions: [3] }, { shoot: "S1", left_mm: 40.0, scions: [0, 2] }]
    expect(answer.values_at(:missing, :missing_mm)).to eq [[1], 200.0]
  end

  it "leaves out shoots that are too thin or too thick" do
    expect(shoots([100], [[400, 4], [400, 20]]).values_at(:missing, :unfit)).to eq [[0], %w[S0 S1]]
    expect(shoots([100], [[400, nil]])[:missing]).to eq []
  end

  it "never serves fewer from more wood, and nothing twice" do
    PropCheck.forall(PropCheck::Generators.array(PropCheck::Generators.choose(50..600)), PropCheck::Generators.array(PropCheck::Generators.choose(50..900))) do |scions, wood|
      answer = shoots(scions, wood.map { |mm| [mm, nil] })
      served = answer[:cuts].flat_map { |each| each[:scions] }
      raise "twice" unless (served + answer[:missing]).sort == scions.each_index.to_a
      raise "too long" if answer[:cuts].any? { |cut| cut[:scions].sum { |i| scions[i] } > wood[cut[:shoot].delete("S").to_i] + 1e-9 }
    end
  end
end
