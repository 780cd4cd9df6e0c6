# frozen_string_literal: true

RSpec.describe "methods" do
  def ranking(**input)
    reckon("methods", { stock_mm: 62, scion_mm: 9, slipping: true, species: "apple" }.merge(input))[:ranking]
  end

  def score(method, **input) = ranking(**input).find { |each| each[:method] == method }

  it "works out the example" do
    expect(ranking.reject { |each| each[:blocked] }.map { |each| [each[:method], each[:score].round(6)] })
      .to eq [["bark", 90.0], ["inlay", 90.0], ["rind", 90.0], ["cleft", 81.225]]
    expect(ranking.size).to eq 12
  end

  it "knows the end of a stub, the side of what stays and a young shoot apart" do
    usable = ->(**asked) { ranking(**asked).reject { |each| each[:blocked] }.map { |each| each[:method] } }
    expect(usable.call(place: "side")).to eq ["side-bark"]
    expect(usable.call(place: "shoot", stock_mm: 12, scion_mm: nil)).to match_array %w[shield-bud chip-bud]
    expect(usable.call(stock_mm: 30, scion_mm: 12, slipping: false)).to eq %w[cleft tongued-side]
    expect(score("side-bark")[:reasons]).to include(code: "other_place", method: "side-bark", place: "end")
    expect(ranking(place: "side", stock_mm: 20).find { |each| each[:method] == "approach" }[:reasons])
      .to include(code: "no_donor", method: "approach")
    expect(usable.call(place: "side", stock_mm: 20, slipping: false, donor: true)).to include "approach"
  end

  it "says how many sticks each has room for" do
    most = ranking.to_h { |each| each.values_at(:method, :most_sticks) }
    expect(most.values_at("bark", "inlay", "rind", "cleft", "four-flap", "whip-and-tongue", "chip-bud", "approach"))
      .to eq [5, 5, 5, 2, 1, 1, 1, 1]
  end

  it "cleaves thin stock for a stick of its own size alone, and sets a thin whip to one side" do
    expect(score("cleft", stock_mm: 12, scion_mm: 11.5, slipping: false)[:score]).to be > 0
    expect(score("cleft", stock_mm: 12, scion_mm: 7, slipping: false)[:blocked]).to be true
    expect(score("cleft", stock_mm: 15, scion_mm: 7, slipping: false)[:blocked]).to be false
    expect(score("cleft", stock_mm: 5.9, scion_mm: 5.9, slipping: false)[:blocked]).to be true
    even, thin = [11.5, 9].map { |mm| score("whip-and-tongue", stock_mm: 12, scion_mm: mm, slipping: false) }
    expect(thin[:score]).to be < even[:score]
    expect([even, thin].map { |each| each[:reasons].count { |reason| reason[:code] == "scion_one_side" } }).to eq [0, 1]
  end

  it "blocks whatever needs slipping bark when it does not slip" do
    usable = ranking(slipping: false).reject { |each| each[:blocked] }
    expect(usable.map { |each| each[:method] }).to eq ["cleft"]
    expect(score("bark", slipping: false)[:reasons].map { |each| each[:code] }).to include "needs_slip"
  end

  it "does not block at the very edge, though nothing speaks for it" do
    expect(score("bark", stock_mm: 25)).to include(blocked: false, score: 0.0)
    expect(score("bark", stock_mm: 24.9)[:blocked]).to be true
  end

  it "measures flap and whip sticks against the stock" do
    expect(score("four-flap", stock_mm: 16, scion_mm: 16.8)[:score]).to be_within(1e-6).of(85.5)
    expect(score("four-flap", stock_mm: 16, scion_mm: 9)[:blocked]).to be true
  end

  it "says what stick is wanted when none is on hand" do
    found = score("whip-and-tongue", stock_mm: 10, scion_mm: nil)
    expect(found[:scion_wanted_mm]).to eq [9.0, 10.0]
    expect(found[:score]).to be_within(1e-6).of(90)
  end

  it "draws a bud on a shoot as thick as a pencil, and others on what was measured, or on a limb as most are" do
    book = Vestry::Core::Rulebook.shipped
    drawn = ->(method, measured) { Vestry::Core::Plan::Methods.drawn_stock(method, measured, book) }
    expect(%w[shield-bud chip-bud].flat_map { |method| [drawn[method, 60.0], drawn[method, nil]] }).to eq [9.0] * 4
    expect([drawn["rind", 61.5], drawn["rind", nil], drawn["approach", nil]]).to eq [61.5, 40.0, 40.0]
  end

  it "weighs the school, and caps what is expected" do
    expect(score("inlay", school: "waxed-rind")[:score]).to be_within(1e-6).of(81)
    expect(score("approach", stock_mm: 20)[:expected_take]).to be_within(1e-9).of(0.945)
  end

  it "says that a stub or a stick is in the best range, workable or outside, with that range" do
    said = lambda do |stock, scion|
      score("bark", stock_mm: stock, scion_mm: scion)[:reasons].filter_map do |each|
        each.values_at(:code, :from_mm, :to_mm) if each[:code].match?(/\A(stock|scion)_/)
      end
    end
    expect(said[40, 6]).to eq [["stock_ideal", 40, 100], ["scion_ideal", 6, 13]]
    expect(said[100, 13]).to eq [["stock_ideal", 40, 100], ["scion_ideal", 6, 13]]
    expect(said[39, 14]).to eq [["stock_workable", 40, 100], ["scion_workable", 6, 13]]
    expect(said[151, 17]).to eq [["stock_outside", 25, 150], ["scion_outside", 5, 16]]
  end

  it "never scores outside 0 to 100, and puts the blocked last" do
    PropCheck.forall(PropCheck::Generators.tuple(PropCheck::Generators.choose(1..300),
                                                 PropCheck::Generators.choose(1..40))) do |(stock, scion)|
      rows = ranking(stock_mm: stock, scion_mm: scion)
      expect(rows.map { |each| each[:score] }).to all(be_between(0, 100))
      expect(rows.map { |each| each[:blocked] }).to eq(rows.map { |each| each[:blocked] }.sort_by { |b| b ? 1 : 0 })
    end
  end

  it "is drawn towards what took in the orchard, the more the more was counted" do
    few, many = [[1, 4], [10, 40]].map do |takes, trials|
      score("bark", own: [{ method: "bark", takes: takes, trials: trials }])
    end
    expect(few[:expected_take]).to be_within(1e-9).of((1 + 8 * 0.9) / 12)
    expect(many[:expected_take]).to be_within(1e-9).of((10 + 8 * 0.9) / 48)
    expect([few[:score], many[:score]].map { |each| each.round(6) }).to eq [68.333333, 35.833333]
    expect(many[:reasons].find { |each| each[:code] == "own_take" }).to include(takes: 10, trials: 40)
    # Two sticks each: four stubs of which one took speak worse of each stick than four single ones.
    expect(score("bark", own: [{ method: "bark", takes: 1, trials: 4, sticks: 2 }])[:expected_take])
      .to be < few[:expected_take]
    expect(refusal("methods", stock_mm: 62, slipping: true, species: "apple",
                   own: [{ method: "bark", takes: 5, trials: 4 }]).field).to eq "own[0].trials"
    expect(refusal("methods", stock_mm: 62, slipping: true, species: "apple",
                   own: [{ method: "bark", takes: 5, trials: 0 }]).field).to eq "own[0].trials"
  end

  it "never expects more than most_take, however often it took" do
    expect(score("bark", own: [{ method: "bark", takes: 400, trials: 400 }])[:expected_take]).to eq 0.97
  end

  it "expects of what nobody tried as much, against the book, as what was tried did" do
    own = [{ method: "bark", takes: 1, trials: 4 }, { method: "rind", takes: 12, trials: 12 },
           { method: "four-flap", takes: 2, trials: 5 }]
    # Bark and rind are of one kin: 13 of 16 together. Every stub counts once.
    tried = [(13 + 8 * 0.9) / 24, (2 + 8 * 0.855) / 13]
    ratio = (16 * tried[0] + 5 * tried[1]) / (16 * 0.9 + 5 * 0.855)
    expect(score("cleft", own: own)[:expected_take]).to be_within(1e-9).of(0.855 * ratio)
    expect(score("cleft", own: own)[:reasons].find { |each| each[:code] == "own_others" }[:ratio]).to be_within(1e-9)
      .of(ratio)
    expect(%w[bark inlay rind].map { |method| score(method, own: own)[:expected_take] })
      .to all(be_within(1e-9).of(tried[0]))
    # All failures are not the method's: with one kind tried alone, the order stays.
    failing = [{ method: "bark", takes: 1, trials: 8 }]
    expect(ranking(own: failing).reject { |each| each[:blocked] }.map { |each| each[:method] }).to eq(ranking
      .reject { |each| each[:blocked] }.map { |each| each[:method] })
    expect(ranking(own: [{ method: "bark", takes: 0, trials: 0 }])).to eq ranking
  end

  it "says nothing of what nobody tried, where the book has what was tried never take" do
    book = Vestry::Core::Rulebook.shipped.overruled("methods.bark.take_factor" => { "value" => 0 },
                                                    "methods.rind.take_factor" => { "value" => 0 },
                                                    "methods.inlay.take_factor" => { "value" => 0 })
    own = [{ method: "bark", takes: 3, trials: 4 }]
    found = Vestry::Core.reckoning("methods")
      .reckon({ stock_mm: 62, slipping: true, species: "apple", own: own }, rulebook: book)[:ranking]
    expect(found.find { |each| each[:method] == "cleft" }[:expected_take]).to be_within(1e-9).of(0.855)
  end

  it "refuses a species the rulebook does not know" do
    expect(refusal("methods", stock_mm: 62, slipping: true, species: "oak").message)
      .to match(/\Aspecies: one of apple,/)
  end
end
