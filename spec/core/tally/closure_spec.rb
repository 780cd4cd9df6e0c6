# frozen_string_literal: true

RSpec.describe "closure" do
  it "works out the example" do
    answer = reckon("closure", stub_mm: 64, readings: [{ season: 2, a_mm: 42, b_mm: 36 },
                                                       { season: 1, a_mm: 54, b_mm: 50 }])
    expect(answer[:closed_share]).to be_within(1e-6).of(0.630859)
    expect(answer).to include(rate_mm: 5.4, closes_in_season: 6)
  end

  it "closes until it is measured from where living sticks feed it" do
    closes = lambda do |living|
      reckon("closure", stub_mm: 60, readings: [], living: living).values_at(:rate_mm, :closes_in_season)
    end
    expect(closes.call(1)).to eq [10.0, 3]
    expect(closes.call(2)).to match [be_within(1e-9).of(10 / Math.sqrt(0.5)), 3]
    expect([3, 4, 12].map(&closes)).to all eq [20.0, 2]
  end

  it "closes in the season it was found shut" do
    expect(reckon("closure", stub_mm: 60, readings: [{ season: 3, a_mm: 0, b_mm: 0 }]))
      .to include(closed_share: 1.0, closes_in_season: 3)
  end

  it "promises nothing when the wound does not shrink" do
    expect(reckon("closure", stub_mm: 60, readings: [{ season: 2, a_mm: 60, b_mm: 60 }])[:closes_in_season]).to be_nil
  end

  it "refuses a negative width, naming its line" do
    expect(refusal("closure", stub_mm: 64, readings: [{ season: 1, a_mm: -1, b_mm: 2 }]).field).to eq "readings[0].a_mm"
  end
end
