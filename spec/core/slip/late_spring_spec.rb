# frozen_string_literal: true

RSpec.describe Vestry::Core::Slip::LateSpring, :core do
  def share(**asked) = described_class.share(usual: 60, closes: 150, **asked)

  it "leaves fewer days by the springs that were, and by the calendar where they are few" do
    # Middling on day 65, and one in ten later than day 80: 70 of 85 days.
    expect(share(opens: [50, 55, 58, 60, 61, 65, 66, 70, 80, 95])).to be_within(1e-9).of((150 - 80) / 85.0)
    spread = Vestry::Core::Rulebook.shipped.value("reckoning.slip.calendar_spread")
    expect(share(opens: [40, 90])).to be_within(1e-9).of((90.0 - spread) / 90)
  end

  it "is a share, and 1 where springs are all alike or nothing is to be lost" do
    expect(share(opens: [70] * 6)).to eq 1.0
    expect(share(opens: [149, 149, 149, 149, 170])).to eq 0.0
    expect(share(opens: [160] * 5)).to eq 1.0
  end
end
