# frozen_string_literal: true

RSpec.describe Vestry::Deeds::Ledger do
  let(:here) { orchard }
  let(:standing) { limb(tree(here)) }

  def history = Vestry::DB[:history].order(:id).all

  it "keeps what a correction corrected, and who made it" do
    described_class.change(standing, { girth_mm: 240 }, by: "Orla Finch", why: "tape slipped")
    expect(history.last).to include(table_name: "limbs", row_id: standing.id, action: "change", who: "Orla Finch",
                                    why: "tape slipped",
                                    before: { "girth_mm" => 230.0 }, after: { "girth_mm" => 240.0 })
  end

  it "writes nothing when nothing changes" do
    described_class.change(standing, { girth_mm: 230 }, by: "Orla Finch")
    expect([history, standing.reload.version]).to eq [[], 1]
  end

  it "tells the second of two people who change the same thing, with both values" do
    described_class.change(standing, { girth_mm: 240 }, by: "Orla Finch", version: 1)
    expect { described_class.change(standing, { girth_mm: 250 }, by: "Tam Reddaway", version: 1) }
      .to raise_error(Vestry::Deeds::Conflict) { |e| expect(e.errors[:girth_mm].first).to include("240", "250") }
    expect(standing.reload.girth_mm).to eq 240
  end

  it "tells the first of them by letter, with both values" do
    person("Orla Finch", steward: here)
    described_class.change(standing, { girth_mm: 240 }, by: "Orla Finch", version: 1)
    expect { described_class.change(standing, { girth_mm: 250 }, by: "Tam Reddaway", version: 1) }
      .to raise_error(Vestry::Deeds::Conflict)
    expect(Vestry::DB[:letters].select_map(%i[address body]))
      .to match [["orla.finch@trial.example", /240; Tam Reddaway had typed 250/]]
  end

  it "lets both through when they changed different things to the same effect" do
    described_class.change(standing, { girth_mm: 240 }, by: "Orla Finch", version: 1)
    expect { described_class.change(standing, { girth_mm: 240 }, by: "Tam Reddaway", version: 1) }.not_to raise_error
  end

  it "records a deed sent twice once, even at the same moment" do
    kind = variety(here)
    values = { orchard_id: here.id, limb_id: standing.id, grafted_on: Date.new(2026, 4, 21), technique: "rind",
               variety_id: kind.id, stub_mm: 60, sticks: 2,
               grafter: "Orla", wrap: "film", seal: "wax", cover: "wax-only", client_key: SecureRandom.uuid }
    rows = Array.new(4) { Thread.new { described_class.add(Vestry::Records::Graft, values.dup, by: "Orla") } }
      .map(&:value)
    expect([rows.map(&:id).uniq.size, Vestry::Records::Graft.count]).to eq [1, 1]
  end

  it "hides instead of deleting, and brings back" do
    described_class.hide(standing, by: "Orla")
    expect { here.limb!(standing.id) }.to raise_error(Vestry::Records::Missing)
    described_class.restore(standing, by: "Orla")
    expect(here.limb!(standing.id).id).to eq standing.id
    expect(history.map { |each| each[:action] }).to eq %w[hide restore]
  end


  it "takes a list that is the same for the same, and one that is not for another" do
    Vestry::Deeds::DecideLimb.call(standing, { role: "nurse" }, by: "Orla Finch", season: 2026)
    row = standing.reload.planned
    described_class.change(row, { faces: [-45.0, 45.0] }, by: "Orla Finch")
    lines = history.size
    described_class.change(row.reload, { faces: [-45, 45.0] }, by: "Orla Finch")
    expect([history.size, row.reload.version]).to eq [lines, 2]
    described_class.change(row, { faces: [-45.0, 40.0] }, by: "Orla Finch")
    expect(row.reload.faces.map(&:to_f)).to eq [-45.0, 40.0]
  end

  it "finds what was sent at the same moment by another, within a deed that goes on" do
    key = SecureRandom.uuid
    facts = { orchard_id: here.id, tree_id: standing.tree_id, seen_on: World::TODAY, slipping: true,
              seen_by: "Orla Finch", client_key: key }
    first = described_class.add(Vestry::Records::PhenologySeen, facts, by: "Orla Finch")
    # As it is looked for before the other has written, and after.
    allow(Vestry::Records::PhenologySeen).to receive(:sent_as).and_return(nil, first)
    Vestry::DB.transaction do
      expect(described_class.add(Vestry::Records::PhenologySeen, facts, by: "Orla Finch")).to eq first
      described_class.change(standing, { girth_mm: 240 }, by: "Orla Finch")
    end
    expect(standing.reload.girth_mm).to eq 240
  end
end
