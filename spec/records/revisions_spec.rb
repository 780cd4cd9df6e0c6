# frozen_string_literal: true

RSpec.describe Vestry::Records::Revisions do
  let(:here) { orchard }
  let(:elsewhere) { orchard }

  def of(place = here) = described_class.of(place)
  def raised(before, place = here) = of(place).reject { |area, number| before[area] == number }.keys

  it "counts every statement that changes a table of the orchard, by whatever way, and no other orchard's" do
    standing = tree(here)
    elsewhere
    before = of
    other = of(elsewhere)
    limb(standing)
    expect(raised(before)).to include("limbs")
    expect(raised(before)).not_to include("trees")
    before = of
    Vestry::DB[:limbs].where(orchard_id: here.id).update(girth_mm: 240)
    Vestry::DB[:weather_days].insert(orchard_id: here.id, day: World::TODAY, min_c: 4, max_c: 9)
    Vestry::DB[:limbs].where(orchard_id: here.id).delete
    expect(raised(before)).to eq %w[limbs weather_days]
    expect(of["limbs"] - before["limbs"]).to eq 2
    here.update(name: "Elsewhen")
    expect(raised(before)).to eq %w[limbs orchards weather_days]
    expect(of(elsewhere)).to eq other
  end

  it "watches every table of facts that has an orchard" do
    watched = Vestry::DB[:pg_trigger].where(tgname: "revision_update")
      .select_map(Sequel.cast(Sequel.cast(:tgrelid, :regclass), :text)).map(&:to_sym)
    facts = Vestry::Records::Archive::Tables.all.map(&:table).uniq
    expect(facts - watched).to eq []
  end

  it "is as it was when what was written is taken back" do
    here
    before = of
    Vestry::DB.transaction(rollback: :always) { tree(here) }
    expect(of).to eq before
  end

  it "lets nobody wait for another who writes in the same orchard" do
    standing = tree(here)
    before = of
    waiting, go = Queue.new, Queue.new
    first = Thread.new do
      Vestry::DB.transaction do
        limb(standing, "A")
        waiting << true
        go.pop
      end
    end
    waiting.pop
    Vestry::DB.transaction do
      Vestry::DB.run("SET LOCAL lock_timeout = '5s'")
      limb(standing, "B")
    end
    between = of
    go << true
    first.join
    expect([between["limbs"] - before.fetch("limbs", 0), of["limbs"] - between["limbs"]]).to eq [1, 1]
  end

  it "gathers what connections counted that are gone, and changes no number by it" do
    slot = Vestry::DB[:revisions].where(orchard_id: here.id)
    slot.delete
    limb(tree(here))
    here.update(name: "Elsewhen")
    slot.update(slot: -1)
    limb(tree(here))
    before = of
    described_class.gather
    expect([of, slot.where(slot: -1).count]).to eq [before, 0]
    expect(slot.where(slot: described_class::GATHERED).select_order_map(:area)).to eq %w[limbs orchards trees]
    slot.where(slot: described_class::GATHERED).update(slot: -1)
    described_class.gather
    expect(of).to eq before
  end

  it "is gone for an orchard that is deleted, with no trace that stops it" do
    gone = orchard
    tree(gone)
    Vestry::DB[:trees].where(orchard_id: gone.id).delete
    expect { Vestry::DB[:orchards].where(id: gone.id).delete }.not_to raise_error
  end
end
