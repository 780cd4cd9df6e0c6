# frozen_string_literal: true

RSpec.describe Vestry::Core::Apart do
  def say(...) = described_class.say(...)

  it "says lengths as they are said everywhere while they read apart, and where one is its end" do
    expect(say(24.0, [25, 150], "metric")).to eq ["24 mm", "25 mm", "150 mm"]
    expect(say(25.0, [25, 150], "metric")).to eq ["25 mm", "25 mm", "150 mm"]
    expect(say(19.05, [6, nil], "imperial")).to eq ["3/4 in", "1/4 in", nil]
  end

  it "says them finer where what is beyond an end would read as that end" do
    expect(say(24.7, [25, 150], "metric")).to eq ["24.7 mm", "25.0 mm", "150.0 mm"]
    expect(say(24.97, [25, nil], "metric")).to eq ["24.97 mm", "25.00 mm", nil]
    # 5.6 mm are 7.06 parts of 32 to the inch and 6 mm 7.56; 40 mm are 25.2 of 16, and 41.275 are 26.
    expect(say(5.6, [6, 40], "imperial")).to eq ["7/32 in", "1/4 in", "1 9/16 in"]
    expect(say(41.275, [6, 40], "imperial")).to eq ["1 5/8 in", "1/4 in", "1 9/16 in"]
    expect(say(25.1, [25.4, nil], "imperial")).to eq ["63/64 in", "1 in", nil]
  end

  it "says them as finely as it can where they are closer than that" do
    expect(say(24.999, [25, 150], "metric")).to eq ["25.00 mm", "25.00 mm", "150.00 mm"]
  end
end
