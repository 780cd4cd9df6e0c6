# frozen_string_literal: true

# Two varieties of the register turn out to be one.
RSpec.describe Vestry::Deeds::MergeVariety do
  let(:here) { orchard }
  let!(:stays) { variety(here, "Skylark Russet", bloom_from: "05-01", bloom_to: "05-12") }
  let!(:other) { variety(here, "Sky Russett", vigour: "weak", bloom_from: "04-20", bloom_to: "05-02", pollen: "poor") }
  let!(:standing) { tree(here, variety_id: other.id) }
  let!(:arm) { limb(standing, variety_id: other.id) }
  let!(:made) { graft(arm, variety_id: other.id) }
  let!(:bundle) do
    Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: other.id, number: 1, cut_on: Date.new(2026, 1, 12))
  end
  let!(:promise) do
    Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: other.id, season: 2027, sticks: 5)
  end
  let!(:planned) do
    second = limb(standing, "B", bearing_deg: 180)
    Vestry::Deeds::DecideLimb.call(second, { role: "work", variety: other.id }, by: "Orla", season: 2027)
  end

  def merge(one = other, to = stays) = described_class.call(one, to, by: "Orla")
  def named = [standing, arm, made, bundle, promise, planned].map { |row| row.refresh.variety_id }.uniq

  def refused(...)
    merge(...)
    nil
  rescue Vestry::Deeds::Refused => e
    e.errors
  end

  it "has all that named the one name the other, and takes over what is known of the one alone" do
    expect(merge.id).to eq stays.id
    expect(named).to eq [stays.id]
    expect(stays.refresh.values).to include(bloom_from: "05-01", bloom_to: "05-12", vigour: "weak", pollen: "poor")
    expect(other.refresh).to be_hidden
    expect(here.varieties_in_sight.map(&:id)).to eq [stays.id]
    expect(stays.other_names).to eq ["Sky Russett"]
  end

  it "says of what was changed why" do
    merge
    lines = Vestry::DB[:history].where(orchard_id: here.id, why: "Sky Russett is Skylark Russet")
    expect(lines.exclude(table_name: "varieties").select_order_map(:table_name))
      .to eq %w[bundles grafts limbs plan_limbs trees wood_promises]
  end

  it "finds the one that stays by the other's number, in a table's lines and where somebody looks for the name" do
    merge
    expect(here.variety!(other.id).id).to eq stays.id
    expect(Vestry::Records::Variety.by_name(here)).to eq("Skylark Russet" => stays.id, "Sky Russett" => stays.id)
    expect(Vestry::Records::Finder.new(here).find("Sky Russett").varieties.map(&:id)).to eq [stays.id]
    # Once that one was taken away, neither name is of anything.
    Vestry::Deeds::Hide.call(stays.refresh, by: "Orla")
    expect(Vestry::Records::Variety.by_name(here)).to eq({})
    expect { here.variety!(other.id) }.to raise_error(Vestry::Records::Missing)
  end

  it "keeps the name from being given again, and says what it is" do
    merge
    expect { Vestry::Deeds::KeepVariety.call(here, { name: "sky russett", species: "apple" }, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused) { |e|
        expect(e.errors[:name].first).to eq "Sky Russett is another name of Skylark Russet here"
      }
  end

  it "follows a second one" do
    third = variety(here, "Grey Skylark")
    merge
    merge(stays, third)
    expect(here.variety!(other.id).id).to eq third.id
    expect(named).to eq [third.id]
    expect(third.other_names).to eq ["Sky Russett", "Skylark Russet"]
  end

  it "refuses itself, another kind and what has left the register" do
    expect(refused(stays, stays)[:same_as].first).to include "than itself"
    expect(refused(other, variety(here, "Ferry Plum", species: "plum"))[:same_as].first).to include "another kind"
    merge
    expect(refused(other, stays)[:same_as].first).to include "Sky Russett is out of the register"
    expect(refused(stays, other)[:same_as].first).to include "Sky Russett is out of the register"
  end

  it "stands for itself again when it is brought back" do
    merge
    Vestry::Deeds::Hide.undo(other.refresh, by: "Orla")
    expect(here.variety!(other.id).id).to eq other.id
    expect([other.refresh.same_as_id, other.hidden?, other.version]).to eq [nil, false, 5]
    expect(named).to eq [stays.id]
  end

  context "when two do it, or something else, at once" do
    def beside(&block) = Thread.new(&block).tap { |thread| thread.report_on_exception = false }

    it "has a graft that is logged meanwhile name the one that stays" do
      limb_c = limb(standing, "C", bearing_deg: 270)
      logged = nil
      Vestry::DB.transaction do
        merge
        logged = beside { graft(limb_c, variety_id: other.id) }
        until_waiting
      end
      expect(logged.value.refresh.variety_id).to eq stays.id
    end

    it "merges them one way when two do it crosswise" do
      second = nil
      Vestry::DB.transaction do
        merge
        second = beside { merge(stays, other) }
        until_waiting
      end
      expect { second.value }.to raise_error(Vestry::Deeds::Refused)
      expect(here.varieties_in_sight.map(&:id)).to eq [stays.id]
    end
  end
end
