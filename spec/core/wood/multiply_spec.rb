# frozen_string_literal: true

RSpec.describe "A scarce variety multiplied", :core do
  def of(**facts)
    Vestry::Core::Wood::Multiply.of(have: 3, wanted: 30, take: 0.75, stick_mm: 175, sticks_a_shoot: 3, **facts)
  end

  it "cuts its sticks to one bud each, and tells what their shoots give, winter by winter" do
    # Two pieces of 65 mm a stick, 0.75 of them live, two shoots of three sticks each: nine times as many.
    expect(of).to eq({ pieces: 6, seasons: [27, 243], enough_in: 2 })
    expect(of(wanted: 27)).to eq({ pieces: 6, seasons: [27], enough_in: 1 })
  end

  it "never has less of more sticks, and is no plan where it does not grow" do
    first = (1..6).map { |have| of(have: have)[:seasons].first }
    expect(first.each_cons(2).all? { |less, more| more > less }).to be true
    expect(of(take: 0.05, stick_mm: 60, sticks_a_shoot: 1)[:enough_in]).to be_nil
    expect(of(have: 0)).to be_nil
  end
end
