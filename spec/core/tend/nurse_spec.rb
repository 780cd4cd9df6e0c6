# frozen_string_literal: true

RSpec.describe "nurse", :core do
  # A stub of 60 mm with a third of the head, and the foot of its shoot.
  def stub(foot = 30, state = "alive") = { share: 0.35, stub_mm: 60, shoots_mm: [foot], state: state }
  def nurse_of(*stubs, **more)
    reckon("nurse", { nurse_share: 0.2, kept_other: 0.1, stubs: stubs, seasons_since: 1 }.merge(more))
  end
  def codes(answer) = answer[:reasons].map { |each| each[:code] }

  it "comes off when a season is over, all live, and what they have grown is enough" do
    answer = nurse_of(stub(45), stub(42))
    expect(answer[:kept_after]).to be_within(1e-9).of(0.1 + 0.35 * (0.5625 + 0.49))
    expect(answer[:action]).to eq "off"
    expect(codes(answer)).to eq ["nurse_off"]
  end

  it "counts a stub with no more than its own share" do
    expect(nurse_of(stub(90))[:kept_after]).to be_within(1e-9).of(0.45)
    expect(nurse_of({ share: 0.35, stub_mm: 60, shoots_mm: [50, 50], state: "alive" })[:action]).to eq "off"
  end

  it "is held by its season, by a stub that waits or died, by little leaf, and by work of its own" do
    { { seasons_since: 0 } => "nurse_young", { worked_later: true } => "nurse_worked_later",
      { least_seasons: 2 } => "nurse_young", { closed: 0.9 } => "nurse_open" }.each do |more, code|
      answer = nurse_of(stub(60), stub(60), **more)
      expect([more, answer[:action], codes(answer)]).to eq [more, "shorten", [code, "nurse_shorten"]]
    end
    { "waiting" => "nurse_waiting", "dead" => "nurse_dead" }.each do |state, code|
      answer = nurse_of(stub(60), stub(0, state))
      expect([answer[:action], codes(answer).first]).to eq ["shorten", code]
    end
    expect(codes(nurse_of(stub(20), stub(20)))).to eq %w[nurse_little_leaf nurse_shorten]
  end

  it "is shortened while shoots grow, and not at rest" do
    expect([true, false].map { |growing| nurse_of(stub(60), seasons_since: 0, growing: growing)[:action] })
      .to eq %w[shorten keep]
    expect(nurse_of(stub(45), stub(42), growing: false)[:action]).to eq "off"
  end

  it "counts a cut for its own growth, or one at rest for the growth that follows" do
    [[false, ->(day) { day }], [true, ->(day) { day >> 6 }]].each do |southern, here|
      season = Vestry::Core::Season.new(southern: southern)
      cut = lambda do |*days|
        one, other = days.map { |day| here[Date.iso8601(day)] }
        described(:shortened?, one, other, season)
      end
      expect([cut["2026-06-03", "2026-06-03"], cut["2026-06-03", "2027-03-10"], cut["2026-06-03", "2027-03-20"],
              cut["2026-12-05", "2027-10-20"], cut["2026-12-05", "2028-03-20"]]).to eq [true, true, false, true, false]
      grows = ->(day) { described(:growing?, here[Date.iso8601(day)], season) }
      expect(%w[2026-05-14 2026-05-15 2026-09-14 2026-09-15].map(&grows)).to eq [false, true, true, false]
    end
    expect(described(:shortened?, nil, Date.new(2026, 6, 3), Vestry::Core::Season.new(southern: false))).to be false
  end

  def described(name, *given) = Vestry::Core::Tend::Nurse.public_send(name, *given, Vestry::Core::Rulebook.shipped)

  it "is shortened once a season, and kept from then on" do
    young = nurse_of(stub(60), seasons_since: 0, shortened: true)
    expect([young[:action], codes(young)]).to eq ["keep", %w[nurse_shortened nurse_young nurse_keep]]
    ripe = nurse_of(stub(45), stub(42), shortened: true)
    expect([ripe[:action], codes(ripe)]).to eq ["off", %w[nurse_off]]
  end

  it "waits for no stub that was given up, but for one that lives" do
    expect(nurse_of(stub(60), stub(0, "waived"))[:action]).to eq "off"
    expect(nurse_of(stub(0, "waived"), kept_other: 0.6)).to include(action: "keep")
    expect(nurse_of(stub(0, "dead"), stub(0, "waiting"))[:action]).to eq "keep"
    expect(nurse_of(kept_other: 0.8)[:action]).to eq "keep"
  end
end

RSpec.describe Vestry::Core::Tend::RegraftDay do
  it "says the same last day for making a graft again to whoever asks" do
    book = Vestry::Core::Rulebook.shipped
    since = Date.new(2026, 4, 20)
    season = Vestry::Core::Season.new(southern: false)
    expect(described_class.last(season, since, book)).to eq described_class.last(season, season.year_start(since), book)
  end
end
