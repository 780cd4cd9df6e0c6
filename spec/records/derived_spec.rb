# frozen_string_literal: true

RSpec.describe Vestry::Records::Derived do
  let(:here) { orchard }
  let(:day) { World::TODAY }

  def ask(place = Vestry::Records::Orchard[here.id], on: day)
    described_class.fetch(place, "limbs", on, from: %w[limbs trees]) do |orchard|
      @worked_out = @worked_out.to_i + 1
      { limbs: Vestry::DB[:limbs].where(orchard_id: orchard.id).count, day: on }
    end
  end

  it "works out once what is asked for again, and anew after a write, a change of the orchard, or on another day" do
    expect([ask, ask, @worked_out]).to eq [{ limbs: 0, day: day }, { limbs: 0, day: day }, 1]
    limb(tree(here))
    expect([ask[:limbs], ask[:limbs], @worked_out]).to eq [1, 1, 2]
    here.update(name: "Elsewhen", version: 2)
    expect([ask[:limbs], @worked_out]).to eq [1, 3]
    expect([ask(on: day + 1)[:day], @worked_out]).to eq [day + 1, 4]
  end

  it "leaves out writes that it does not follow from" do
    ask
    Vestry::DB[:weather_days].insert(orchard_id: here.id, day: day, min_c: 4, max_c: 9)
    ask
    expect(@worked_out).to eq 1
  end

  it "never stores under new revisions what was read before them" do
    stale = Vestry::Records::Orchard[here.id]
    expect(stale.tree_count).to eq 0
    tree(here)
    told = described_class.fetch(stale, "count", day, from: %w[trees]) { |orchard| [orchard.tree_count] }
    expect(told).to eq [1]
  end

  it "is not stored where what it was worked out from is taken back" do
    standing = tree(here)
    Vestry::DB.transaction do
      Vestry::DB.transaction(savepoint: true) do
        limb(standing)
        expect(ask[:limbs]).to eq 1
        raise Sequel::Rollback
      end
      expect(Vestry::DB[:derived].count).to eq 0
    end
    expect([Vestry::DB[:derived].count, ask[:limbs]]).to eq [0, 0]
    Vestry::DB.transaction { ask(on: day + 1) }
    expect(Vestry::DB[:derived].select_order_map(:day)).to eq [day, day + 1]
  end

  it "is known to another process at its next request" do
    ask
    other = Vestry::DB.pool.size
    told = Thread.new { ask }.value
    expect([told, @worked_out, other]).to match [{ limbs: 0, day: day }, 1, be >= 1]
  end

  it "gives back plain values as they were" do
    plain = { 3 => [day, Time.utc(2026, 5, 18, 7, 30, 0.25r), nil, true, 1.5, 2, 1e20, "“so”"], of: { code: :open },
              none: {}, "text" => [] }
    dump = JSON.parse(JSON.generate(described_class::Plain.dump(plain)))
    expect(described_class::Plain.load(dump)).to eq plain
    expect { described_class::Plain.dump([here]) }.to raise_error(ArgumentError, /no plain value/)
  end

  it "throws away what days that are over left" do
    ask(on: day - 30)
    ask
    Vestry::Records::Expired.derived(before: day - described_class::DAYS)
    expect(Vestry::DB[:derived].select_map(:day)).to eq [day]
  end
end
