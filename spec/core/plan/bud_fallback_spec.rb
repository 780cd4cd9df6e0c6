# frozen_string_literal: true

RSpec.describe "A bud that stands in for a graft" do
  def of(**facts)
    Vestry::Core::Plan::BudFallback.of(take: 0.72, shoot_mm: 450, stick_mm: 175,
                                        days: Date.new(2026, 8, 1)..Date.new(2026, 9, 7), **facts)
  end

  it "sets so many buds that nine stubs in ten get one, two at least and three at most" do
    expect(of).to include(buds: 2, take: be_within(1e-9).of(0.9216))
    expect(of(take: 0.6)).to include(buds: 3, take: be_within(1e-9).of(0.936))
    expect([0.0, 0.2, 0.99, 1.0].map { |take| of(take: take)[:buds] }).to eq [3, 3, 2, 2]
  end

  it "names shoots that a chip fits, up to what the regrowth is thick at its foot" do
    expect(of[:shoots_mm]).to match [6.0, be_within(1e-9).of(6.775)]
    expect(of(shoot_mm: 2000)[:shoots_mm]).to match [6.0, be_within(1e-9).of(8.2)]
    expect(of(shoot_mm: 300)[:shoots_mm]).to be_nil
  end

  it "asks for a stick of four buds by their spacing, and for more where sticks are short" do
    expect([175, 79, 10].map { |mm| of(take: 0.6, stick_mm: mm)[:sticks] }).to eq [1, 3, 3]
  end

  it "says the days as they were given" do
    expect(of.values_at(:from, :until)).to eq [Date.new(2026, 8, 1), Date.new(2026, 9, 7)]
  end
end
