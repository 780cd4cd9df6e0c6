# frozen_string_literal: true

# Each point of practice changes something that a hand or an eye meets.
RSpec.describe "Practice points" do
  let(:here) { orchard }
  let(:standing) { tree(here) }

  # The orchard as it works with one choice.
  def choosing(point, choice)
    Vestry::Records::Orchard[here.id].tap do |place|
      place.overrides = Sequel.pg_jsonb("practice.#{point}" => { "value" => choice, "why" => "x" })
    end
  end

  def choices(point) = Vestry::Core::Rulebook.shipped.book("schools").dig("points", point, "choices").keys

  # Steps, materials and tasks of grafts of every kind of cut.
  def at_the_stub(place)
    book = place.rulebook
    steps = %w[rind inlay four-flap cleft whip-and-tongue].map do |technique|
      figures = Vestry::Core::Graft::Figures.of(technique, stub_mm: 30.0, scion_mm: 9.0, bark_mm: 2.0, rulebook: book)
      Vestry::Core::Graft::Steps.of(technique, figures, stub_mm: 30.0, species: "apple", school: place.school,
                                                        rulebook: book) { |mm| mm.round.to_s }
                                                          .map { |step| step[:does] }
    end
    [steps, book.materials(place.school), tasks(place), book.fruitless_seasons(place.school)]
  end

  def tasks(place)
    visits = [{ on: Date.new(2026, 5, 20), buds: "leafing", verdict: "took" }]
    [nil, "film", "foil-and-bag"].map do |cover|
      graft = { grafted_on: Date.new(2026, 4, 20), method: "rind", species: "apple", sticks: 1, southern: false,
                brace: false, headed: true, cover: cover }
      Vestry::Core::Tend::Care.call(graft: graft, today: Date.new(2026, 6, 20), observations: visits,
                                    school: place.school, rulebook: place.rulebook)[:tasks].map { |task| task[:rule] }
    end
  end

  # What the plan and the wood make of it.
  def on_the_plan(place)
    thin = limb(standing, "T#{Vestry::Records::Limb.count}", girth_mm: 60, length_mm: 1500)
    branch = Vestry::Records::Limb[thin.id].tap { |each| each.associations[:orchard] = place }
    branch.tree.associations[:orchard] = place
    advice = Vestry::Records::StubAdvice.new(branch, planned: nil, school: place.school)
    order = Vestry::Records::WoodOrder.new(place, 2027, Date.new(2026, 12, 1))
    [advice.technique, advice.low?, place.rulebook.practice("sticks", place.school), order.cutting_days,
     place.stick_mm.to_f, Vestry::Records::CoreInputs.nurses_wanted(place, 4, place.school)]
  end

  SEEN_AT_THE_STUB = %w[cover cover-off fixing wrap seal wood-ends back-bevel wax perch blade shoots stock-shoots
                        fruit].freeze
  SEEN_ON_THE_PLAN = %w[sticks stick wood-cut height nurses flaps season].freeze
  # Held by specs of their own: the walk's sign, the bundle's form, the pace that is offered, the nurse, the family
  # tree.
  ELSEWHERE = %w[readiness wood-dip wood-packing pace nurse-off varieties].freeze

  it "are all told of here" do
    expect((SEEN_AT_THE_STUB + SEEN_ON_THE_PLAN + ELSEWHERE).sort)
      .to eq Vestry::Core::Rulebook.shipped.point_names.sort
  end

  SEEN_AT_THE_STUB.each do |point|
    it "#{point} changes steps, materials or tasks with each choice" do
      seen = choices(point).map { |choice| at_the_stub(choosing(point, choice)) }
      expect(seen.uniq.size).to eq seen.size
    end
  end

  SEEN_ON_THE_PLAN.each do |point|
    it "#{point} changes what the plan or the wood says" do
      # Flaps are thought of first where small wood is worked.
      here.update(school: "film-wrap") if point == "flaps"
      seen = choices(point).map do |choice|
        place = choosing(point, choice)
        place.overrides = place.overrides.to_h.merge("practice.season" => { "value" => "slip", "why" => "x" }) if
          point == "flaps"
        on_the_plan(place)
      end
      expect(seen.uniq.size).to be > 1
    end
  end

  it "cuts wood about the middle of its window, or at its end, by the school" do
    days = %w[midwinter late].to_h do |choice|
      [choice, Vestry::Records::WoodOrder.new(choosing("wood-cut", choice), 2027, Date.new(2026, 12, 1)).cutting_days]
    end
    # From 10 December to 20 February are 72 days; four weeks of them.
    expect(days).to eq("midwinter" => [Date.new(2027, 1, 1), Date.new(2027, 1, 29)],
                       "late" => [Date.new(2027, 1, 23), Date.new(2027, 2, 20)])
  end

  it "weighs a planned stub where wood is short by the wood that it carries" do
    row = Vestry::Deeds::DecideLimb.call(limb(standing, "S", girth_mm: 314.159), { role: "work" }, by: "Orla",
                                                                                  season: 2026)
    stub = Vestry::Records::WoodSupply.stub(row, here, World::TODAY)
    expect(stub).to include(share: be_within(1).of(10_000), stock_mm: be_within(0.1).of(100), sticks: 1)
  end

  it "sets no stick alone on a stub of which one side would die back, unless that is decided" do
    here.update(school: "covered-inlay")
    wide, thin = [420, 230].map { |girth| limb(standing, "L#{girth}", girth_mm: girth, length_mm: 2400) }
    advised = lambda do |one, **asked|
      Vestry::Records::StubAdvice.new(one, planned: nil, technique: "inlay", at_mm: 300, **asked)
    end
    counts = [wide, thin].map { |one| [advised[one].practice, advised[one].stick_count] }
    expect(counts).to eq [["pair", 2], ["single", 1]]
    expect(advised[wide].stick_choices.map { |line| line[:warnings] }.first(2)).to eq [["one_on_large"], []]
    expect(advised[wide, practice: "single"].stick_count).to eq 1
  end
end
