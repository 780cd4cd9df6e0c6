# frozen_string_literal: true

RSpec.describe "foresee", :core do
  def stub(id, **more) = { id: id, group: "apple", season: 0, share: 0.2, stub_mm: 40, shoot_mm: 900 }.merge(more)
  def group(mean, strength) = [{ id: "apple", mean: mean, strength: strength }]

  def told(stubs, mean: 0.75, strength: 8, **more)
    reckon("foresee", { groups: group(mean, strength), stubs: stubs, runs: 4000 }.merge(more))
  end

  it "draws one chance for all stubs of a hand, so that all take more often than each by itself" do
    # Four of one stick: the mean of p^4 over Beta(6, 2) is 6 x 7 x 8 x 9 / (8 x 9 x 10 x 11) = 21/55.
    four = (1..4).map { |id| stub(id) }
    expect(told(four, runs: 8000)[:all_took]).to be_within(0.012).of(21 / 55.0)
    # Known for certain it is 0.75 to the fourth.
    expect(told(four, strength: 1_000_000.0, runs: 8000)[:all_took]).to be_within(0.012).of(0.75**4)
  end

  it "gives the same answer to the same question, and another to another seed" do
    one = told([stub(1), stub(2, season: 1)])
    expect(told([stub(1), stub(2, season: 1)])).to eq one
    expect(told([stub(1), stub(2, season: 1)], seed: 2)[:all_took]).not_to eq one[:all_took]
  end

  it "takes the minutes of a large crew over a year in which bark slips all through" do
    year = { minutes: 200 * 24 * 60 * 366, gust: 1.0 }
    expect(told([stub(1, minutes: 30)], years: [year], mean: 1.0)[:put_off].values.uniq).to eq [0.0]
  end

  it "counts a stub as old wood until its season, and by its regrowth after" do
    sure = told([stub(1, season: 2, share: 0.4)], mean: 1.0, old: { share: 0.6, lifts: [{ share: 0.1, season: 1 }] })
    means = sure[:seasons].map { |season| season[:living][:mean].round(6) }
    # 2.5 + 0.0095 x 900 + 12 a season, of a stub of 40 mm: 11.05, 23.05, 35.05 and then all of it.
    shares = [11.05, 23.05, 35.05, 40, 40, 40, 40, 40].map { |mm| (mm / 40.0)**2 }
    expect(means).to eq([1.0, 0.9] + shares.map { |share| (0.5 + 0.4 * share).round(6) })
    expect([sure[:all_took], sure[:regrafts][:mean]]).to eq [1.0, 0.0]
    # It bears from its third season on: 0.45, 0.7, 0.9, 1 of what stands.
    crops = sure[:seasons].map { |season| season[:crop][:p50].round(6) }
    expect(crops.first(6)).to eq [1.0, 0.9, 0.5, 0.5, (0.5 + 0.4 * 0.45 * (35.05 / 40)**2).round(6), 0.78]
    # Nine tenths of 0.9 is 0.81, and that is in season six.
    expect(sure[:crop_back]).to eq(p10: 6.0, p50: 6.0, p90: 6.0)
  end

  it "works again what failed, as often as it may and no more, and loses what the wind takes" do
    never = told([stub(1, sticks: 2, minutes: 25)], mean: 0.0, regraft: { tries: 2, takes_factor: 1.0 })
    expect(never[:regrafts]).to eq(p10: 2.0, p50: 2.0, p90: 2.0, mean: 2.0)
    expect(never.values_at(:regraft_sticks, :regraft_minutes).map { |each| each[:mean] }).to eq [4.0, 50.0]
    expect([never[:all_took], never[:seasons].last[:living][:mean], never[:crop_back][:p50]]).to eq [0.0, 0.0, nil]
    blown = told([stub(1, wind: [0.0, 1.0])], mean: 1.0, regraft: { tries: 1, takes_factor: 1.0 })
    living = blown[:seasons].map { |season| season[:living][:mean].positive? }
    # It stands in its first season, is gone in its second, is set again in the third and gone in the fourth.
    expect(living).to eq [true, false, true] + [false] * 7
    half = told([stub(1)], mean: 0.5, strength: 1_000_000.0, regraft: { tries: 1, takes_factor: 0.5 })
    expect(half[:all_took]).to be_within(0.025).of(0.5 + 0.5 * 0.25)
  end

  it "has no season in which the crop is back where no graft lives, although a nurse beside them bears on" do
    told = told([stub(1, share: 0.7)], mean: 0.5, strength: 1_000_000.0, old: { share: 0.3, lifts: [] })
    # Half of the runs lose it for good; in the others it bears 0.9 of its share in season four: 0.93 with the nurse.
    expect(told[:crop_back]).to include(p10: 4.0, p90: nil)
  end

  it "is never worse for another stick, another try, or less wind" do
    base = { mean: 0.6, strength: 6.0, regraft: { tries: 1, takes_factor: 0.8 } }
    took = lambda do |wind: [0.1, 0.05], sticks: 1, **more|
      told([stub(1, wind: wind, sticks: sticks)], **base, **more)[:all_took]
    end
    expect(took[sticks: 2]).to be > took[]
    expect(took[wind: [0.0, 0.0]]).to be > took[]
    expect(took[regraft: { tries: 3, takes_factor: 0.8 }]).to be > took[]
    ranks = told([stub(1), stub(2)], **base)[:seasons].map { |season| season[:living].values_at(:p10, :p50, :p90) }
    expect(ranks).to all(satisfy { |low, middle, high| low <= middle && middle <= high })
  end

  describe "in past years" do
    let(:sure) { { mean: 1.0, strength: 1_000_000.0, regraft: { tries: 1, takes_factor: 1.0 } } }

    def year(minutes, gust = 1.0) = { minutes: minutes, gust: gust }

    it "works a season's stubs in order while its minutes last, and puts the rest off" do
      three = (1..3).map { |id| stub(id, minutes: 30, share: 0.2) }
      put = told(three, years: [year(70)], **sure)
      expect(put[:put_off]).to eq(p10: 1.0, p50: 1.0, p90: 1.0, mean: 1.0)
      # Two are set in the first season, 11.05 of 40 mm, and the third is old wood until the second.
      young = (11.05 / 40)**2
      expect(put[:seasons].first[:living][:mean]).to be_within(1e-9).of(0.2 + 2 * 0.2 * young)
      expect(put[:all_took]).to eq 1.0
      # Other trees come first in the first season: one is set, and two wait.
      busy = told(three, years: [year(70)], busy: [40.0], **sure)
      expect([busy[:put_off][:mean], busy[:all_took]]).to eq [2.0, 1.0]
      # What needs no bark that slips waits for no spring.
      asleep = told(three.map { |each| each.merge(needs_slip: false) }, years: [year(0)], **sure)
      expect(asleep[:put_off][:mean]).to eq 0.0
      # What no year has the time for is never worked.
      never = told(three, years: [year(20)], seasons: 4, **sure)
      expect([never[:put_off][:mean], never[:all_took], never[:seasons].last[:living][:mean].round(9)])
        .to eq [12.0, 0.0, 0.6]
    end

    it "draws each season one of them, with its gusts" do
      half = told([stub(1, minutes: 30)], years: [year(0), year(60)], runs: 8000, seasons: 8, **sure)
      # Put off n times in n bad years before a good one: one on the whole, but for the end.
      expect(half[:put_off][:mean]).to be_within(0.06).of((1..8).sum { |n| 0.5**n })
      blown = lambda do |gusts|
        told([stub(1, wind: [0.2, 0.0])], mean: 1.0, years: gusts.map { |gust| year(100, gust) },
                                          runs: 8000)[:all_took]
      end
      expect(blown[[2.0]]).to be_within(0.012).of(0.6)
      expect(blown[[0.0, 2.0]]).to be_within(0.012).of(0.8)
    end

    it "gives each stub the same luck in whatever order, and in whatever season it is worked" do
      one, other = [%w[a b], %w[b a]].map do |order|
        told(order.map { |id| stub(id) }, mean: 0.5, regraft: { tries: 1, takes_factor: 0.9 })
      end
      expect(other).to eq one
      later = told([stub("a"), stub("b", season: 1)], mean: 0.5, regraft: { tries: 1, takes_factor: 0.9 })
      expect(later[:all_took]).to eq one[:all_took]
    end
  end

  it "works again only while there is wood, and has more where a stub of it lives" do
    failing = { mean: 0.0, strength: 1.0, regraft: { tries: 3, takes_factor: 1.0 } }
    made = ->(sticks, **more) { told([stub(1, sticks: 2, wood: "x")], wood: [{ id: "x", sticks: sticks }], **more) }
    expect(made[5, **failing][:regrafts][:mean]).to eq 2.0
    expect(made[1, **failing][:regrafts][:mean]).to eq 0.0
    expect(made[6, **failing][:regrafts][:mean]).to eq 3.0
    # Wood of which nothing is said is to be had.
    expect(told([stub(1, wood: "y")], wood: [{ id: "x", sticks: 0 }], **failing)[:regrafts][:mean]).to eq 3.0
    # One is blown out in its second summer, the other stands and gives a stick a winter.
    both = lambda do |gives|
      told([stub(1, wind: [0.0, 1.0], wood: "x"), stub(2, wood: "x")], mean: 1.0, strength: 1.0,
           wood: [{ id: "x", sticks: 0, gives: gives }], regraft: { tries: 1, takes_factor: 1.0 })[:regrafts][:mean]
    end
    expect([both[0], both[1]]).to eq [0.0, 1.0]
  end

  it "is never worse for more minutes or more wood" do
    stubs = (1..6).map { |id| stub(id, minutes: 30, sticks: 2, wood: "x", wind: [0.1, 0.05], season: id % 2) }
    came_to = lambda do |minutes: 90, sticks: 2|
      told(stubs, mean: 0.6, years: [{ minutes: minutes }, { minutes: minutes / 3 }],
                  wood: [{ id: "x", sticks: sticks }], regraft: { tries: 2, takes_factor: 0.9 })[:all_took]
    end
    expect([came_to[minutes: 45], came_to[], came_to[minutes: 300]]).to(satisfy { |each| each == each.sort })
    expect([0, 2, 8, 100].map { |sticks| came_to[sticks: sticks] }).to(satisfy { |each| each == each.sort })
  end

  it "counts no old wood of a stub that is headed already" do
    living = [false, true].map do |headed|
      told([stub(1, season: 1, headed: headed)], mean: 1.0, strength: 1e6, old: { share: 0.8 })[:seasons]
        .map { |each| each[:living][:mean] }
    end
    expect(living.map(&:first)).to match [be_within(1e-9).of(1.0), be_within(1e-9).of(0.8)]
    expect(living[0].drop(1)).to eq living[1].drop(1)
  end

  it "refuses a stub of no group, and no stub" do
    expect(refusal("foresee", groups: group(0.7, 8), stubs: [stub(1, group: "pear")]).field).to eq "stubs[0].group"
    expect(refusal("foresee", groups: group(0.7, 8), stubs: []).field).to eq "stubs"
  end
end
