# frozen_string_literal: true

RSpec.describe "allotment", :core do
  def limb(id, share, stub_mm, **more)
    { id: id, share: share, stub_mm: stub_mm, shoot_mm: 900, take: 0.9, sticks: 1, minutes: 20, variety: "v", **more }
  end

  def wood(*sticks) = sticks.each_with_index.map { |count, season| { variety: "v", season: season, sticks: count } }

  def one_tree(**more)
    { trees: [{ id: 1, worth: 1, cap: 0.45, limbs: [limb("A", 0.3, 60), limb("B", 0.25, 40), limb("C", 0.2, 90),
                                                    limb("D", 0.15, 30)] }],
      seasons: 2, horizon: 3, wood: wood(2, 1), minutes: [60, 60] }.merge(more)
  end

  # Every choice of some limbs, with what it is worth and whether it keeps all limits: by the definition alone.
  def exhaustive(asked)
    limbs = asked[:trees].flat_map { |tree| tree[:limbs].map { |each| [tree, each] } }
    seasons = asked[:seasons]
    best = 0.0
    (seasons + 1).pow(limbs.size).times do |number|
      chosen = limbs.each_with_index.map { |pair, at| [*pair, number / (seasons + 1)**at % (seasons + 1)] }
        .reject { |_, _, season| season == seasons }
      best = [best, worth(chosen, asked[:horizon])].max if kept?(chosen, asked)
    end
    best
  end

  def worth(chosen, horizon)
    chosen.sum(0.0) do |tree, each, season|
      across = 2.5 + 0.0095 * each[:shoot_mm] + 12 * (horizon - season)
      tree[:worth] * each[:share] * each[:take] * [1.0, (across / each[:stub_mm])**2].min
    end
  end

  def kept?(chosen, asked)
    (0...asked[:seasons]).all? do |season|
      now = chosen.select { |_, _, other| other == season }
      sticks = asked[:wood].find { |row| row[:season] == season }&.fetch(:sticks) || 99
      now.sum { |_, each, _| each[:sticks] } <= sticks &&
        now.sum { |_, each, _| each[:minutes] } <= (asked[:minutes][season] || 1e9) &&
        now.group_by(&:first).all? { |tree, all| all.sum { |_, each, _| each[:share] } <= tree[:cap] + 1e-9 }
    end
  end

  def told(chosen) = chosen.map { |each| each.values_at(:limb, :season) }

  it "answers the worked example, and says what one more stick would bring" do
    answer = reckon("allotment", one_tree)
    expect(answer).to include(value: be_within(5e-7).of(0.473786), gap: 0.0, exact: true)
    expect(told(answer[:chosen])).to eq [["A", 0], ["D", 0], ["B", 1]]
    # A stick more in the second season is worth something, one in the first and an hour more are not.
    expect(answer[:binding].map { |each| each.values_at(:what, :season) }).to eq [["v", 1]]
    expect(answer[:binding][0][:price])
      .to be_within(1e-9).of(exhaustive(one_tree(wood: wood(2, 2))) - exhaustive(one_tree))
  end

  describe "over made-up orchards" do
    let(:random) { Random.new(4) }

    def made(limbs, trees: 2)
      shared = Array.new(trees) { [] }
      limbs.times do |n|
        shared[n % trees] << limb("L#{n}", 0.1 + random.rand * 0.2, 25 + random.rand * 80.0,
                                  sticks: 1 + random.rand(3), minutes: 10 + random.rand(30))
      end
      { trees: shared.each_with_index.map { |all, id| { id: id, worth: 0.5 + random.rand, cap: 0.4, limbs: all } },
        seasons: 2, horizon: 3, wood: wood(2 + random.rand(4), 1 + random.rand(4)), minutes: [70, 60] }
    end

    it "is the best there is, to seven limbs" do
      12.times do
        asked = made(3 + random.rand(5))
        expect(reckon("allotment", asked)[:value]).to be_within(1e-9).of(exhaustive(asked))
      end
    end

    it "passes no limit, never says more than its bound, and is the same again, by search and by prices" do
      8.times do
        asked = made(9, trees: 3)
        exact = reckon("allotment", asked)
        [0, 12].each do |exact_to|
          answer = reckon("allotment", asked.merge(exact_to: exact_to))
          chosen = answer[:chosen].map do |each|
            tree = asked[:trees].find { |other| other[:id] == each[:tree] }
            [tree, tree[:limbs].find { |other| other[:id] == each[:limb] }, each[:season]]
          end
          expect(kept?(chosen, asked)).to be true
          expect(worth(chosen, 3)).to be_within(1e-9).of(answer[:value])
          expect(answer[:bound]).to be >= [answer[:value], exact[:value]].max - 1e-9
          expect(answer[:value]).to be >= exact[:value] * 0.85
          expect(reckon("allotment", asked.merge(exact_to: exact_to))).to eq answer
        end
      end
    end

    it "is never worth less with more wood, more time or a greater cap" do
      6.times do
        asked = made(7)
        value = reckon("allotment", asked)[:value]
        more = [asked.merge(wood: wood(9, 9)), asked.merge(minutes: [300, 300]),
                asked.merge(trees: asked[:trees].map { |tree| tree.merge(cap: 0.9) })]
        expect(more.map { |each| reckon("allotment", each)[:value] }).to all(be >= value - 1e-9)
      end
    end
  end

  it "keeps what is fixed, and refuses what cannot be kept" do
    trees = [{ id: 1, cap: 0.45, limbs: [limb("A", 0.3, 60, fixed: 1), limb("B", 0.25, 40)] }]
    expect(told(reckon("allotment", one_tree(trees: trees))[:chosen])).to eq [["B", 0], ["A", 1]]
    both = [{ id: 1, cap: 0.45, limbs: [limb("A", 0.3, 60, fixed: 0), limb("B", 0.25, 40, fixed: 0)] }]
    expect(refusal("allotment", one_tree(trees: both)).field).to eq "trees"
    late = [{ id: 1, cap: 1, limbs: [limb("A", 0.3, 60, fixed: 5)] }]
    expect(refusal("allotment", one_tree(trees: late)).field).to eq "trees"
  end

  it "counts a limb whose head is off already for nothing under the cap, and for as much in worth" do
    asked = one_tree(wood: wood(4), seasons: 1, minutes: [600])
    free = asked[:trees].first[:limbs].map { |each| %w[A B].include?(each[:id]) ? each.merge(headed: true) : each }
    told = [asked, asked.merge(trees: [asked[:trees].first.merge(limbs: free)])]
      .map { |each| reckon("allotment", each) }
    expect(told.map { |each| each[:chosen].map { |one| one[:limb] }.sort }.last).to eq %w[A B C D]
    expect(told.first[:chosen].size).to eq 2
    # The same choice is worth the same.
    all = asked.merge(trees: [asked[:trees].first.merge(cap: 1.0)])
    expect(told.last[:value]).to be_within(1e-9).of(reckon("allotment", all)[:value])
  end
end
