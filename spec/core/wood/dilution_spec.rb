# frozen_string_literal: true

RSpec.describe "dilution", :core do
  it "reckons the worked example" do
    answer = reckon("dilution", total_ml: 2000, target_percent: 0.2, product_percent: 4.5)
    expect(answer[:product_ml]).to be_within(0.001).of(88.889)
    expect(answer[:water_ml]).to be_within(0.001).of(1911.111)
  end

  it "says what a mix is, and so comes back to what was wanted" do
    mixed = reckon("dilution", total_ml: 1500, target_percent: 0.3, product_percent: 6)
    back = reckon("dilution", product_ml: mixed[:product_ml], water_ml: mixed[:water_ml], product_percent: 6)
    expect(back[:active_percent]).to be_within(1e-9).of(0.3)
    expect(reckon("dilution", product_ml: 250, water_ml: 750, product_percent: 5))
      .to include(share_of_product_percent: 25.0, active_percent: 1.25)
  end

  it "answers that a dip stronger than the product cannot be made" do
    expect(reckon("dilution", total_ml: 1000, target_percent: 8, product_percent: 4))
      .to include(feasible: false, product_ml: nil)
    expect(reckon("dilution", total_ml: 1000, target_percent: 4, product_percent: 4))
      .to include(feasible: true, water_ml: 0.0)
    expect(reckon("dilution", total_ml: 1000, target_percent: 0, product_percent: 4)).to include(product_ml: 0.0)
  end

  it "refuses half of one way and half of the other" do
    expect(refusal("dilution", total_ml: 1000, product_percent: 4).field).to eq "target_percent"
    expect(refusal("dilution", total_ml: 1000, target_percent: 1, product_ml: 3, product_percent: 4)).not_to be_nil
    expect(refusal("dilution", product_ml: 0, water_ml: 0, product_percent: 4).field).to eq "water_ml"
    expect(refusal("dilution", total_ml: 1000, target_percent: 1, product_percent: 0).field).to eq "product_percent"
  end
end
