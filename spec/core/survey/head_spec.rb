# frozen_string_literal: true

RSpec.describe Vestry::Core::Survey::Head do
  def limb(id, **facts)
    { id: id, share: 0.25, bearing_deg: 0, fork_height_mm: 900, tip_height_mm: 2400, cuttable: true, conflict: [],
      damaged: false }.merge(facts)
  end

  it "finds an even head even, and a lopsided one leaning the right way" do
    even = described_class.balance([0, 90, 180, 270].map { |deg| limb(deg, bearing_deg: deg) })
    expect(even[:lean]).to be_within(1e-9).of(0)
    expect(even[:quarters].values.uniq).to eq [0.25]
    expect(described_class.balance([limb("A", share: 0.7, bearing_deg: 90), limb("B", share: 0.3, bearing_deg: 270)]))
      .to include(lean: be_within(1e-9).of(0.4), towards_deg: be_within(1e-9).of(90))
  end

  it "calls no head even that is bare to one side" do
    lean = described_class.balance([limb("A", share: 0.45, bearing_deg: 90), limb("B", share: 0.45, bearing_deg: 270),
                                    limb("C", share: 0.1, bearing_deg: 0)])
    expect(lean).to include(leans: false, bare: ["south"])
  end

  it "wants two nurses from more limbs than the book says, and none where the school keeps none" do
    book = Vestry::Core::Rulebook.shipped
    six = book.overruled("reckoning.pace.nurses_several" => { "value" => 6 })
    expect([described_class.nurses_wanted(5, "some", book), described_class.nurses_wanted(5, "some", six),
            described_class.nurses_wanted(7, "some", six),
            described_class.nurses_wanted(7, "none", book)]).to eq [2, 1, 2, 0]
  end

  it "keeps the lowest of middling size as nurse, works the rest, and lifts what animals reach" do
    limbs = [limb("A", bearing_deg: 0, share: 0.35), limb("B", bearing_deg: 90, share: 0.3),
             limb("C", bearing_deg: 180, share: 0.2, tip_height_mm: 1900),
             limb("D", bearing_deg: 270, share: 0.15, tip_height_mm: 1200)]
    roles = described_class.candidates(limbs, lowest_mm: 1300, nurses: 1)
    expect(roles.transform_values { |each| each[:role] })
      .to eq("A" => "work", "B" => "work", "C" => "nurse", "D" => "lift")
    expect(roles["D"][:reasons].first[:code]).to eq "head_under_browse"
  end

  it "does not lift a whole head off its tree, where animals reach all of it" do
    low = %w[A B].map.with_index { |id, i| limb(id, bearing_deg: i * 180, share: 0.5, tip_height_mm: 1000 + i) }
    roles = lambda do |lowest|
      described_class.candidates(low, lowest_mm: lowest, nurses: 0).values.map { |each| each[:role] }
    end
    expect([roles[1300], roles[1001], roles[1000]]).to eq [%w[work work], %w[work work], %w[lift work]]
  end

  it "takes for a nurse what points away from where the others lean by a right angle, and nothing nearer" do
    role = lambda do |deg|
      limbs = [limb("A", bearing_deg: 60, share: 0.4), limb("B", bearing_deg: 120, share: 0.4),
               limb("N", bearing_deg: deg, share: 0.2, tip_height_mm: 5000)]
      described_class.candidates(limbs, lowest_mm: 0, nurses: 1)["N"][:role]
    end
    expect([180, 0, 270, 179.5, 0.5].map(&role)).to eq %w[nurse nurse nurse work work]
  end

  it "lifts the smaller of two that crowd each other, across north too" do
    limbs = [limb("A", bearing_deg: 355, share: 0.5), limb("B", bearing_deg: 8, share: 0.2),
             limb("C", bearing_deg: 180, share: 0.3)]
    expect(described_class.candidates(limbs, lowest_mm: 0, nurses: 0)["B"])
      .to eq(role: "lift", reasons: [{ code: "head_crowds", other: "A" }])
  end

  it "offers a stub for work that the school has no method for, unless it is wider than a hand is long" do
    told = [125.0, 126.0].map do |mm|
      Vestry::Core::Survey::Head.candidates([limb("A", own: false, stock_mm: mm), limb("B", bearing_deg: 180)],
                                            lowest_mm: 1500, nurses: 0)["A"]
    end
    expect(told.map { |each| [each[:role], each[:reasons].first.values_at(:code, :own, :mm)] })
      .to eq [["work", ["head_cuttable", false, nil]], ["nurse", ["head_large", nil, 126.0]]]
  end

  it "keeps a limb that cannot be cut, and says why; and never keeps them all" do
    limbs = [limb("A", cuttable: false, conflict: %w[browse reach]), limb("B", bearing_deg: 180)]
    roles = described_class.candidates(limbs, lowest_mm: 1300, nurses: 2)
    expect([roles["A"][:reasons], roles["B"][:role]])
      .to eq [[{ code: "head_no_cut", conflict: %w[browse reach] }], "work"]
  end

  it "says of a tree's only limb that it is the only one, and of one among others nothing of the kind" do
    only = described_class.candidates([limb("A")], lowest_mm: 0, nurses: 1)["A"]
    expect([only[:role], only[:reasons].map { |each| each[:code] }]).to match ["work", include("head_only_limb")]
    others = [limb("A"), limb("B", cuttable: false, conflict: ["browse"], bearing_deg: 90)]
    codes = described_class.candidates(others, lowest_mm: 0, nurses: 1).values.flat_map { |each| each[:reasons] }
    expect(codes.map { |each| each[:code] }).not_to include "head_only_limb"
  end

  it "leaves one limb to be worked, however many nurses are wanted" do
    limbs = [limb("A"), limb("B", bearing_deg: 90, share: 0.1), limb("C", bearing_deg: 180, share: 0.1)]
    roles = described_class.candidates(limbs, lowest_mm: 0, nurses: 9).values.map { |each| each[:role] }
    expect(roles.tally).to include("work" => 1)
  end
end
