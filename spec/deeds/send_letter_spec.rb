# frozen_string_literal: true

RSpec.describe Vestry::Deeds::Jobs::SendLetter do
  it "tries soon again at first, then every three hours, for the better part of a day" do
    waits = Array.new(described_class.maximum_retry_count) { |count| described_class.retry_interval.call(count) }
    expect(waits.first(4)).to eq [30, 60, 120, 240]
    expect(waits.last(5)).to all(eq(3 * 3600))
    expect(waits.size).to eq 14
    expect(waits.sum / 3600.0).to be_between(18, 24)
  end
end
