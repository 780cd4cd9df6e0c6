# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::ChangedCut do
  let(:book) { Vestry::Core::Rulebook.shipped }

  def at(**how) = described_class.at(800.0, 60.0, torn_mm: nil, crooked: false, rulebook: book, **how)

  it "stays where nothing changed, goes below a tear, and clear of crooked wood" do
    expect([at, at(torn_mm: 120.0), at(crooked: true), at(torn_mm: 120.0, crooked: true)])
      .to eq [800.0, 670.0, 710.0, 580.0]
  end

  it "is as thick as measured, and as much thicker lower down as the limb tapers" do
    expect([described_class.stub(nil, 60.0, 66.0), described_class.stub(50.0, 60.0, 66.0)]).to eq [66.0, 55.0]
  end
end

RSpec.describe Vestry::Core::Plan::WorkTime do
  let(:book) { Vestry::Core::Rulebook.shipped }

  it "takes the method's minutes, more for each further stick, and more again on a ladder" do
    own, more, ladder = %w[methods.rind.minutes reckoning.hours.more_stick reckoning.hours.ladder]
      .map { |path| book.value(path) }
    ground = book.value("reckoning.hours.from_ground")
    told = ->(sticks, height) { described_class.minutes("rind", sticks, height, book) }
    expect([told[1, nil], told[3, ground], told[3, ground + 11]]).to eq [own, own + 2 * more, own + 2 * more + ladder]
  end
end
