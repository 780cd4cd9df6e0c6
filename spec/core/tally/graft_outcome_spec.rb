# frozen_string_literal: true

RSpec.describe Vestry::Core::Tally::GraftOutcome do
  def day(number) = Date.new(2026, 5, 1) + number
  def visit(on, verdict: nil, buds: nil) = { on: day(on), verdict: verdict, buds: buds }
  def count(on, alive) = { on: day(on), alive: alive }
  def of(visits = [], counts = [], **more) = described_class.of(visits: visits, counts: counts, **more)

  it "waits for what nobody has said anything of" do
    expect(of).to eq(state: "waiting", lost_on: nil, took: false)
    expect(of([visit(1), visit(2, buds: "swelling"), visit(3, verdict: "wait")])[:state]).to eq "waiting"
  end

  it "took that was counted alive in autumn, whatever its buds do in May" do
    expect(of([visit(300, buds: "swelling")], [count(150, true)])).to eq(state: "took", lost_on: nil, took: true)
  end

  it "waits where buds are dead and the verdict is to wait, and is lost where nobody said to wait" do
    expect(of([visit(10, buds: "dead", verdict: "wait")])[:state]).to eq "waiting"
    expect(of([visit(10, buds: "dead")])).to eq(state: "lost", lost_on: day(10), took: false)
  end

  it "took after all, when it had been said to have failed and was seen to take later" do
    expect(of([visit(10, verdict: "failed"), visit(20, verdict: "took")]))
      .to eq(state: "took", lost_on: nil, took: true)
    expect(of([visit(10, verdict: "took"), visit(20, verdict: "failed")]))
      .to eq(state: "lost", lost_on: day(20), took: true)
  end

  it "died on the day since which every word was that it is dead" do
    expect(of([visit(5, verdict: "failed"), visit(9, buds: "swelling"), visit(12, buds: "dead"),
               visit(20, verdict: "failed")], [count(150, false)])[:lost_on]).to eq day(12)
    expect(of([visit(12, verdict: "failed")], [], lost_on: day(30))[:lost_on]).to eq day(30)
  end

  it "hears the count of a day last, and nothing that came after the day" do
    expect(of([visit(10, verdict: "failed")], [count(10, true)])[:state]).to eq "took"
    expect(of([visit(10, verdict: "failed")], [], day: day(9))[:state]).to eq "waiting"
    expect(of([], [], lost_on: day(10), day: day(9))[:state]).to eq "waiting"
  end
end
