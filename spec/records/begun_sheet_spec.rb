# frozen_string_literal: true

RSpec.describe "A day's sheet that was begun" do
  let!(:here) { demo }
  let(:today) { World::TODAY }

  def sheet = Vestry::Records::DaySheet.new(Vestry::Records::Orchard[here.id], today, today)
  def stubs = sheet.cards.map { |card| card.row.id }

  # A forecast comes, of a storm on the day and fine ones after it.
  def storm
    rows = (0..4).map do |i|
      { orchard_id: here.id, day: today + i, min_c: 8.0, max_c: 18.0, rain_mm: i.zero? ? 40.0 : 0.0,
        gust_ms: i.zero? ? 30.0 : 3.0, forecast: true }
    end
    Vestry::DB[:weather_days].multi_insert(rows)
  end

  def log(card)
    row = card.row
    values = { grafted_on: today, technique: row.technique, variety_id: row.variety_id, stub_mm: 60.0,
               cut_mm: row.cut_mm, sticks: row.sticks, faces: row.faces, grafter: "Gus", wrap: "stretch-tape",
               seal: "wax", cover: "wax-only", perch: false, brace: false, against_reason: "as planned",
               client_key: SecureRandom.uuid }
    Vestry::Deeds::LogGraft.call(row.limb, values, by: "Gus", today: today)
  end

  it "empties when a forecast comes, as long as nobody has begun" do
    expect(stubs.size).to be > 3
    storm
    expect(stubs).to eq []
    expect(sheet.moved).to eq []
  end

  it "says on which day the next stubs are, where it has none of its own" do
    many = stubs.size
    storm
    expect(sheet.following).to eq [today + 1, many]
    Vestry::DB[:plan_limbs].where(orchard_id: here.id).update(hidden_at: Time.now)
    expect(sheet.following).to be_nil
  end

  it "holds from its first graft on, and says what would go where" do
    before = stubs
    log(sheet.cards.first)
    left = stubs
    expect(left).to eq before - [before.first]
    expect(sheet.moved).to eq []
    storm
    expect(stubs).to eq left
    expect(sheet.moved.map { |stub, _| stub.row.id }).to match_array left
    expect(sheet.moved.map(&:last).compact).to all(be > today)
    log(sheet.cards.first)
    expect(stubs.size).to eq left.size - 1
  end

  it "lets a stub go by hand" do
    log(sheet.cards.first)
    storm
    row = sheet.cards.first.row
    Vestry::Deeds::SettleCrew.fix(row, today + 2, by: "Orla", today: today)
    expect(stubs).not_to include(row.id)
    Vestry::Deeds::SettleCrew.fix(row, nil, by: "Orla", today: today)
    expect(stubs).not_to include(row.id)
  end
end
