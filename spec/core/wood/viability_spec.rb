# frozen_string_literal: true

RSpec.describe "Whether stored wood still lives", :core do
  def told(*tests)
    tests = tests.each_with_index.map { |test, n| { on: Date.new(2026, 2, 1) + n }.merge(test) }
    Vestry::Core::Wood::Viability.of(tests)
  end

  def codes(*tests) = told(*tests).map { |reason| reason[:code] }

  it "says of a cut what it showed last" do
    expect(codes({ cut: "dull" }, { cut: "green" })).to eq %w[wood_cut_green]
    expect(codes({ cut: "brown" })).to eq %w[wood_cut_brown]
  end

  it "expects of the rest what a few forced sticks bear, and no more" do
    expect(told({ forced: 3, forced_moved: 2 }).first).to include(code: "wood_forced_some", live: 0.6)
    expect(told({ forced: 3, forced_moved: 3 }).first).to include(code: "wood_forced_all", live: 0.8)
    expect(told({ forced: 3, forced_moved: 0 }).first).to include(code: "wood_forced_none", live: 0.2)
  end

  it "sets wood that lost eight parts of a hundred to use, and doubts it at fifteen" do
    weighed = ->(grams) { told({ weight_g: 500.0 }, { weight_g: grams }).map { |each| each.values_at(:code, :lost) } }
    expect(weighed[460.5]).to match [["wood_dried_well", be_within(1e-9).of(0.079)]]
    expect(weighed[460.0]).to match [["wood_dried_use", be_within(1e-9).of(0.08)]]
    expect(weighed[425.0]).to match [["wood_dried_doubt", be_within(1e-9).of(0.15)]]
    expect(codes({ weight_g: 500.0 })).to eq []
  end

  it "takes no stick that went for water, and goes on from what was lost before" do
    grams = ->(*pairs) { told(*pairs.map { |weight, sticks| { weight_g: weight, sticks: sticks } }) }
    expect(grams[[500.0, 20], [250.0, 10]]).to eq []
    expect(grams[[500.0, 20], [475.0, 20], [240.0, 10]].first).to include(code: "wood_dried_well",
                                                                          lost: be_within(1e-9).of(0.05))
    # A twentieth while there were twenty, and a tenth of the rest while there were ten.
    expect(grams[[500.0, 20], [475.0, 20], [240.0, 10], [216.0, 10]].first)
      .to include(code: "wood_dried_use", lost: be_within(1e-9).of(1 - 0.95 * 0.9))
    expect(grams[[500.0, nil], [450.0, nil]].first).to include(code: "wood_dried_use")
  end

  it "says the gravest first" do
    expect(codes({ weight_g: 500.0 }, { weight_g: 450.0, cut: "green", forced: 3, forced_moved: 0 }))
      .to eq %w[wood_forced_none wood_dried_use wood_cut_green]
  end

  it "takes leafy wood as dead beyond its life, and what sleeps not by its days alone" do
    book = Vestry::Core::Rulebook.shipped
    told = ->(species, days) { Vestry::Core::Wood::Viability.withered?(species, days, book) }
    expect([told["citrus", 75], told["citrus", 76], told["mango", 10], told["mango", 11], told["apple", 400]])
      .to eq [false, true, false, true, false]
  end
end
