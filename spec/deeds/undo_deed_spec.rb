# frozen_string_literal: true

# A deed is undone whole, by who did it, for a day, while everything stands as it left it.
RSpec.describe Vestry::Deeds::UndoDeed do
  let(:here) { orchard }
  let(:stock) { tree(here) }
  let!(:one) { limb(stock, "A") }
  let(:who) { person("Orla Finch", steward: here) }
  let(:member) { Vestry::Records::Membership.between(who, here) }

  before { who }

  # Does what is in the block as one deed.
  def deed(&block)
    SecureRandom.uuid.tap { |name| Vestry::Records::HistoryLog.as_one(name, &block) }
  end

  def lines(name) = Vestry::Records::HistoryQueries.of_deed(here, name)
  def undo(name, by = member) = Vestry::Records::HistoryLog.as_one(SecureRandom.uuid) do
    described_class.call(here, name, member: by)
  end

  def measured(mm = 250)
    deed { Vestry::Deeds::MeasureLimb.call(one.reload, { girth_mm: mm }, by: "Orla Finch") }
  end

  it "keeps what it undid: who, when, from what to what" do
    undo(measured)
    expect(one.reload.girth_mm).to eq 230
    expect(Vestry::DB[:history].where(table_name: "limbs").order(:id).select_map(%i[before after why]))
      .to eq [[{ "girth_mm" => 230.0 }, { "girth_mm" => 250.0 }, nil],
              [{ "girth_mm" => 250.0 }, { "girth_mm" => 230.0 }, "undone"]]
  end

  it "is for who did it, and for a day" do
    name = measured
    other = person("Tam Reddaway", steward: here)
    expect { undo(name, Vestry::Records::Membership.between(other, here)) }
      .to raise_error(Vestry::Deeds::Refused, /not there to be undone/)
    at = lines(name).last[:at]
    expect([(24 * 3600) - 1, 24 * 3600].map { |later| described_class.offered?(lines(name), who, now: at + later) })
      .to eq [true, false]
    expect(one.reload.girth_mm).to eq 250
  end

  it "is not for someone whose part was changed since" do
    name = measured
    person("Ines Harrow", steward: here)
    Vestry::Deeds::ChangeMember.call(here, member.id, "grafter", by: "Ines Harrow")
    expect { undo(name) }.to raise_error(Vestry::Deeds::Refused, /not there to be undone/)
  end

  it "takes back nothing of a deed of which one row was changed since" do
    two = limb(stock, "B", bearing_deg: 200)
    name = deed do
      [one, two].each { |each| Vestry::Deeds::MeasureLimb.call(each, { girth_mm: 260 }, by: "Orla Finch") }
    end
    one.reload.update(girth_mm: 270)
    expect { undo(name) }.to raise_error(Vestry::Deeds::Refused, /A1 A was changed since/)
    expect([one, two].map { |each| each.reload.girth_mm }).to eq [270, 260]
  end

  it "leaves what was added where something hangs on it meanwhile" do
    facts = { tag: "C", girth_mm: 200, fork_mm: 900, length_mm: 2000, bearing_deg: 10, rise_deg: 40 }
    name = deed do
      Vestry::Deeds::SurveyLimbs.one(stock, facts, sure: true, by: "Orla Finch", today: World::TODAY)
    end
    added = Vestry::Records::Limb.first(tag: "C")
    graft(added)
    expect { undo(name) }.to raise_error(Vestry::Deeds::Refused, /A1 C was changed since/)
    expect(added.reload.hidden_at).to be_nil
  end

  it "leaves who comes in, new versions of a plan and what is no fact of a row alone" do
    Vestry::Deeds::DecideLimb.call(one, { role: "nurse" }, by: "Orla Finch", season: 2026)
    told = [deed { Vestry::Deeds::Ledger.change(here, { second_factor: true }, by: "Orla Finch") },
            deed { Vestry::Deeds::NewVersion.call(stock.reload, by: "Orla Finch") },
            deed { Vestry::Deeds::Ledger.event(here, { "crew" => "2026-05-18" }, by: "Orla Finch") },
            measured]
    expect(told.map { |name| described_class.offered?(lines(name), who) }).to eq [false, false, false, true]
  end

  it "ends a plan that was begun by mistake, but none that holds what was decided since" do
    decide = lambda do |limb|
      deed { Vestry::Deeds::DecideLimb.call(limb, { role: "nurse" }, by: "Orla Finch", season: 2026) }
    end
    undo(decide[one])
    expect(stock.reload.plan).to be_nil
    name = decide[one.reload]
    decide[limb(stock.reload, "B", bearing_deg: 200)]
    expect { undo(name) }.to raise_error(Vestry::Deeds::Refused)
    expect(stock.reload.plan.plan_limbs.size).to eq 2
  end

  it "is done once, though it is pressed twice at the same moment" do
    name = measured
    told = Array.new(2) do
      Thread.new do
        undo(name)
        :undone
      rescue Vestry::Deeds::Refused
        :refused
      end
    end.map(&:value)
    expect(told).to match_array %i[undone refused]
    expect([one.reload.girth_mm, one.version]).to eq [230, 3]
  end


  it "holds its trees: what is decided at the same moment finds the plan ended, or keeps it from ending" do
    decide = ->(limb) { Vestry::Deeds::DecideLimb.call(limb, { role: "nurse" }, by: "Orla Finch", season: 2026) }
    name = deed { decide[one] }
    two = limb(stock.reload, "B", bearing_deg: 200)
    expect(second_of_two(-> { decide[two] }, -> { undo(name) })).to include(:deed)
    expect(stock.reload.plan.plan_limbs.map { |row| row.limb.tag }).to match_array %w[A B]
  end

  it "leaves what was decided of a limb that was worked since, and a measure that can stand no longer" do
    name = deed { Vestry::Deeds::DecideLimb.call(one, { role: "nurse" }, by: "Orla Finch", season: 2026) }
    graft(one)
    expect { undo(name) }.to raise_error(Vestry::Deeds::Refused, /A1 A was changed since/)
    two = limb(stock.reload, "B", bearing_deg: 200, fork_mm: 1400)
    lower = deed { Vestry::Deeds::MeasureLimb.call(two, { fork_mm: 800 }, by: "Orla Finch") }
    limb(stock, "L", leader: true, fork_mm: 1000, bearing_deg: 10, rise_deg: 85)
    expect { undo(lower) }.to raise_error(Vestry::Deeds::Refused)
    expect(two.reload.fork_mm).to eq 800
  end
end
