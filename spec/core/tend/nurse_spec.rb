# frozen_string_literal: true

RSpec.describe Vestry::Core::Tend::Nurse do
  let(:book) { Vestry::Core::Rulebook.shipped }
  let(:since) { Date.new(2026, 4, 20) }

  def told(practice, on, closed: 0.0, southern: false)
    described_class.advice(practice: practice, since: since, closed: closed, today: on, rulebook: book,
                           season: Vestry::Core::Season.new(southern: southern)).values_at(:advice, :on)
  end

  it "is kept, then shortened, and comes off in the first autumn where that is the practice" do
    after = book.value("reckoning.nurse.shorten_after")
    autumn = Vestry::Core::Season.new(southern: false).next_day(book.value("care.calendar.autumn"), since)
    expect([since + after, since + after + 1, autumn - 1, autumn].map { |day| told("first-autumn", day).first })
      .to eq %w[nurse_keep nurse_shorten nurse_shorten nurse_off]
    expect(told("first-autumn", since).last).to eq autumn
  end

  it "stands a winter longer where it comes off in the second year" do
    winter = Vestry::Core::Season.new(southern: false).next_day(book.value("care.calendar.winter"), since)
    expect([(winter >> 12) - 1, winter >> 12].map { |day| told("second-year", day).first })
      .to eq %w[nurse_shorten nurse_off]
  end

  it "waits for its stubs to close where that is the practice" do
    expect([0.0, 0.99, 1.0].map { |closed| told("when-closed", since + 400, closed: closed) })
      .to eq [["nurse_wait_closed", nil], ["nurse_wait_closed", nil], ["nurse_off", since + 400]]
  end

  it "says the same last day for making a graft again to whoever asks" do
    season = Vestry::Core::Season.new(southern: false)
    expect(Vestry::Core::Tend::RegraftDay.last(season, since, book))
      .to eq Vestry::Core::Tend::RegraftDay.last(season, season.year_start(since), book)
  end
end
