# frozen_string_literal: true

RSpec.describe "wood", :core do
  def wood(lines, **more)
    reckon("wood", { varieties: lines, stick_mm: 200, shoot_mm: 900, tip_mm: 100, base_mm: 50, **more })
  end
  def line(stubs, sticks, success, name = "A") = { name: name, stubs: stubs, sticks_per_stub: sticks, success: success }

  it "reckons the worked example" do
    answer = wood([line(8, 2, 0.75)], confidence: 0.9, cull: 0.1)
    expect(answer[:sticks_per_shoot]).to eq 3
    expect(answer[:varieties]).to eq [{ name: "A", sticks: 16, reserve: 2, total: 22, shoots: 8 }]
  end

  it "keeps the reserve that the binomial asks for, against a sum by hand" do
    [[5, 1, 0.6], [12, 2, 0.5], [30, 3, 0.4]].each do |n, k, success|
      q = (1 - success)**k
      choose = ->(j) { (1..j).inject(1.0) { |product, i| product * (n - j + i) / i } }
      sums = (0..n).inject([]) { |all, j| all << (all.last || 0.0) + choose[j] * q**j * (1 - q)**(n - j) }
      expect(wood([line(n, k, success)])[:varieties].first[:reserve]).to eq k * sums.index { |sum| sum >= 0.9 }
    end
  end

  it "cuts so many that culls leave enough in as many springs as it says, against sums by hand" do
    choose = ->(n, j) { (1..j).inject(1.0) { |product, i| product * (n - j + i) / i } }
    binomial = ->(n, q) { (0..n).map { |j| choose.(n, j) * q**j * (1 - q)**(n - j) } }
    [[8, 2, 0.75, 0.1], [6, 1, 0.5, 0.2], [10, 3, 0.6, 0.05]].each do |n, k, success, cull|
      fail = binomial.(n, (1 - success)**k)
      enough = lambda do |cut|
        left = binomial.(cut, 1 - cull)
        fail.each_with_index.sum { |chance, f| chance * (left[(n * k + f * k)..] || []).sum }
      end
      total = wood([line(n, k, success)], cull: cull)[:varieties].first[:total]
      expect([enough.(total - 1) < 0.9, enough.(total) >= 0.9]).to eq [true, true]
    end
  end

  it "keeps more in reserve while little was counted, and comes to the known chance as more is" do
    reserves = [0, 10, 100, 100_000, nil].map do |trials|
      wood([line(20, 1, 0.7).merge(trials: trials)])[:varieties].first[:reserve]
    end
    expect(reserves).to eq reserves.sort.reverse
    expect(reserves.first).to be > reserves.last
    expect(reserves[3]).to eq reserves[4]
  end

  it "agrees with drawn springs: nine in ten have enough" do
    random = Random.new(7)
    total = wood([line(12, 2, 0.6)], cull: 0.1)[:varieties].first[:total]
    enough = 4000.times.count do
      failed = 12.times.count { 2.times.none? { random.rand < 0.6 } }
      total.times.count { random.rand >= 0.1 } >= 24 + 2 * failed
    end
    expect(enough / 4000.0).to be_between(0.88, 0.96)
  end

  it "refuses more than can be reckoned in time" do
    many = Array.new(500) { |i| line(5000, 12, 0.5 + i / 1500.0).merge(trials: 9) }
    expect(refusal("wood", varieties: many, stick_mm: 200, shoot_mm: 900, tip_mm: 100, base_mm: 50).field)
      .to eq "varieties"
  end

  it "stays sure of itself with thousands of stubs" do
    expect(wood([line(5000, 1, 0.7)])[:varieties].first[:reserve]).to be_between(1500, 1560)
  end

  it "needs no reserve where all takes, and everything again where nothing does" do
    expect(wood([line(4, 2, 1)])[:varieties].first[:reserve]).to eq 0
    expect(wood([line(4, 2, 0)])[:varieties].first[:reserve]).to eq 8
    expect(wood([line(0, 2, 0.5)])[:varieties].first).to include(sticks: 0, reserve: 0, total: 0, shoots: 0)
  end

  it "takes a name on several lines, and keeps one reserve for them together" do
    answer = wood([line(4, 1, 0.8), line(2, 3, 0.8), line(1, 1, 0.8, "B")])
    expect(answer[:varieties].size).to eq 3
    expect(answer[:names].map { |each| [each[:name], each[:sticks]] }).to eq [["A", 10], ["B", 1]]
    # One stub of four fails in 59 %, two in 18 %, and hardly one of the two with three sticks.
    expect(answer[:names].first[:reserve]).to be <= answer[:varieties].first(2).sum { |each| each[:reserve] }
  end

  it "wants never less for more stubs, or a surer reserve" do
    totals = (0..40).map { |n| wood([line(n, 2, 0.7)])[:varieties].first[:total] }
    expect(totals).to eq totals.sort
    surer = [0.5, 0.8, 0.9, 0.99].map { |c| wood([line(12, 1, 0.6)], confidence: c)[:varieties].first[:reserve] }
    expect(surer).to eq surer.sort
  end

  it "refuses sticks longer than what is left of a shoot" do
    expect(refusal("wood", varieties: [line(1, 1, 0.5)], stick_mm: 800, shoot_mm: 900, tip_mm: 100, base_mm: 50).field)
      .to eq "stick_mm"
    expect(refusal("wood", varieties: [line(1, 1, 1.5)], stick_mm: 200, shoot_mm: 900, tip_mm: 0, base_mm: 0).field)
      .to eq "varieties[0].success"
    expect(refusal("wood", varieties: [], cull: 1, stick_mm: 200, shoot_mm: 900, tip_mm: 0, base_mm: 0).field)
      .to eq "cull"
  end
end
