# frozen_string_literal: true

RSpec.describe Vestry::Records::Nurses do
  let(:here) { orchard }
  let(:stock) { tree(here) }
  let!(:nurse) { limb(stock, "N", bearing_deg: 200, girth_mm: 150) }

  def nurses_on(on)
    described_class.new(Vestry::Records::Orchard[here.id], on).all.map { |each| [each.limb.tag, each.since] }
  end

  it "speaks of a nurse limb from the very day on which its tree was grafted" do
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    expect(nurses_on(World::TODAY)).to eq []
    graft(limb(stock, "A"), grafted_on: World::TODAY)
    expect(nurses_on(World::TODAY - 1)).to eq []
    expect(nurses_on(World::TODAY)).to eq [["N", World::TODAY]]
  end

  it "waits for stubs to close where the practice does, and for nothing beside a graft in a side" do
    Vestry::Deeds::Overrule.call(here, "practice.nurse-off", "closed", why: "as we do it", by: "Orla",
                                                                        today: World::TODAY)
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    open_stub = lambda do |technique|
      made = graft(limb(stock, technique[0].upcase), technique: technique, grafted_on: Date.new(2024, 5, 1), sticks: 1)
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2024, 7, 1),
                                    verdict: "took", seen_by: "Orla")
      told = described_class.new(Vestry::Records::Orchard[here.id], World::TODAY).all.first
      told.reasons.map { |each| each[:code] }.include?("nurse_open")
    end
    expect([open_stub["side-bark"], open_stub["rind"]]).to eq [false, true]
  end

  it "is to be shortened until it was this season, once whoever presses, and again in the next" do
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    nurse.update(length_mm: 1800)
    made = graft(limb(stock, "A"), grafted_on: World::TODAY - 60)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: World::TODAY - 5, verdict: "took",
                                  seen_by: "Orla")
    told = ->(on) { described_class.new(Vestry::Records::Orchard[here.id], on).all.first.action }
    expect(told[World::TODAY]).to eq "shorten"
    2.times do
      Vestry::Deeds::ShortenNurse.call(nurse.reload, on: World::TODAY, today: World::TODAY, by: "Orla")
    end
    expect(nurse.reload.length_mm).to eq 1206
    expect([told[World::TODAY - 1], told[World::TODAY], told[World::TODAY + 365]]).to eq %w[shorten keep shorten]
    nurse.update(length_mm: nil)
    expect { Vestry::Deeds::ShortenNurse.call(nurse, on: World::TODAY, today: World::TODAY, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /no measured length/)
  end

  it "is shortened once while its tree is in leaf, whenever grafts were set and by whomever" do
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    nurse.update(length_mm: 1800)
    made = graft(limb(stock, "A"), grafted_on: Date.new(2026, 4, 20))
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 6, 1),
                                  verdict: "took", seen_by: "Orla")
    told = lambda do |*day|
      described_class.new(Vestry::Records::Orchard[here.id], Date.new(*day)).all.first.action
    end
    shorten = lambda do |*day|
      on = Date.new(*day)
      Vestry::Deeds::ShortenNurse.call(nurse.reload, on: on, today: on, by: "Orla")
      nurse.reload.length_mm.to_f
    end
    expect([told[2026, 6, 3], shorten[2026, 6, 3], told[2026, 6, 3]]).to eq ["shorten", 1206, "keep"]
    # Not in the winter after it, and in the next year once it is in leaf, whatever was grafted beside it meanwhile.
    expect([told[2026, 11, 5], shorten[2026, 11, 5], told[2027, 3, 14]]).to eq ["keep", 1206, "keep"]
    graft(limb(stock, "B"), grafted_on: Date.new(2027, 4, 28))
    expect([told[2027, 5, 14], told[2027, 5, 15], shorten[2027, 5, 15], told[2027, 5, 15], told[2027, 9, 15]])
      .to eq ["keep", "shorten", 808, "keep", "keep"]
    # One headed back at rest counts for the growth that follows.
    Vestry::Deeds::RecordLimbEvent.call(nurse.reload, { kind: "headed", happened_on: Date.new(2028, 1, 10),
                                                        left_mm: 700 }, by: "Orla", today: Date.new(2028, 1, 10))
    expect([told[2028, 6, 1], shorten[2028, 6, 1], told[2029, 6, 1]]).to eq ["keep", 700, "shorten"]
  end

  it "is not held back for a bud that sleeps, whatever was said of it" do
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    nurse.update(length_mm: 1800)
    made = graft(limb(stock, "A"), technique: "chip-bud", sticks: 1, grafted_on: Date.new(2026, 8, 5))
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 8, 24),
                                  verdict: "took", leaf_stalk: "falls", seen_by: "Orla")
    told = ->(*day) { described_class.new(Vestry::Records::Orchard[here.id], Date.new(*day)).all.first.action }
    expect([told[2026, 9, 1], told[2027, 4, 10]]).to eq %w[keep keep]
    headline = ->(*day) { Vestry::Web::Headline.new(here, Date.new(*day)).limb(Vestry::Records::Limb[made.limb_id]) }
    expect(headline[2026, 8, 25]).to end_with "has knit and sleeps until it wakes in spring: tie off from 26 August."
    expect(headline[2026, 9, 1]).to include "grafted with #{made.variety.name} on 5 August: tie off"
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2027, 5, 2),
                                  buds: "leafing", longest_shoot_mm: 300, seen_by: "Orla")
    expect(told[2027, 6, 1]).to eq "shorten"
    expect(headline[2027, 6, 1]).to include "is #{made.variety.name} since 5 August 2026"
  end

  it "is held back for a chip of stored wood in the summer in which it was set, once it was to wake" do
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    nurse.update(length_mm: 1800)
    made = graft(limb(stock, "A"), technique: "chip-bud", sticks: 1, grafted_on: Date.new(2026, 4, 20))
    seen = lambda do |day, **more|
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: day, seen_by: "Orla", **more)
    end
    seen[Date.new(2026, 5, 4), leaf_stalk: "falls"]
    line = Vestry::Web::Headline.new(here, Date.new(2026, 5, 5)).limb(Vestry::Records::Limb[made.limb_id])
    expect(line).to end_with "has knit and sleeps until it wakes, from about 1 Jun: tie off from 11 May."
    told = ->(*day) { described_class.new(Vestry::Records::Orchard[here.id], Date.new(*day)).all.first.action }
    expect(told[2026, 6, 10]).to eq "keep"
    seen[Date.new(2026, 6, 12), verdict: "took"]
    expect(told[2026, 6, 14]).to eq "shorten"
  end

  it "speaks of none that has come off" do
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    graft(limb(stock, "A"), grafted_on: World::TODAY - 30)
    Vestry::Deeds::TakeOff.call(nurse.reload, on: World::TODAY, today: World::TODAY, by: "Orla")
    expect(nurses_on(World::TODAY)).to eq []
  end
end
