# frozen_string_literal: true

RSpec.describe Vestry::Core::Practice::Flatness do
  def told(depths, **more)
    described_class.call(points: depths.each_with_index.map { |depth, i| { at_mm: i * 10, depth_mm: depth } }, **more)
  end

  it "counts as lying on the line what is within a fifth of a millimetre of it" do
    # Level but for a step up and one down, as far out as is said, about a line through nothing.
    step = ->(off) { [0, off, 0, 0, -off, 0, 0, -off, 0, 0, off, 0] }
    expect([0.19, 0.21].map { |off| told(step[off])[:contact_share].round(2) }).to eq [1.0, 0.67]
    expect(told(step[0.25], tolerance_mm: 0.3)[:contact_share]).to eq 1.0
  end

  it "follows a slope, and asks for two points" do
    expect(told([0, 1, 2])).to include(slope: be_within(1e-9).of(0.1), rms_mm: be_within(1e-9).of(0))
    expect(told([0, 1])[:slope]).to be_within(1e-9).of(0.1)
    expect { told([1]) }.to raise_error(Vestry::Core::BadInput, /two points or more/)
  end
end
