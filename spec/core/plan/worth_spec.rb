# frozen_string_literal: true

RSpec.describe "worth", :core do
  def told(old, new, rows, **more)
    reckon("worth", old_worth: old, new_worth: new, regraft: rows, **more)
  end

  it "leaves a tree whose crop is worth as much, and regrafts one whose crop is worth little" do
    # Cut whole, bearing from the third season: 0 0 0.3 0.6 0.8 0.9 from then on.
    rows = [0, 0, 0.3, 0.6, 0.8, 0.9].map { |crop| { old: 0, crop: crop, hours: 1.5 } }
    same = told(1, 1, rows)
    expect([same[:best], same[:ahead_from], same[:ways]["leave"][:worth]]).to eq ["leave", nil, 15.0]
    poor = told(0.3, 1, rows)
    # Leaving: 0.3 a year, 4.5. Regrafting: 0.3 + 0.6 + 0.8 + 10 x 0.9. Replanting: 0.08 0.2 0.35 0.5 0.65 0.8 0.9
    # and 1 for five years.
    expect(poor[:ways].transform_values { |way| way[:worth].round(9) })
      .to eq("leave" => 4.5, "regraft" => 10.7, "replant" => 8.48)
    # By the fifth year 1.7 against 1.5.
    expect([poor[:best], poor[:ahead_from], poor[:ways]["regraft"][:hours]]).to eq ["regraft", 5, 9.0]
  end

  it "counts what still stands of the old head at the old worth" do
    half = told(0.4, 1, [{ old: 0.5, crop: 0.8 }])
    expect(half[:ways]["regraft"][:years]).to all(be_within(1e-9).of(0.5))
  end

  it "lets a planted nut tree wait three seasons longer" do
    years = ->(nut) { told(0.5, 1, [{ old: 1, crop: 1 }], nut: nut)[:ways]["replant"][:years] }
    expect([years[false].index(&:positive?), years[true].index(&:positive?)]).to eq [3, 6]
  end

  it "refuses what is no share, and no season" do
    expect(refusal("worth", old_worth: 1.2, new_worth: 1, regraft: [{ old: 1, crop: 1 }]).field).to eq "old_worth"
    expect(refusal("worth", old_worth: 1, new_worth: 1, regraft: []).field).to eq "regraft"
  end
end
