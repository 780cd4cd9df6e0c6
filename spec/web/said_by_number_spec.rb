# frozen_string_literal: true

require "rack/test"

# Words that follow a number or a pair of facts.
RSpec.describe "Words by number" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard(latitude: 51.0, longitude: 0.0) }
  let(:today) { Date.new(2026, 3, 1) }
  let(:kind) { variety(here) }
  let(:apple) { tree(here) }

  def said = Vestry::Web::Headline.new(Vestry::Records::Orchard[here.id], today)

  def work(tag)
    Vestry::Deeds::DecideLimb.call(limb(apple, tag), { role: "work", season: 2026, cut: 700.0, technique: "rind",
                                                       against_reason: "so", variety: kind.id }, by: "Orla",
                                                                                                 season: 2026)
  end

  it "speaks of one stub that waits as it, and of the first of two" do
    work("A")
    expect(said.graft).to match(/\AOne stub is waiting on A1; it can be grafted from about \d+ April\.\z/)
    work("B")
    expect(said.graft).to match(/\ATwo stubs are waiting on A1; the first can be grafted from about \d+ April\.\z/)
  end

  it "tells what failed beside what took, and what took alone" do
    say = ->(**sign) { said.say_sign({ sign: "old-wood", **sign }) }
    expect(say[failed: 2, took: 3]).to end_with "(2 failed, 3 took)."
    expect(say[took: 3]).to end_with "(3 took)."
    expect(say[]).to eq "Less than half of the wood's life in store was left."
  end

  it "counts who has a partner only where one is needed and wanting" do
    line = Struct.new(:compatibility, :unpermitted, :partner_need, :partners, keyword_init: true)
    lines = lambda do |*needs|
      needs.map do |need, partners|
        line.new(compatibility: { "value" => "good" }, unpermitted: false, partner_need: need, partners: partners)
      end
    end
    expect(said.choices("A1", lines[["needed", %w[one]], ["none", []]])).to eq "2 varieties of the register live on A1."
    expect(said.choices("A1", lines[["needed", []], ["needed", %w[one]], ["none", []]]))
      .to eq "3 varieties of the register live on A1; 2 of them have a partner in bloom within reach."
    expect(said.choices("A1", lines[["needed", []]]))
      .to eq "1 variety of the register lives on A1; it has no known partner in bloom within reach."
    expect(said.choices("A1", lines[["needed", []], ["needed", []]]))
      .to eq "2 varieties of the register live on A1; they have no known partner in bloom within reach."
  end

  it "keeps files for good by their digest, for a while without, and no page and nothing that is missing" do
    kept = lambda do |address|
      get address
      last_response["cache-control"]
    end
    expect(kept[Vestry::Web::Stack::Assets.address("vestry.css")]).to eq "public, max-age=31536000, immutable"
    expect([kept["/vestry.css"], kept["/sw.js"]]).to eq ["public, max-age=3600", "no-cache"]
    expect([kept["/sign-in"], kept["/vestry.css/none"], kept["/healthz"]].grep(/public/)).to eq []
  end

  it "trims nothing from a bridge where nothing is typed" do
    answer = ->(**typed) { Vestry::Web::Contracts::PracticeAnswer.read("bridge", typed.transform_keys(&:to_s)) }
    expect([answer[trim: " "], answer[trim: "4"], answer[]].map { |each| each[:trim_mm] }).to eq [0.0, 4.0, 0.0]
  end
end
