# frozen_string_literal: true

RSpec.describe "projection", :core do
  def project(work, **more) = reckon("projection", { plans: [{ name: "p", work: work }], **more })[:plans].first
  def limb(share, season, **more) = { id: "#{share}@#{season}", share: share, season: season, take: 1.0, **more }

  it "follows one limb through the years by hand" do
    rows = project([limb(0.4, 0, take: 0.9, sticks: 3, minutes: 30)])[:seasons]
    expect(rows.map { |row| row[:season] }).to eq (0..9).to_a
    expect(rows[0]).to include(old: 0.6, removed: 0.4, sticks: 3, stubs: 1, hours: 0.5)
    expect(rows[0][:canopy]).to be_within(1e-12).of(0.6 + 0.4 * 0.9 * 0.02)
    expect(rows[3][:canopy]).to be_within(1e-12).of(0.6 + 0.4 * 0.9 * 0.55)
    expect(rows[3][:crop]).to be_within(1e-12).of(0.6 + 0.4 * 0.9 * 0.55 * 0.7)
    expect(rows[9][:crop]).to be_within(1e-12).of(0.96)
  end

  it "is back in the season of the last work where hardly anything was cut, and comes to less by what is lifted" do
    little = project([limb(0.02, 0), limb(0.02, 1)])
    expect(little[:totals][:canopy_back]).to eq 1
    lifted = reckon("projection", plans: [{ name: "p", work: [limb(0.5, 0, take: 0.8)],
                                            lifts: [{ share: 0.2, season: 1 }] }])[:plans].first
    expect(lifted[:totals][:comes_to]).to be_within(1e-12).of(1 - 0.5 - 0.2 + 0.5 * 0.8)
  end

  it "refuses shares of more than the head, with what is lifted" do
    asked = ->(lift) { { plans: [{ name: "p", work: [limb(0.6, 0)], lifts: [{ share: lift, season: 1 }] }] } }
    expect(refusal("projection", asked[0.4])).to be_nil
    expect(refusal("projection", asked[0.41]).field).to eq "plans[0].work"
  end

  it "lets old limbs crop until they are cut, and bears two seasons later on nut trees" do
    slow = project([limb(0.5, 0), limb(0.5, 2)])
    expect(slow[:seasons].map { |row| row[:old] }).to eq [0.5, 0.5, 0, 0, 0, 0, 0, 0, 0, 0]
    apple, walnut = [false, true].map { |nut| project([limb(1.0, 0)], nut: nut)[:seasons].map { |row| row[:crop] } }
    expect(apple.index(&:positive?)).to eq 2
    expect(walnut.index(&:positive?)).to eq 4
  end

  it "brings a limb back by the size of its stub and its first shoot where they are said, and by what was counted" do
    canopy = lambda do |**more|
      project([limb(1.0, 0, **more)])[:seasons].first(3).map { |row| row[:canopy].round(4) }
    end
    # 2.5 + 0.0095 x 900 = 11.05 mm, and 12 mm more every season, on 60 and on 23.05 mm.
    expect(canopy[stub_mm: 60, shoot_mm: 900]).to eq [0.0339, 0.1476, 0.3413]
    expect(canopy[stub_mm: 23.05, shoot_mm: 900]).to eq [0.2298, 1.0, 1.0]
    expect(canopy[stub_mm: 60, shoot_mm: 900, measured: [{ season: 1, mm: 30 }]]).to eq [0.0339, 0.25, 0.49]
  end

  it "trades crop for time: the slower way never falls as low, and comes back later" do
    fast = project([limb(0.4, 0), limb(0.4, 0)])[:totals]
    slow = project([limb(0.4, 0), { **limb(0.4, 1), id: "b" }])[:totals]
    expect(slow[:lowest_canopy]).to be > fast[:lowest_canopy]
    expect(slow[:canopy_back]).to be > fast[:canopy_back]
    expect(fast[:comes_to]).to be_within(1e-12).of(1.0)
  end

  it "puts what was measured in place of the curve, for the plan it was measured under" do
    seen = reckon("projection", plans: [{ name: "a", work: [limb(0.5, 0)] }, { name: "b", work: [limb(0.5, 1)] }],
                  measured: [{ plan: "a", season: 1, canopy: 0.7, crop: 0.2 }])[:plans]
    expect(seen[0][:seasons][1]).to include(canopy: 0.7, crop: 0.2, measured: true)
    expect(seen[1][:seasons][1]).to include(measured: false)
  end

  it "counts a limb grafted before the first season by its age" do
    rows = project([limb(0.4, -1)])[:seasons]
    expect(rows[0]).to include(sticks: 0, removed: 0.0)
    expect(rows[0][:canopy]).to be_within(1e-12).of(0.6 + 0.4 * 0.12)
  end

  it "counts no old wood of a limb that is headed already, and takes nothing of it" do
    rows = project([{ **limb(0.4, 2), take: 1.0, headed: true }])[:seasons]
    expect(rows.first(4).map { |row| row[:canopy].round(9) }).to eq [0.6, 0.6, 0.608, 0.648]
    expect(rows.map { |row| row[:removed] }.sum).to eq 0.0
    expect(rows[2][:stubs]).to eq 1
  end

  it "refuses to take more than the whole head, and two plans of a name" do
    expect(refusal("projection", plans: [{ name: "p", work: [limb(0.7, 0), { **limb(0.4, 1), id: "b" }] }]).field)
      .to eq "plans[0].work"
    expect(refusal("projection", plans: [{ name: "p", work: [] }, { name: "p", work: [] }]).field).to eq "plans"
    expect(refusal("projection", plans: []).field).to eq "plans"
  end
end
