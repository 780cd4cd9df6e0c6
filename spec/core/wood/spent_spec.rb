# frozen_string_literal: true

RSpec.describe Vestry::Core::Wood::Spent do
  it "cuts no earlier than what keeps until a day, as late as it sleeps where that is not enough, and asleep" do
    asleep = Date.new(2025, 12, 10)..Date.new(2026, 3, 10)
    from = lambda do |species, until_on|
      described_class.cut_from(species, until_on, asleep, Vestry::Core::Rulebook.shipped)
    end
    # Walnut is worth a stub for 127 days, apple for 204; and four weeks are left to cut in.
    expect([from["walnut", Date.new(2026, 6, 1)], from["walnut", Date.new(2026, 7, 10)],
            from["walnut", Date.new(2026, 4, 1)], from["apple", Date.new(2026, 7, 3)]])
      .to eq [Date.new(2026, 1, 25), Date.new(2026, 2, 10), asleep.begin, Date.new(2025, 12, 11)]
  end

  let(:book) { Vestry::Core::Rulebook.shipped }
  let(:today) { Date.new(2026, 3, 1) }

  def days(left, measured) = (described_class.on(left, today - measured, today, book) - today).to_i

  it "goes on at the pace so far" do
    worth = book.value("reckoning.slip.spent_at")
    # Half its life in twenty days.
    expect(days(0.5, 20)).to eq ((0.5 - worth) / 0.025).floor
  end

  it "takes no slower pace than an ordinary store's, and is spent today when nothing is left" do
    whole = book.value("reckoning.storage.life_days")
    expect(days(1.0, 30)).to eq ((1 - book.value("reckoning.slip.spent_at")) * whole).floor
    expect([days(0.1, 30), days(0.0, 30)]).to eq [0, 0]
  end

  it "takes wood of which no thermometer tells as if it had lain just above freezing, each kind for its own life" do
    cut = Date.new(2026, 1, 10)
    lives = %w[apple plum].map { |kind| book.value("species.#{kind}.wood_life") }
    expect(%w[apple plum].map { |kind| described_class.keeps_until(kind, cut, book) })
      .to eq(lives.map { |days| cut + days })
    worth = 1 - book.value("reckoning.slip.spent_at")
    expect(described_class.unmeasured_on("plum", cut, book)).to eq cut + (lives.last * worth).floor
    expect(lives.first).to be > lives.last
  end
end
