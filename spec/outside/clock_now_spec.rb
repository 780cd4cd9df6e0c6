# frozen_string_literal: true

RSpec.describe Vestry::Outside::Clock do
  it "keeps the hour on a day that is set" do
    allow(Vestry::Settings).to receive(:today).and_return("2026-05-18")
    before = Time.now.utc
    told = described_class.now
    expect(told.to_date).to eq Date.new(2026, 5, 18)
    expect((told.hour * 3600 + told.min * 60 + told.sec - before.hour * 3600 - before.min * 60 - before.sec) % 86_400)
      .to be < 60
  end

  it "is this moment otherwise" do
    allow(Vestry::Settings).to receive(:today).and_return(nil)
    before = Time.now
    expect(described_class.now).to be_between(before, Time.now).and be_utc
  end
end
