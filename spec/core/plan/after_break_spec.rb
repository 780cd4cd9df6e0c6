# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::AfterBreak do
  def ways(**more)
    described_class.ways(diameter_mm: 40.0, left_mm: 900.0, branches_mm: [], days_left: 12,
                         rulebook: Vestry::Core::Rulebook.shipped, **more)
  end
  def codes(**more) = ways(**more).map { |way| way[:code] }

  it "grafts below the split while the season lasts, next spring after it, and renews in any case" do
    # 900 - 1.5 x 40
    expect(ways.first).to eq(code: "break_graft", clean_mm: 840.0, days_left: 12)
    expect(codes).to eq %w[break_graft break_renew]
    expect(codes(days_left: 0)).to include "break_graft"
    expect(codes(days_left: -1)).to eq %w[break_graft_later break_renew]
    expect(codes(days_left: nil)).to eq %w[break_graft_later break_renew]
  end

  it "leaves it to a branch that is near below the break, and to no other" do
    expect(ways(branches_mm: [200.0, 600.0, 750.0, 901.0]).first)
      .to eq(code: "break_leave", branch_mm: 750.0, clean_mm: 750.0)
    expect(codes(branches_mm: [599.0])).to eq %w[break_graft break_renew]
    expect(codes(branches_mm: [600.0])).to eq %w[break_leave break_graft break_renew]
  end

  it "grafts no stub that is too thin, too thick, or all split" do
    expect(codes(diameter_mm: 11.9)).to eq %w[break_renew]
    expect(codes(diameter_mm: 125.1)).to eq %w[break_renew]
    expect(ways(left_mm: 60.0)).to eq [{ code: "break_renew", clean_mm: 0.0 }]
  end
end
