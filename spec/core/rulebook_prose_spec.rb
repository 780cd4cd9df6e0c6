# frozen_string_literal: true

RSpec.describe Vestry::Core::RulebookProse do
  let(:shipped) { Vestry::Core::Rulebook.shipped }

  def overruled(path, value) = shipped.overruled(path => { "value" => value, "why" => "as here" })

  it "says days as people do, and other figures with their unit" do
    said = ->(value) { described_class.fill("{care.figures.probation}", overruled("care.figures.probation", value)) }
    expect([1, 7, 10, 14, 21, 28.0, 40, 98].map(&said))
      .to eq ["one day", "one week", "ten days", "two weeks", "three weeks", "four weeks", "40 days", "14 weeks"]
    expect(described_class.fill("about {reckoning.practice_face.above}; {reckoning.practice_face.length}", shipped))
      .to eq "about 25 mm; 50 to 75 mm"
  end

  it "leaves other braces alone, and knows no figure that is not in the book" do
    expect(described_class.fill("{clock} minutes, {face}", shipped)).to eq "{clock} minutes, {face}"
    expect { described_class.fill("{care.figures.none_such}", shipped) }.to raise_error(KeyError)
  end

  it "keeps what a rule says and when it opens at one figure" do
    book = overruled("care.figures.evergreen_shade", 28)
    expect(book.task("evergreen-shade").slice("title", "closes")).to eq("title" => "Shade it for four weeks",
                                                                        "closes" => 28)
    expect(book.task("evergreen-light").values_at("opens", "due", "closes")).to eq [28, 33, 52]
    expect(shipped.task("evergreen-light").values_at("opens", "due", "closes")).to eq [21, 26, 45]
    expect(overruled("care.figures.probation", 14).task("false-start")["why"]).to end_with "looks two weeks apart."
  end

  it "is checked at boot: a rule that names no figure is named" do
    care = Marshal.load(Marshal.dump(shipped.book("care")))
    care["rules"]["aphids"]["does"] = "Look {care.figures.none_such}."
    books = Hash.new { |_, name| name == "care" ? care : shipped.book(name) }
    expect(Vestry::Core::Rulebook.new(books).faults)
      .to include(match(/care\.aphids: names a figure that is not there/))
  end
end
