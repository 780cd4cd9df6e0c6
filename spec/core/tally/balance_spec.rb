# frozen_string_literal: true

RSpec.describe "balance", :core do
  def balance(*parts)
    reckon("balance", parts: parts.map { |id, section, target| { id: id, section_mm2: section,
        target_share: target } })[:parts]
  end

  it "reckons the worked example" do
    x, y, z = balance(["X", 4000], ["Y", 1500], ["Z", 2000])
    expect([x[:index], x[:shorten], y[:index], z[:index]].map { |each| each.round(9) }).to eq [1.6, 0.375, 0.6, 0.8]
    expect([y[:shorten], z[:shorten]]).to eq [0.0, 0.0]
  end

  it "shares sum to one, and a target moves the index" do
    expect(balance(["X", 4000], ["Y", 1500], ["Z", 2000]).sum { |part| part[:share] }).to be_within(1e-12).of(1)
    expect(balance(["X", 3000, 0.75], ["Y", 1000, 0.25]).map { |part| part[:index] }).to eq [1.0, 1.0]
    expect(balance(["X", 9000], ["Y", 100], ["Z", 100]).first[:shorten]).to eq 0.6
    expect(balance(["X", 1250], ["Y", 750]).map { |part| part[:shorten] }).to eq [0.0, 0.0]
    expect(balance(["X", 5])).to match [hash_including(share: 1.0, index: 1.0, shorten: 0.0)]
    expect(reckon("balance", parts: [])).to eq(parts: [])
  end

  it "leaves alone what is at its limit, and shortens what is a little over" do
    over = Vestry::Core::Rulebook.shipped.value("reckoning.balance.over")
    at = ->(index) { balance(["X", 1000 * index, 0.5], ["Y", 1000 * (2 - index), 0.5]).first[:shorten] }
    expect([at[over], at[over + 0.01]]).to match [0.0, be > 0]
  end

  it "refuses what cannot be" do
    expect(refusal("balance", parts: [{ id: "X", section_mm2: 0 }]).field).to eq "parts[0].section_mm2"
    expect(refusal("balance", parts: [{ id: "X", section_mm2: 1, target_share: 0 }]).field)
      .to eq "parts[0].target_share"
  end
end

RSpec.describe Vestry::Core::Tally::Outcome, :core do
  def rows(**kinds)
    kinds.flat_map do |kind, (takes, trials)|
      Array.new(trials) { |i| { method: kind.to_s, species: "apple", season: 2025, grafter: "Orla",
                                take: i < takes, tree: [kind, i] } }
    end
  end

  def claimed(made)
    several = made.map { |row| row[:method] }.uniq.size > 1
    pooled = several ? Vestry::Core::Tally::Pooled.new(made, %i[method season]) : nil
    described_class.claim(described_class.by(made, :method), pooled: pooled,
                                                            likes: Vestry::Core::Tally::LikeWithLike.of(made, :method))
  end

  it "counts by kind with an interval, and claims no more than it bears" do
    lines = described_class.by(rows(rind: [28, 30], cleft: [9, 30], bark: [2, 3]), :method)
    expect(lines.map { |line| line.values_at(:kind, :takes, :trials) })
      .to eq [["cleft", 9, 30], ["rind", 28, 30], ["bark", 2, 3]]
    expect(claimed(rows(rind: [28, 30], cleft: [9, 30], bark: [2, 3])))
      .to include(code: "took_differ", best: "rind", worst: "cleft")
    expect(claimed(rows(rind: [8, 11], cleft: [9, 12]))).to include(code: "took_alike", kinds: 2)
    expect(claimed(rows(rind: [8, 9]))).to include(code: "took_too_few", trials: 9)
    expect(claimed(rows(rind: [8, 12], cleft: [1, 2]))).to include(code: "took_one", kind: "rind")
    expect(claimed([])).to include(code: "took_too_few", trials: 0)
  end

  it "claims nothing where kinds were never done alike, however they differ" do
    apart = rows(rind: [28, 30]) + rows(cleft: [9, 30]).map { |row| row.merge(species: "walnut") }
    expect(claimed(apart)).to include(code: "took_alike", kinds: 2)
    likes = Vestry::Core::Tally::LikeWithLike.of(apart, :method)
    expect(likes.values.map { |each| each.values_at(:difference, :strata, :stands) }).to eq [[nil, 0, false]] * 2
  end

  it "compares grafters on like work alone" do
    easy = ->(who, takes, trials) { Array.new(trials) { |i| { method: "rind", species: "apple", season: 2025,
        grafter: who, take: i < takes } } }
    hard = ->(who, takes, trials) { Array.new(trials) { |i| { method: "inlay", species: "walnut", season: 2025,
        grafter: who, take: i < takes } } }
    both = easy["Orla", 18, 20] + easy["Tam", 9, 10] + hard["Tam", 5, 10]
    orla, tam = described_class.fair(both).sort_by { |line| line[:kind] }
    expect(orla).to include(trials: 20, rate: 0.9, expected: 0.9, left_out: 0)
    expect(tam).to include(trials: 10, rate: 0.9, expected: 0.9, left_out: 10)
  end
end

RSpec.describe Vestry::Core::Tally::Scaffold, :core do
  def codes(**facts)
    described_class.of(**{ seasons: 2, stub_mm: 60, closed: 0.5, sticks: 1 }.merge(facts)).map { |each| each[:code] }
  end

  it "tells a limb from a graft, and what to do this winter" do
    expect(codes).to eq %w[scaffold_unmeasured]
    expect(codes(section_mm2: 1000)).to eq %w[scaffold_grows]
    expect(codes(section_mm2: 1500, angle_deg: 80, sticks: 2, growth_mm: 1300))
      .to eq %w[scaffold_is_limb scaffold_spread scaffold_thin scaffold_head_back]
    expect(codes(section_mm2: 1500, angle_deg: 10, sticks: 2, closed: 1.0))
      .to eq %w[scaffold_is_limb scaffold_lift scaffold_thin scaffold_others_off]
    expect(codes(section_mm2: 1500, pinched: true, seasons: 1, sticks: 2)).to eq %w[scaffold_is_limb scaffold_pinched]
  end
end
