# frozen_string_literal: true

# Where one thing turns into the next: a day, a figure, a size.
RSpec.describe "Edges of what is read and asked" do
  let(:here) { orchard }

  it "takes a bloom of one day as one day, and one over New Year into the next" do
    span = ->(from, to) { Vestry::Records::VarietyFit.span(from, to) }
    expect(span["05-01", "05-01"]).to eq(from: "2025-05-01", to: "2025-05-01")
    expect(span["11-20", "01-10"]).to eq(from: "2025-11-20", to: "2026-01-10")
  end

  it "reads a figure with its thousands apart, whichever mark parts them" do
    read = Vestry::Records::FigureReader.allocate
    read.instance_variable_set(:@comma, false)
    figures = { "1.234,5" => "1234.5", "1,234.5" => "1234.5", "1.234.567,8" => "1234567.8", "1,234,567" => "1234567",
                "12,5" => "12.5", "12.5" => "12.5", "1,234" => "1234", "1 234" => "1234" }
    expect(figures.keys.to_h { |said| [said, read.send(:pointed, said)] }).to eq figures
  end

  it "practises a flap cut on the wood under the bark, and not on what bark makes of it" do
    stem = limb(tree(here), "A", girth_mm: 60, bark_mm: 2)
    Vestry::Deeds::DecideLimb.call(stem, { role: "work", technique: "four-flap", cut: 300.0, season: 2026,
                                           variety: variety(here).id, against_reason: "so" }, by: "Orla", season: 2026)
    exercise, own = Vestry::Records::PracticeNumbers.of(stem.reload, World::TODAY)
    thick = Vestry::Records::StubAdvice.new(stem, planned: stem.planned).stock_mm
    bark = Vestry::Records::CoreInputs.bark(stem, thick).to_f
    expect([exercise, own[:flaps]]).to eq ["to-wood", 4]
    expect(own[:stock_wood_mm]).to be_within(0.1).of(thick - 2 * bark)
    expect(own[:stock_wood_mm]).to be < thick
  end

  it "measures a planned cut anew up to where its limb ends, and no further" do
    stem = limb(tree(here), "A", girth_mm: 230, length_mm: 2000)
    plan = Vestry::Records::TreePlan.new(stem.tree, World::TODAY)
    now = lambda do |at|
      row = Vestry::Records::PlanLimb.new(orchard_id: here.id, limb_id: stem.id, cut_mm: at)
      plan.send(:cut_facts, stem, row)[:stock_now_mm]
    end
    # One that was sawn there beforehand ends at its place, to the eighth of an inch.
    expect([now[1999], now[2004], now[2005]]).to match [be_positive, be_positive, nil]
  end
end
