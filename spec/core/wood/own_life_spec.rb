# frozen_string_literal: true

RSpec.describe "How long cut wood lives here", :core do
  def told(tests, book: 200) = Vestry::Core::Wood::OwnLife.figure(book, tests)
  def test(year, days, moved, forced = 6) = { year: year, days: days, forced: forced, moved: moved }

  it "is the book's until a test speaks, and moves towards what the sticks say" do
    expect(told([])).to include(own: be_within(0.5).of(200), seen: 0, years: 0, used: false, book_error: nil)
    longer = told([test(2024, 230, 6), test(2025, 240, 5)])
    shorter = told([test(2024, 120, 1), test(2025, 110, 2)])
    expect([longer[:own], shorter[:own]]).to match [be > 230, be < 140]
    expect([longer, shorter]).to all(include(used: true, years: 2))
    expect(shorter[:low]).to be < shorter[:own]
    expect(shorter[:high]).to be > shorter[:own]
  end

  it "comes to what the sticks were drawn from, the nearer the more of them" do
    random = Random.new(4)
    drawn = lambda do |year, tests|
      Array.new(tests) do
        days = 80 + random.rand(160)
        chance = 1 / (1 + Math.exp((days / 150.0 - 1) / 0.15))
        test(year, days, Array.new(6) { random.rand < chance }.count(true))
      end
    end
    few, many = drawn[2024, 4] + drawn[2025, 4], [2023, 2024, 2025].flat_map { |year| drawn[year, 30] }
    expect(told(many)).to include(used: true, own: be_within(6).of(150))
    width = ->(figure) { figure[:high] - figure[:low] }
    expect(width[told(many)]).to be < width[told(few)]
    expect(told(many)[:own_error]).to be < told(many)[:book_error]
  end

  it "is never used of one year, nor where the book tells the years as well" do
    expect(told([test(2025, 120, 0)] * 5)).to include(used: false, book_error: nil)
    expect(told([test(2024, 160, 2), test(2025, 230, 5)])).to include(used: false)
  end
end
