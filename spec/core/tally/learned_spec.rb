# frozen_string_literal: true

RSpec.describe "A figure that is learned", :core do
  def told(book, seen) = Vestry::Core::Tally::Learned.figure(book, seen)

  it "is drawn towards the book, which counts as six sights" do
    six = told(10, [[2024, 14.0]] * 3 + [[2025, 14.0]] * 3)
    expect(six).to include(own: 12.0, seen: 6, years: 2)
    expect(told(10, [])).to include(own: 10.0, seen: 0, used: false)
  end

  it "is used where each year is told better from the others than by the book, and never of one year" do
    away = [2023, 2024, 2025].flat_map { |year| [[year, 13.8], [year, 14.2]] }
    # Of four others: (60 + 56) / 10 = 11.6, 2.4 off on the mean where the book is 4 off.
    expect(told(10, away)).to include(used: true, book_error: be_within(1e-9).of(4.0),
                                      own_error: be_within(1e-9).of(2.4))
    expect(told(10, [[2025, 14.0]] * 9)).to include(used: false, book_error: nil)
    # One year above the book and one below: the other year tells the wrong way.
    expect(told(10, [[2024, 13.0], [2025, 7.0]])).to include(used: false, own: 10.0)
  end

  it "is surer the more was seen, and the nearer together" do
    width = ->(seen) { told(10, seen).then { |figure| figure[:high] - figure[:low] } }
    few = [[2024, 10.5], [2025, 11.0]]
    expect(width[few * 8]).to be < width[few]
    expect(width[[[2024, 5.0], [2025, 16.0]]]).to be > width[few]
  end
end
