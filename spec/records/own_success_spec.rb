# frozen_string_literal: true

RSpec.describe Vestry::Records::OwnSuccess do
  let(:here) { orchard }
  let(:standing) { tree(here) }
  let!(:kind) { variety(here) }

  def made(tag, took, technique: "rind", sticks: 1, on: Date.new(2025, 4, 21))
    graft(limb(standing, tag), technique: technique, sticks: sticks, grafted_on: on).tap do |row|
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: row.id, seen_on: on + 60,
                                          verdict: took ? "took" : "failed") unless took.nil?
    end
  end

  def of(technique = "rind")
    described_class.new(Vestry::Records::Orchard[here.id], World::TODAY).of("apple", technique)
  end

  it "goes by the first figures until something was counted" do
    expect(of).to eq(stick: 0.9, takes: 0, trials: 0)
    made("A", nil)
    expect(of[:trials]).to eq 0
  end

  it "is drawn towards the orchard's own record as it grows" do
    rates = Array.new(6) { |i| made("A#{i}", false) && of[:stick] }
    expect(rates).to eq rates.sort.reverse
    expect(of).to include(takes: 0, trials: 6)
    expect(of[:stick]).to be_within(1e-9).of(8 * 0.9 / 14)
  end

  it "counts methods of one kin together, and others not" do
    made("A", true, technique: "bark")
    expect([of("rind")[:trials], of("cleft")[:trials]]).to eq [1, 0]
  end

  it "turns the stubs that were counted into sticks" do
    4.times { |i| made("B#{i}", true, sticks: 3) }
    expect(of[:stick]).to be_between(0.85, 0.97)
  end

  it "moves the ranking of methods when two kinds of them did differently" do
    before = Vestry::Records::CoreInputs.methods(limb(standing, "Z"), 60.0, today: World::TODAY)[:ranking].first
    6.times { |i| made("C#{i}", false, technique: before[:method]) }
    8.times { |i| made("D#{i}", true, technique: "cleft") }
    fresh = Vestry::Records::Limb.first(orchard_id: here.id, tag: "Z")
    after = Vestry::Records::CoreInputs.methods(fresh, 60.0, today: World::TODAY)[:ranking]
    expect(after.first[:method]).to eq "cleft"
    expect(after.find { |row| row[:method] == before[:method] }[:score]).to be_within(1e-6)
      .of(before[:score] * (8 * 0.9 / 14) / 0.9)
    expect(Vestry::Records::CoreInputs.methods(fresh, 60.0)[:ranking].first[:method]).to eq before[:method]
  end
end
