# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::WorkTime do
  let(:book) { Vestry::Core::Rulebook.shipped }

  def pace(*shares) = described_class.pace(shares.map { |share| { minutes: 20 * share, reckoned: 20 } }, rulebook: book)

  it "is the rulebook's while nothing was timed, and drawn towards it while little was" do
    expect(pace).to eq(times: 1.0, stubs: 0)
    # (8 + 2 x 1.5) / (8 + 2)
    expect(pace(1.5, 1.5)).to eq(times: 1.1, stubs: 2)
    expect(pace(*[1.5] * 92)[:times]).to be_within(1e-9).of((8 + 138) / 100.0)
    expect(pace(*[1.5] * 10_000)[:times]).to be_within(0.001).of(1.5)
  end

  it "asks for a ladder where a stub is above the eyes by more than its height is known" do
    expect([nil, 1799.6, 1800.0, 1800.1, 1810.0, 1811.0].map { |mm| described_class.ladder?(mm, book) })
      .to eq [false, false, false, false, false, true]
    expect([1800.1, 1811.0].map { |mm| described_class.minutes("inlay", 1, mm, book) }).to eq [35, 43]
  end

  it "leaves out what was a pause, or was pressed afterwards" do
    expect(pace(0.1, 9)).to eq(times: 1.0, stubs: 0)
    expect(pace(0.25, 4)[:stubs]).to eq 2
  end
end
