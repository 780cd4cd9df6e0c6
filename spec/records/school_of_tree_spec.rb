# frozen_string_literal: true

# A tree's plan may go by another school than the orchard: all that is said of that tree goes by it then.
RSpec.describe "A tree's school" do
  let!(:here) { orchard(school: "waxed-rind", grazing: "none") }
  let!(:apple) { tree(here, species: "apple") }
  let!(:branch) { limb(apple, "A", girth_mm: 220, fork_mm: 900, length_mm: 2600, rise_deg: 40, bearing_deg: 90) }
  let!(:kind) { variety(here, "Kestrel") }

  def go_by(school)
    fresh(apple).plan || Vestry::Records::Plan.create(orchard_id: here.id, tree_id: apple.id)
    Vestry::Deeds::NamePlan.call(fresh(apple), purpose: "", school: school, by: "Orla")
    fresh(apple)
  end

  def fresh(row) = row.class[row.id]

  it "is the orchard's until its plan names one, and again when that is taken back" do
    expect(apple.school).to eq "waxed-rind"
    expect(go_by("film-wrap").school).to eq "film-wrap"
    here.update(school: "covered-inlay")
    expect(go_by("").school).to eq "covered-inlay"
  end

  it "is the orchard's where its own is one that the rulebook does not know, to its page and to care" do
    here.update(school: "film-wrap")
    told = -> { Vestry::Records::CareSchedule.care(fresh(graft(branch, variety: kind, wrap: "film")), World::TODAY) }
    first = told.call
    Vestry::DB[:plans].where(id: go_by("film-wrap").plan.id).update(school: "weld")
    expect([fresh(apple).school, told.call[:tasks].map { |task| task[:rule] }])
      .to eq ["film-wrap", first[:tasks].map { |task| task[:rule] }]
  end

  it "is that of a plan which is begun by deciding a limb: none of its own" do
    Vestry::Deeds::DecideLimb.call(branch, { role: "nurse" }, by: "Orla", season: 2026)
    expect(fresh(apple).plan.school).to be_nil
  end

  it "chooses its methods, their rank and its sticks" do
    told = lambda do
      limb = fresh(branch)
      advice = Vestry::Records::StubAdvice.new(limb, planned: nil)
      liked = Vestry::Records::CoreInputs.methods(limb, 60.0)[:ranking]
        .select { |row| row[:reasons].any? { |reason| reason[:code] == "school_prefers" } }.map { |row| row[:method] }
      [advice.technique, liked.sort, Vestry::Records::CoreInputs.sticks(limb, 110.0, method: "rind")[:count]]
    end
    expect(told.call).to eq ["rind", %w[bark rind], 4]
    go_by("covered-inlay")
    expect(told.call).to eq ["inlay", %w[four-flap inlay], 2]
  end

  it "says how its graft is finished, what it uses up and how long it bears nothing" do
    go_by("film-wrap")
    made = graft(branch, variety: kind, technique: "rind", grafted_on: Date.new(2026, 4, 24), scion_mm: 8)
    say = Class.new { def length(mm) = "#{mm} mm" }.new
    fields = Vestry::Web::PlannedGraft.new(fresh(branch), [], Date.new(2026, 4, 24), by: "Tam", say: say).fields
    expect(fields.values_at(:wrap, :cover)).to eq %w[film film]
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2026, alive: true,
                                  tallied_on: Date.new(2026, 11, 1), above_mm: 40)
    borne = -> { Vestry::Records::GraftReport.new(fresh(made), Date.new(2027, 6, 1)).fruit[:fruits] }
    expect(borne.call).to be > 0
    go_by("")
    expect(borne.call).to eq 0
  end

  it "makes what is kept of its grafts' care out of date, and no other tree's" do
    other = limb(tree(here, number: 2, species: "apple"), "A", girth_mm: 220, length_mm: 2600)
    ids = [branch, other].map do |each|
      graft(each, variety: kind, technique: "rind", grafted_on: Date.new(2026, 4, 24)).id
    end
    today = Date.new(2026, 5, 18)
    stale = lambda do
      Vestry::DB[:care_states].where(graft_id: ids).where(Sequel[:valid_until] < today).select_order_map(:graft_id)
    end
    Vestry::Records::CareSchedule.refresh(here, today)
    expect(stale.call).to eq []
    go_by("film-wrap")
    expect(stale.call).to eq [ids.first]
    Vestry::Records::CareSchedule.refresh(here, today)
    Vestry::Deeds::NewVersion.call(fresh(apple), by: "Orla", why: nil)
    expect(stale.call).to eq [ids.first]
  end

  it "is said of the plan that is in use, also where a new version is begun just then" do
    go_by("")
    second_of_two(-> { Vestry::Deeds::NewVersion.call(fresh(apple), by: "Orla") },
                  -> { Vestry::Deeds::NamePlan.call(fresh(apple), purpose: nil, school: "film-wrap", by: "Tam") })
    expect([apple.plans_dataset.count, fresh(apple).school]).to eq [2, "film-wrap"]
  end

  it "is asked for once for all trees of a season" do
    asked = lambda do
      place = fresh(here)
      before = Vestry::Records::QueryCount.so_far
      place.with_current(reading: true) do
        Vestry::Records::StubWindows.new(place, Date.new(2026, 4, 1), season: 2026).reckoned
      end
      Vestry::Records::QueryCount.so_far - before
    end
    work = lambda do |limb|
      Vestry::Deeds::DecideLimb.call(limb, { role: "work", technique: "rind", cut: 600.0, variety: kind.id },
                                     by: "Orla", season: 2026)
    end
    work.call(branch)
    # What is worked out anew after a change is asked for by the first.
    one = 2.times.map { asked.call }.last
    5.times { work.call(limb(tree(here, species: "apple"), "A", girth_mm: 220, length_mm: 2600)) }
    expect(2.times.map { asked.call }.last).to eq one
  end
end
