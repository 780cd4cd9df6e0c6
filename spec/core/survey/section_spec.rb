# frozen_string_literal: true

RSpec.describe "section" do
  it "works out the example" do
    answer = reckon("section", girth_mm: 220, bark_mm: 3)
    expect(answer[:diameter_mm]).to be_within(1e-4).of(70.0282)
    expect(answer[:wood_diameter_mm]).to be_within(1e-4).of(64.0282)
    expect(answer[:area_mm2]).to be_within(1e-2).of(3851.55)
  end

  it "gives an oval limb the diameter of the round one of equal area, and a longer girth" do
    answer = reckon("section", diameters_mm: [80, 60])
    expect(answer[:area_mm2]).to be_within(1e-6).of(Math::PI * 80 * 60 / 4)
    expect(answer[:girth_mm]).to be > Math::PI * answer[:diameter_mm]
  end

  it "agrees with itself whichever way a round limb is measured" do
    PropCheck.forall(PropCheck::Generators.choose(1..5000)) do |mm|
      ways = [{ girth_mm: mm * Math::PI }, { diameter_mm: mm }, { diameters_mm: [mm, mm] }]
        .map { |input| reckon("section", input) }
      expect(ways.map { |each| each[:area_mm2].round(4) }.uniq.size).to eq 1
    end
  end

  it "refuses no thickness, two thicknesses, and bark that leaves no wood" do
    expect(refusal("section", {}).field).to eq "girth_mm"
    expect(refusal("section", girth_mm: 220, diameter_mm: 70).field).to eq "diameter_mm"
    expect(refusal("section", diameter_mm: 20, bark_mm: 10).message).to match(/\Abark_mm: .*below 10/)
  end
end
