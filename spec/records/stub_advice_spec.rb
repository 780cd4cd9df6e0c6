# frozen_string_literal: true

# Which method is proposed for a limb, and so where it is cut.
RSpec.describe Vestry::Records::StubAdvice do
  # A scaffold of 73 mm at its fork, which thins to 22 mm over 1829 mm, within reach and out of the sheep's.
  def proposed(school, **facts)
    here = orchard(school: school, grazing: "sheep")
    advice = described_class.new(limb(tree(here), "A", girth_mm: 229, length_mm: 1829, **facts), planned: nil)
    [advice.technique, advice.stock_mm.round, advice.at_mm.round]
  end

  it "takes the school's first method that suits the wood, and none that only the limb's tip would do for" do
    # A whip works up to 22 mm, which is this limb's tip, and there not well; flaps are best on its tip. A cleft suits
    # from 26 to 60 mm, and lies where it is above what browses.
    expect(proposed("film-wrap").first).to eq "cleft"
    expect(proposed("film-wrap")[1]).to be_between(26, 60)
    expect(proposed("film-wrap")[2]).to be < 1829 * 0.9
    expect(proposed("film-wrap", girth_mm: 63, length_mm: 1500).first).to eq "whip-and-tongue"
    # Where all but the tip is within the sheep's reach, what suits the tip.
    expect(proposed("film-wrap", girth_mm: 230, length_mm: 1000, fork_mm: 600).first).to eq "four-flap"
  end

  it "offers a limb for work by any method, and says alike on every page why it has no place for one" do
    here = orchard(school: "film-wrap", grazing: "none", reach_mm: 2400)
    stock = tree(here, height_mm: 9000)
    low, high = [2000, 2600].map do |fork|
      limb(stock, "L#{fork}", girth_mm: 360, length_mm: 3600, fork_mm: fork, rise_deg: 60, bearing_deg: fork / 10)
    end
    offered = Vestry::Records::TreePlan.new(Vestry::Records::Tree[stock.id], World::TODAY)
    told = [low, high].map { |one| [offered.role(one), *offered.reasons(one).first.values_at(:code, :own, :conflict)] }
    expect(told).to eq [["work", "head_cuttable", false, nil], ["nurse", "head_no_cut", nil, ["reach"]]]
    expect([low, high].map { |one| offered.outlook(one).then { |o| [o.technique, o.cut[:conflict]] } })
      .to eq [["bark", []], ["cleft", ["reach"]]]
  end

  it "names no place to cut long where it has none to cut" do
    # All of it hangs within the reach of horses.
    here = orchard(school: "film-wrap", grazing: "horses", reach_mm: 2400)
    low = limb(tree(here), "A", girth_mm: 200, length_mm: 900, fork_mm: 500, rise_deg: 10)
    advice = described_class.new(low, planned: nil)
    expect([advice.at_mm, advice.stock_mm, advice.long_cut_mm]).to eq [nil, nil, nil]
  end

  it "is within reach where it is cut as high as the hand reaches, to the tenth of a millimetre that is kept" do
    here = orchard(reach_mm: 2438.4)
    told = [2438.45, 2440].map { |high| here.beyond_reach?(high) }
    expect([*told, here.beyond_reach?(nil)]).to eq [false, true, false]
  end
end
