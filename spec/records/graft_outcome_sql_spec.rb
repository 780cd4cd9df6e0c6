# frozen_string_literal: true

# One graft is asked for its fate in Ruby, many in SQL: both must say the same.
RSpec.describe Vestry::Records::GraftOutcomeSql, :database do
  let(:here) { orchard }
  let(:standing) { tree(here) }

  # Every short history: up to two visits and a count, in every order, and a loss that was recorded or not.
  def histories
    said = [[nil, nil], ["dead", nil], ["swelling", nil], [nil, "took"], [nil, "failed"], ["dead", "wait"],
            ["dead", "took"], ["leafing", "failed"]]
    days = [10, 20, 30]
    visits = [[]] + said.map { |one| [one] } + said.product(said)
    counts = [nil, true, false]
    visits.product(counts, [0, 1, 2], [nil, 25]).reject { |_, count, place, _| count.nil? && place.positive? }
      .map do |seen, count, place, lost|
      order = days.dup
      counted = count.nil? ? nil : order.delete_at(place)
      { visits: seen.zip(order), counted: counted, alive: count, lost: lost }
    end
  end

  it "is the same for one graft and for many, over every short history" do
    stock = limb(standing, "L")
    from = Date.new(2021, 4, 1)
    one = graft(stock, grafted_on: from)
    base = one.values.slice(:orchard_id, :limb_id, :grafted_on, :technique, :variety_id, :stub_mm, :cut_mm, :sticks,
                            :grafter, :wrap, :seal, :cover)
    all = histories
    ids = Vestry::DB[:grafts].returning(:id).multi_insert(all.map { |each| base.merge(lost_on: each[:lost] && from +
      each[:lost], lost_cause: each[:lost] && "blown-out") }, return: :primary_key)
    seen = all.zip(ids).flat_map do |each, id|
      each[:visits].map { |(buds, verdict), on| { orchard_id: here.id, graft_id: id, seen_on: from + on, buds: buds,
                                                  verdict: verdict } }
    end
    counts = all.zip(ids).select { |each, _| each[:counted] }.map do |each, id|
      { orchard_id: here.id, graft_id: id, season: 2021, tallied_on: from + each[:counted], alive: each[:alive] }
    end
    # All on one limb: each would have the care of all the others reckoned anew.
    Vestry::DB.transaction do
      Vestry::DB.run("SET LOCAL vestry.new_orchard = '#{here.id}'")
      Vestry::DB[:observations].multi_insert(seen)
      Vestry::DB[:tallies].multi_insert(counts)
    end
    [nil, from + 15, from + 25].each do |day|
      told = described_class.beside(Vestry::DB[:grafts], today: day)
        .select_map([Sequel[:grafts][:id], described_class.lost(today: day).as(:lost), described_class.took.as(:took)])
          .to_h do |id, lost, took|
          [id, [lost, took]]
        end
      rows = Vestry::Records::Graft.where(id: ids).eager(:visits, :tallies).all.to_h { |row| [row.id, row] }
      differ = ids.zip(all).reject do |id, _|
        rows[id].outcome(day).then { |said| [said[:state] == "lost", said[:took]] } == told[id]
      end
      expect(differ.first(3)).to eq []
      next if day

      expect(Vestry::DB[:grafts].where(id: ids).select_map([:id, described_class.lost_of_many.as(:lost)]).to_h)
        .to eq told.slice(*ids).transform_values(&:first)
      expect(described_class.tally(Vestry::DB[:grafts].where(id: ids)))
        .to eq(lost: told.slice(*ids).values.count(&:first),
               took: told.slice(*ids).values.count { |lost, took| took && !lost })
    end
  end

  it "hears nothing that came after the day" do
    made = graft(limb(standing), grafted_on: Date.new(2025, 4, 1), lost_on: Date.new(2025, 9, 1), lost_cause: "failed")
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2025, 6, 1),
                                        verdict: "took", seen_by: "Orla Finch")
    said = ->(day) { described_class.beside(Vestry::DB[:grafts],
                                            today: day).get([described_class.took.as(:took),
                                                             described_class.lost(today: day).as(:lost)]) }
    expect([Date.new(2025, 5, 1), Date.new(2025, 7, 1), Date.new(2025, 10, 1)].map { |day| said.call(day) })
      .to eq [[false, false], [true, false], [true, true]]
  end

  it "takes a tree out of trouble when its limb was counted alive after all" do
    made = graft(limb(standing))
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 5, 10),
                                        verdict: "failed", seen_by: "Orla Finch")
    expect(Vestry::Records::TreeQueries.tree_states(here.id, [standing.id])[standing.id]).to eq "trouble"
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2026,
                                  tallied_on: Date.new(2026, 10, 1), alive: true, tallied_by: "Orla Finch")
    expect(Vestry::Records::TreeQueries.tree_states(here.id, [standing.id])[standing.id]).to eq "grafted"
    expect(Vestry::Records::TreeQueries.in_state(here.id, here.trees_dataset, "trouble").count).to eq 0
  end
end
