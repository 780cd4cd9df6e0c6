# frozen_string_literal: true

RSpec.describe "match", :core do
  def site(id, method, diameter, sticks: 1, variety: "A")
    { id: id, method: method, diameter_mm: diameter, sticks: sticks, variety: variety }
  end
  def stick(id, diameter, variety: "A") = { id: id, diameter_mm: diameter, variety: variety }
  def match(sites, sticks) = reckon("match", sites: sites, sticks: sticks)

  it "gives each flap its own size" do
    answer = match([site("a", "four-flap", 10), site("b", "four-flap", 14)], [stick(1, 15.05), stick(2, 10.75)])
    expect(answer[:pairs].map { |each| [each[:site], each[:stick]] }).to eq [["a", 2], ["b", 1]]
    expect(answer[:misfit_mm]).to be_within(1e-9).of(0)
  end

  it "serves more before it fits better" do
    # The middling stick fits the first stub best, but the second can use no other.
    answer = match([site("a", "four-flap", 10), site("b", "four-flap", 11.8)], [stick(1, 10.7), stick(2, 9.2)])
    expect(answer).to include(served: 2, unserved: [], left: [])
    expect(answer[:pairs].map { |each| [each[:site], each[:stick]] }).to eq [["a", 2], ["b", 1]]
  end

  it "keeps varieties apart, works the edges of a range, and names a stub short once" do
    answer = match([site("a", "rind", 60, sticks: 3), site("b", "rind", 60, variety: "B")],
                   [stick(1, 5), stick(2, 15), stick(3, 15.1), stick(4, 8, variety: "C")])
    expect(answer).to include(served: 2, unserved: %w[a b], left: [3, 4])
  end

  it "asks nothing of the scion where any will do" do
    expect(match([site("a", "approach", 20)], [stick(1, 3)])).to include(served: 1, misfit_mm: 0.0)
    expect(match([], [stick(1, 3)])).to include(served: 0, left: [1])
    expect(match([site("a", "rind", 60)], [])).to include(unserved: ["a"])
  end

  it "refuses an id that stands twice" do
    expect(refusal("match", sites: [site("a", "rind", 60), site("a", "rind", 60)], sticks: []).field)
      .to eq "sites[1].id"
    expect(refusal("match", sites: [], sticks: [stick(1, 8), stick(1, 9)]).field).to eq "sticks[1].id"
    expect(refusal("match", sites: [site("a", "weld", 60)], sticks: []).field).to eq "sites[0].method"
  end

  # Every way there is, for a few places and sticks.
  def exhaustive(sites, sticks)
    places = sites.flat_map { |each| [each] * each[:sticks] }
    best = [0, 0.0]
    try = lambda do |i, used, served, misfit|
      best = [served, misfit] if served > best[0] || (served == best[0] && misfit < best[1])
      next if i == places.size

      try.call(i + 1, used, served, misfit)
      sticks.each_with_index do |stick, j|
        next if used.include?(j) || stick[:variety] != places[i][:variety]

        cost = Vestry::Core::Wood::Match.misfit(places[i][:method], places[i][:diameter_mm], stick[:diameter_mm],
                                                Vestry::Core::Rulebook.shipped)
        try.call(i + 1, used | [j], served + 1, misfit + cost) if cost
      end
    end
    best = [0, Float::INFINITY] if places.any?
    try.call(0, [], 0, 0.0)
    best
  end

  it "finds what trying every way finds" do
    random = Random.new(5)
    methods = %w[four-flap three-flap whip-and-tongue rind approach tongued-side]
    250.times do
      size = -> { random.rand < 0.3 ? 10.0 : 5 + random.rand * 15 }
      sites = Array.new(random.rand(1..4)) do |i|
        site(i, methods.sample(random: random), size.call, sticks: random.rand(0..2),
            variety: %w[A B].sample(random: random))
      end
      sticks = Array.new(random.rand(0..5)) { |i| stick(i, size.call, variety: %w[A B].sample(random: random)) }
      answer = match(sites, sticks)
      served, misfit = exhaustive(sites, sticks)
      expect(answer[:served]).to eq served
      expect(answer[:misfit_mm]).to be_within(1e-6).of(misfit)
      expect(answer[:pairs].map { |each| each[:stick] }.tally.values.max || 1).to eq 1
    end
  end

  it "matches bridging scions too, by their working range" do
    expect(match([site("a", "bridge", 80)], [stick(1, 5.9), stick(2, 9)]))
      .to include(served: 1, misfit_mm: 0.0, left: [1])
  end

  it "finds the same by one pass where limits rise together as by assignment" do
    random = Random.new(12)
    40.times do
      method = %w[four-flap three-flap whip-and-tongue].sample(random: random)
      sites = Array.new(random.rand(2..6)) { |i| site(i, method, 8 + random.rand * 8, sticks: random.rand(1..2)) }
      sticks = Array.new(random.rand(1..9)) { |i| stick(i, 6 + random.rand * 10) }
      answer = match(sites, sticks)
      served, misfit = exhaustive(sites, sticks.first(6)) if sites.sum { |each| each[:sticks] } <= 5 && sticks.size <= 6
      places = sites.flat_map { |each| [each] * each[:sticks] }
      costs = places.map do |place|
        sticks.map { |one| Vestry::Core::Wood::Match.misfit(place[:method], place[:diameter_mm], one[:diameter_mm],
            Vestry::Core::Rulebook.shipped) }
      end
      other = Vestry::Core::Wood::Assignment.new(costs).pairs
      expect([answer[:served], answer[:misfit_mm].round(6)])
        .to eq [other.size, other.sum { |row, column| costs[row][column] }.round(6)]
      expect([answer[:served], answer[:misfit_mm].round(6)]).to eq [served, misfit.round(6)] if served
    end
  end

  it "refuses more places that nothing orders than it can match" do
    sites = Array.new(501) { |i| site(i, i.even? ? "four-flap" : "rind", 9 + i % 7) }
    expect(refusal("match", sites: sites, sticks: Array.new(501) { |i| stick(i, 7 + i % 6) }).field).to eq "sites"
  end

  it "never serves fewer with more wood" do
    random = Random.new(9)
    sites = Array.new(12) do |i|
      site(i, %w[four-flap rind whip-and-tongue].sample(random: random), 8 + random.rand * 10,
           sticks: random.rand(1..2))
    end
    sticks = Array.new(30) { |i| stick(i, 5 + random.rand * 12) }
    served = (0..30).map { |n| match(sites, sticks.first(n))[:served] }
    expect(served).to eq served.sort
  end
end
