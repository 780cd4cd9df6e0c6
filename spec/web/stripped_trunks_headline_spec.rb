# frozen_string_literal: true

# What the page of stripped trunks says first.
RSpec.describe "The headline of stripped trunks" do
  let(:here) { orchard }
  let(:found_on) { Date.new(2026, 2, 20) }

  def wound(number, **facts)
    standing = tree(here, number: number)
    Vestry::Records::Wound.create(orchard_id: here.id, tree_id: standing.id, girth_mm: 500, cause: "teeth",
                                  found_on: found_on, bark_left: 0.0, **facts)
  end

  # Stocks set beside it on a day, and how each was seen on another.
  def inarched(number, fates, set_on: Date.new(2026, 4, 20), seen_on: Date.new(2026, 5, 20))
    wound(number, root_bark: false, course: "inarch", repaired_on: set_on, repaired_by: "Orla").tap do |row|
      set(row, fates, set_on, seen_on)
    end
  end

  def set(row, fates, set_on, seen_on)
    stocks = fates.each_index.map do |place|
      Vestry::Records::BridgeScion.create(orchard_id: here.id, wound_id: row.id, number: row.last_scion + 1,
                                          bearing_deg: place * 90.0, set_on: set_on)
    end
    row.associations.delete(:scions)
    seen = stocks.zip(fates).select(&:last).to_h { |stock, fate| [stock.id, { fate: fate }] }
    return if seen.empty?

    Vestry::Deeds::VisitWound.call(row, { seen_on: seen_on }, seen, by: "Orla", today: seen_on)
  end

  def report(row, on) = Vestry::Records::WoundReport.new(Vestry::Records::Wound[row.id], on)
  def said(on)
    place = Vestry::Records::Orchard[here.id]
    Vestry::Web::Headline.new(place, on).repairs(place.stripped_trunks(on).all)
  end

  it "names four of those that wait, and counts the others; of five it names all" do
    (1..5).each { |number| wound(number) }
    expect(said(found_on)).to start_with "A1, A2, A3, A4 and A5 wait for repair: A1 first, "
    wound(6)
    expect(said(found_on)).to start_with "A1, A2, A3, A4 and 2 more wait for repair: A1 first, "
  end

  it "sends nobody to set new ones while bark is closed" do
    row = inarched(1, %w[alive dead dead])
    closes = report(row, Date.new(2026, 5, 25)).closes_on
    expect(said(closes)).to eq "A1 is failing: set new stocks while bark slips."
    opens = Vestry::Records::WoundReport.new(row, closes).next_opens_on
    expect(said(closes + 1)).to eq "A1 is failing: set new stocks when bark slips again, from about " \
                                   "#{opens.strftime('%-d %B %Y')}."
  end

  it "counts how many hold among those that were bridged or inarched alone" do
    inarched(1, %w[alive alive])
    inarched(2, %w[alive alive])
    wound(3, course: "dress", covered_on: found_on, bark_left: 0.9)
    expect(said(Date.new(2026, 5, 25))).to start_with "Every stripped trunk is repaired; 2 of 2 hold."
  end

  it "does not count against a trunk the dead stocks that were replaced" do
    row = inarched(1, %w[alive dead dead])
    carried = ->(on) { report(row, on).carried.round(2) }
    expect(carried[Date.new(2026, 5, 25)]).to eq 0.33
    set(row, %w[alive dead], Date.new(2026, 6, 1), Date.new(2026, 7, 1))
    expect(carried[Date.new(2026, 6, 30)]).to eq 0.33
    expect(carried[Date.new(2026, 7, 1)]).to eq 0.67
    set(row, %w[alive alive], Date.new(2027, 4, 20), Date.new(2027, 6, 1))
    expect(carried[Date.new(2027, 6, 1)]).to eq 1.0
    say = Vestry::Web::Headline.new(here, Date.new(2026, 6, 2)).say_wound(report(row, Date.new(2026, 6, 2)))
    expect(say).to start_with "A1: its new stocks should have knit by "
  end

  it "has the scions of a kind that keeps its leaves cut on the day" do
    reasons = lambda do |species|
      row = wound(here.trees_dataset.count + 1, below_union: true)
      row.tree.update(species: species)
      wounded = report(row, found_on)
      line = Vestry::Web::Headline.new(here, found_on)
      [line.say_where_shoots_are_cut(wounded), *wounded.triage[:reasons].map { |reason| line.say(reason) }].join(" ")
    end
    leafy, asleep = reasons["citrus"], reasons["apple"]
    expect(leafy).to include("from its own top or a near kin on the day, their leaves off",
                             "cut wood of its top on the day, and set it in the same hour")
      .and match(/Bark slips about .*; its scions are cut on the day\./)
    expect(asleep).to include("before it wakes", "Save wood from its top first", "have the scions cut by then")
  end

  it "names what has to be ready when bark slips, and what is done then, by what the trunk calls for" do
    line = Vestry::Web::Headline.new(here, found_on)
    ahead = { code: "triage_bark_ahead", opens_on: found_on + 30, days: 30 }
    late = { code: "triage_too_late", opens_on: found_on + 300 }
    said = [{}, { verdict: "inarch" }, { verdict: "stump-graft" }, { verdict: "stump-graft", leafy: true }]
      .map { |more| line.say(ahead.merge(more))[/; (.+)\.\z/, 1] }
    expect(said).to eq ["have the scions cut by then", "have the young stocks planted by then",
                        "have its own wood cut by then", "its wood is cut on the day"]
    expect([{}, { verdict: "inarch" }, { verdict: "stump-graft" }].map { |more| line.say(late.merge(more)) })
      .to match [/ and bridge it from /, / and set young stocks into it from /, / and graft its stump from /]
    report = ->(on) do
      Vestry::Core.reckoning("triage").reckon({ girdled_share: 1.0, girth_mm: 400, root_bark: false, today: on,
                                                opens_on: "2026-04-15", closes_on: "2026-06-20",
                                                next_opens_on: "2027-04-15" })[:reasons].last
    end
    expect(report["2026-03-01"]).to include(code: "triage_bark_ahead", verdict: "inarch")
    expect(report["2026-07-01"]).to include(code: "triage_too_late", verdict: "inarch")
  end
end
