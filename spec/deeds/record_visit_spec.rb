# frozen_string_literal: true

RSpec.describe Vestry::Deeds::RecordVisit do
  let(:here) { orchard }
  let(:made) { graft(limb(tree(here)), grafted_on: Date.new(2026, 4, 20)) }
  let(:today) { Date.new(2026, 6, 20) }

  def visit(on: today, **seen)
    described_class.call(made, { seen_on: on, seen_by: "Tam" }.merge(seen), by: "Tam", today: today)
  end

  def refusal
    yield
    nil
  rescue Vestry::Deeds::Refused => e
    e.errors
  end

  it "writes what was seen of the graft, with its line of history" do
    row = visit(buds: "swelling", callus: "some", note: "slow")
    expect(row.values.slice(:orchard_id, :graft_id, :seen_on, :buds, :callus, :note, :seen_by, :verdict))
      .to eq(orchard_id: here.id, graft_id: made.id, seen_on: today, buds: "swelling", callus: "some", note: "slow",
             seen_by: "Tam", verdict: nil)
    line = Vestry::DB[:history].where(table_name: "observations", row_id: row.id).first
    expect(line.slice(:action, :who)).to eq(action: "add", who: "Tam")
    expect(line[:after].to_h).to include("buds" => "swelling", "graft_id" => made.id)
  end

  it "keeps each of several visits at once, one sent twice once, and nothing of those that are only tried" do
    key = SecureRandom.uuid
    keys = [key, key, SecureRandom.uuid, SecureRandom.uuid]
    told = Queue.new
    real = keys.map do |each|
      Thread.new do
        described_class.call(Vestry::Records::Graft[made.id], { seen_on: today, seen_by: "Tam", dead_sticks: [1],
                                                                client_key: each }, by: "Tam", today: today)
      end
    end
    tried = Array.new(6) do
      Thread.new do
        told << described_class.meaning(Vestry::Records::Graft[made.id], { seen_on: today, seen_by: "Tam",
                                                                           buds: "dead" }, by: "Tam", today: today)
      end
    end
    (real + tried).each(&:join)
    rows = Vestry::Records::Visit.where(graft_id: made.id).all
    expect(rows.map(&:client_key)).to match_array keys.uniq
    expect(rows.map { |row| [row.dead_sticks.map(&:to_i), row.sticks_alive, row.buds] }.uniq)
      .to eq [[[1], made.sticks - 1, made.sticks == 1 ? "dead" : nil]]
    expect(told.size).to eq 6
  end

  it "takes what is in leaf, or has a shoot of a hand's length, as taken, and nothing that is dead" do
    hand = here.rulebook.value("care.figures.hand")
    expect([visit(buds: "leafing"), visit(longest_shoot_mm: hand), visit(longest_shoot_mm: hand - 1),
            visit(buds: "dead", longest_shoot_mm: hand), visit(buds: "leafing", verdict: "failed")].map(&:verdict))
      .to eq ["took", "took", nil, nil, "failed"]
  end

  it "happened after the graft was made, and not tomorrow" do
    expect([made.grafted_on, today].map { |day| visit(on: day).seen_on }).to eq [made.grafted_on, today]
    expect(refusal { visit(on: made.grafted_on - 1) }[:seen_on].first).to include("before the graft was made")
    expect(refusal { visit(on: today + 1) }[:seen_on].first).to include("lies in the future")
  end

  it "knows which sticks died: so many live, and with none left it is dead" do
    two = graft(limb(made.limb.tree, "B"), grafted_on: Date.new(2026, 4, 20), sticks: 2)
    at = lambda do |*dead|
      described_class.call(two, { seen_on: today, seen_by: "Tam", dead_sticks: dead },
                           by: "Tam", today: today)
    end
    expect(at[2]).to have_attributes(sticks_alive: 1, buds: nil, dead_sticks: [2])
    expect(at[1, 2]).to have_attributes(sticks_alive: 0, buds: "dead")
    expect(refusal { at[3] }[:dead_sticks].first).to include("numbered up to 2")
  end

  it "says what a visit would mean, and keeps nothing of it" do
    before = [Vestry::Records::Visit.count, Vestry::DB[:history].count]
    told = described_class.meaning(made, { seen_on: today, seen_by: "Tam", buds: "leafing", callus: "some" }, by: "Tam",
                                   today: today)
    expect(told.first[:code]).to eq "answer_growing"
    expect([Vestry::Records::Visit.count, Vestry::DB[:history].count]).to eq before
    expect(made.refresh.visits).to eq []
  end
end
