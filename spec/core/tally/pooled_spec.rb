# frozen_string_literal: true

RSpec.describe "What took, drawn together", :core do
  let(:random) { Random.new(11) }

  # Stubs by four grafters and three methods over four seasons, several on a tree; one grafter takes the hard work.
  def made(trees, of_grafters: {}, hard: 0.7)
    seasons = [2022, 2023, 2024, 2025].to_h { |season| [season, normal(0.4)] }
    Array.new(trees) do |tree|
      season, grafter, vigour = seasons.keys.sample(random: random), %w[a b c d].sample(random: random), normal(0.7)
      Array.new(1 + random.rand(6)) do
        method = grafter == "a" && random.rand < hard ? "cleft" : %w[rind bark cleft].sample(random: random)
        logit = 1.2 + of_grafters.fetch(grafter, 0) + { "rind" => 0.4, "bark" => 0, "cleft" => -0.8 }[method] +
                seasons[season] + vigour
        { take: random.rand < 1 / (1 + Math.exp(-logit)), tree: tree, grafter: grafter, method: method,
          technique: method, season: season, species: "apple" }
      end
    end.flatten
  end

  def normal(sd) = sd * Math.sqrt(-2 * Math.log(1 - random.rand)) * Math.cos(2 * Math::PI * random.rand)
  def pooled(rows) = Vestry::Core::Tally::Pooled.new(rows, %i[grafter method season])

  def claim(rows)
    Vestry::Core::Tally::Outcome.claim(Vestry::Core::Tally::Outcome.by(rows, :grafter), pooled: pooled(rows),
                                       likes: Vestry::Core::Tally::LikeWithLike.of(rows, :grafter))
  end

  it "finds a difference between grafters who are alike in at most one orchard of twenty" do
    expect(Array.new(40) { claim(made(50))[:code] }.count("took_differ")).to be <= 2
  end

  it "finds the one who takes much less often, and says by how much" do
    told = Array.new(6) { claim(made(150, of_grafters: { "d" => -1.8 })) }
    expect(told.map { |each| each.values_at(:code, :worst) }.tally.fetch(["took_differ", "d"], 0)).to be >= 5
    expect(told.first[:best_rate] - told.first[:worst_rate]).to be_between(0.15, 0.6)
  end

  it "draws what was counted seldom further towards the whole, and keeps what was counted often" do
    stubs = lambda do |grafter, takes, trials, from|
      Array.new(trials) { |n| { grafter: grafter, method: "rind", season: 2025, take: n < takes, tree: from + n } }
    end
    rows = stubs["often", 54, 60, 0] + stubs["seldom", 1, 4, 100] + stubs["other", 48, 60, 200]
    kinds = pooled(rows).kinds.to_h { |each| [each.kind, each] }
    whole = rows.count { |row| row[:take] } / rows.size.to_f
    expect(kinds["seldom"].rate).to be_between(0.25 + 0.2, whole)
    expect(kinds["often"].rate).to be_within(0.05).of(0.9)
    expect(kinds.values.map { |each| each.low < each.rate && each.rate < each.high }).to eq [true] * 3
    expect(kinds["seldom"].high - kinds["seldom"].low).to be > kinds["often"].high - kinds["often"].low
  end

  it "is as sure of one against another as the other way it is not" do
    fit = pooled(made(40))
    expect(fit.likely("a", "b") + fit.likely("b", "a")).to be_within(1e-9).of(1.0)
  end

  it "does not hang on the order of its rows" do
    rows = made(40)
    rates = ->(all) { pooled(all).kinds.map { |each| [each.kind, each.rate.round(6), each.low.round(6)] } }
    expect(rates[rows.shuffle(random: random)]).to eq rates[rows]
  end

  it "counts a tree of many stubs as less than as many trees" do
    stubs = lambda do |trees|
      Array.new(40) { |n| { take: n % 40 < 28, tree: n % trees, grafter: n.even? ? "a" : "b", species: "apple",
                            technique: "rind", season: 2025 } }
    end
    width = lambda do |rows|
      Vestry::Core::Tally::LikeWithLike.of(rows, :grafter)["a"].then { |told| told[:high] - told[:low] }
    end
    # Four stubs a tree widen it by 1 + 3 x 0.3.
    expect(width[stubs[10]] / width[stubs[40]]).to be_within(1e-9).of(1.9)
  end

  it "inverts a matrix by Cholesky, and refuses one that is not positive" do
    inverse = Vestry::Core::Tally::Cholesky.inverse([[4.0, 2.0, 0.0], [2.0, 5.0, 1.0], [0.0, 1.0, 3.0]])
    expected = [[14, -6, 2], [-6, 12, -4], [2, -4, 16]].map { |row| row.map { |each| each / 44.0 } }
    inverse.flatten.zip(expected.flatten).each { |got, want| expect(got).to be_within(1e-12).of(want) }
    expect { Vestry::Core::Tally::Cholesky.factor([[1.0, 2.0], [2.0, 1.0]]) }.to raise_error(ArgumentError)
  end
end
