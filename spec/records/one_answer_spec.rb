# frozen_string_literal: true

# One limb on one day: whoever is asked says the same.
RSpec.describe "One answer" do
  let(:here) { orchard }
  let(:standing) { tree(here) }
  let!(:made) { graft(limb(standing, "A"), grafted_on: Date.new(2026, 4, 20), cut_mm: 900) }

  def graft_report(on) = Vestry::Records::GraftReport.new(Vestry::Records::Graft[made.id], on)
  def dead(on)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: on, buds: "dead", verdict: "failed")
  end

  # What the answer after a visit, the tasks, the headline and the plan make of a graft found dead on a day.
  def said(on)
    dead(on)
    report = graft_report(on)
    days = here.last_days(on)
    tasks = report.care[:tasks].map { |task| task[:rule] } & %w[regraft regraft-bud]
    headline = Vestry::Web::Headline.new(here, on).limb(Vestry::Records::Limb[made.limb_id])
    { answer: report.answer.first[:code], tasks: tasks, season: made.orchard.last_days(on).season_again(made),
      now: on <= days.of_kind("apple"), bud: on <= days.bud, headline: headline }
  end

  it "graft again, bud or wait: the answer, the agenda, the headline and the plan agree on every day of a season" do
    days = here.last_days(Date.new(2026, 6, 1))
    last, bud = days.of_kind("apple"), days.bud
    expect([last, bud]).to match [be_between(Date.new(2026, 5, 25), Date.new(2026, 7, 20)),
                                  be_between(Date.new(2026, 8, 20), Date.new(2026, 10, 1))]
    { last => ["answer_regraft_no_wood", %w[regraft regraft-bud], 2026, "There is time for another graft"],
      last + 1 => ["answer_bud", %w[regraft-bud], 2027, "bud them between"],
      bud => ["answer_bud", %w[regraft-bud], 2027, "bud them by"],
      bud + 1 => ["answer_spring", [], 2027, "plan it again for spring"] }.each do |on, (code, tasks, season, words)|
      Vestry::DB.transaction(rollback: :always, savepoint: true) do
        found = said(on)
        expect([on, found[:answer], found[:tasks], found[:season]]).to eq [on, code, tasks, season]
        expect(found[:headline]).to include words
      end
    end
  end

  # The answer's code, the tasks and the season of another graft, as they are stored before and after a look.
  def asked_again(on)
    agenda = Vestry::Records::Agenda.new(Vestry::Records::Orchard[here.id], on)
    open = agenda.due.select { |item| item.of.id == made.id }
    { answer: graft_report(on).answer.first[:code],
      tasks: open.map { |item| item.task[:rule] } & %w[regraft regraft-bud],
      until: open.find { |item| item.task[:rule] == "regraft" }&.task&.fetch(:closes_on),
      season: Vestry::Records::Graft[made.id].then { |graft| graft.orchard.last_days(on).season_again(graft) } }
  end

  def looked(on, **seen)
    Vestry::Records::PhenologySeen.create(orchard_id: here.id, tree_id: standing.id, seen_on: on, seen_by: "Orla",
                                          **seen)
  end

  it "goes by the bark of its own tree: found fast before its kind's day, or seen to lift beyond it" do
    last = here.last_days(Date.new(2026, 6, 1)).of_kind("apple")
    fast = last - 6
    dead(fast - 1)
    now = { answer: "answer_regraft_no_wood", tasks: %w[regraft], until: last, season: 2026 }
    expect(asked_again(fast)).to eq now
    look = looked(fast, closed: true, slipping: false)
    expect(asked_again(fast)).to eq(answer: "answer_bud", tasks: [], until: nil, season: 2027)
    # Another tree of its kind has its kind's day, which this look moves by a little.
    other = graft(limb(tree(here), "A"), grafted_on: Date.new(2026, 4, 20))
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: other.id, seen_on: fast, buds: "dead",
                                  verdict: "failed")
    expect(graft_report(fast).class.new(other, fast).answer.first[:code]).to eq "answer_regraft_no_wood"
    look.update(hidden_at: Time.now)
    expect(asked_again(fast)).to eq now
  end

  it "is made again while bark is seen to lift, by a look or under the knife" do
    kind = here.last_days(Date.new(2026, 6, 1)).of_kind("apple")
    lifts_on = here.rulebook.value("reckoning.slip.lifts_on")
    dead(kind - 9)
    later = ->(on) { { answer: "answer_regraft_no_wood", tasks: %w[regraft], until: on + lifts_on, season: 2026 } }
    late = { answer: "answer_bud", tasks: [], until: nil, season: 2027 }
    expect(asked_again(kind + 1)).to eq late
    look = looked(kind + 1, slipping: true)
    expect(asked_again(kind + 1)).to eq later[kind + 1]
    look.update(slipping: nil)
    expect(asked_again(kind + 1)).to eq late
    beside = graft(limb(standing, "B"), grafted_on: kind, bark_slip: "clean")
    expect(asked_again(kind + 1)).to eq later[kind]
    beside.update(bark_slip: "reluctant")
    expect(asked_again(kind + 1)).to eq late
  end

  # For which seasons a limb waits to be grafted, and whether it is open since it was lost; its row says the same.
  def stands(limb)
    waits = [2025, 2026, 2027].select do |year|
      Vestry::Records::PlanQueries.waiting_stubs(here, year).any? { |row| row.limb_id == limb.id }
    end
    open = Vestry::Records::PlanQueries.lost_undecided(here, Date.new(2026, 6, 1)).any? { |each| each.id == limb.id }
    expect(Vestry::Records::Limb[limb.id].then { |each| each.planned.failed?(each.graft) }).to be open
    [waits, open ? "open" : nil]
  end

  def decide(limb, season, cut)
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[limb.id], { role: "work", season: season, cut: cut,
                                                                     technique: "rind", variety: made.variety_id },
                                   by: "Orla", season: season)
  end

  def lose(limb, made_on, lost_on, cut)
    lost = graft(Vestry::Records::Limb[limb.id], grafted_on: made_on, cut_mm: cut)
    expect(stands(limb)).to eq [[], nil]
    Vestry::Deeds::RecordLoss.call(lost, on: lost_on, cause: "failed", by: "Orla", today: lost_on)
  end

  it "does not send anyone to a stub that was lost before it is decided again, lower" do
    other = limb(standing, "B")
    decide(other, 2026, 900)
    expect(stands(other)).to eq [[2026, 2027], nil]
    lose(other, Date.new(2026, 4, 20), Date.new(2026, 5, 20), 900)
    expect(stands(other)).to eq [[], "open"]
    expect { decide(other, 2026, 900) }.to raise_error(Vestry::Deeds::Refused, /died there: cut at 840 mm or lower/)
    decide(other, 2026, 840)
    expect(stands(other)).to eq [[2026, 2027], nil]
    Vestry::Deeds::NewVersion.call(standing.refresh, by: "Orla")
    expect(stands(other)).to eq [[2026, 2027], nil]
    lose(other, Date.new(2026, 5, 25), Date.new(2026, 6, 20), 840)
    expect(stands(other)).to eq [[], "open"]
    decide(other, 2027, 780)
    expect(stands(other)).to eq [[2027], nil]
  end

  it "speaks of the season that has begun, and not of the one in which the graft was lost" do
    dead(Date.new(2026, 6, 1))
    days = here.last_days(Date.new(2027, 3, 1))
    { Date.new(2026, 12, 20) => "answer_this_spring", Date.new(2027, 2, 20) => "answer_this_spring",
      days.of_kind("apple") => "answer_regraft_no_wood", days.of_kind("apple") + 1 => "answer_bud",
      days.bud + 1 => "answer_spring" }.each do |on, code|
      expect([on, graft_report(on).answer.first[:code]]).to eq [on, code]
    end
    decide(made.limb, 2027, 840)
    expect(graft_report(Date.new(2027, 5, 1)).answer).to eq [{ code: "answer_planned", season: 2027 }]
    expect(Vestry::Web::Headline.new(here, Date.new(2027, 5, 1)).limb(Vestry::Records::Limb[made.limb_id]))
      .to include "is to become", "in 2027: cut at 840 mm"
  end

  it "moves what was planned again and missed to one season, on its page and in its limb's headline" do
    dead(Date.new(2026, 6, 1))
    decide(made.limb, 2027, 840)
    [Date.new(2027, 8, 1), Date.new(2028, 8, 1)].each do |on|
      to = graft_report(on).answer.first.fetch(:to)
      headline = Vestry::Web::Headline.new(here, on).limb(Vestry::Records::Limb[made.limb_id])
      expect([graft_report(on).answer.first[:code], headline[/move it to (\d+)/, 1].to_i]).to eq ["answer_missed", to]
    end
    # Its regrowth can be budded meanwhile, as long as that has its days.
    days = here.last_days(Date.new(2027, 7, 1)).budding(made.limb.tree_id, "apple")
    words = ->(on) { Vestry::Web::Headline.new(here, on).say(graft_report(on).answer.first)[/under Plan.*/] }
    expect([Date.new(2027, 7, 1), days.begin, days.end, days.end + 1].map(&words))
      .to eq ["under Plan, or bud its regrowth between 1 August and #{days.end.day} September.",
              *["under Plan, or bud its regrowth by #{days.end.day} September."] * 2, "under Plan."]
  end

  it "asks for nothing more of a lost graft whose limb is planned again: its page, the agenda and the answer" do
    lost_on, winter = Date.new(2026, 6, 1), Date.new(2026, 12, 1)
    dead(lost_on)
    asked = lambda do |on|
      open = ->(task) { %w[open late].include?(task[:status]) && task[:rule].start_with?("regraft") }
      agenda = Vestry::Records::Agenda.new(Vestry::Records::Orchard[here.id], on)
      [graft_report(on).care[:tasks].select(&open).map { |task| task[:rule] },
       agenda.due.map { |item| item.task[:rule] }.grep(/regraft/)]
    end
    expect(asked[lost_on]).to eq [%w[regraft], %w[regraft]]
    expect(asked[winter]).to eq [%w[regraft-spring], %w[regraft-spring]]
    decide(made.limb, 2027, 840)
    expect([asked[winter], asked[Date.new(2027, 1, 5)]]).to eq [[[], []], [[], []]]
    expect(graft_report(winter).answer).to eq [{ code: "answer_planned", season: 2027 }]
    # Another part for the limb, and it is asked for again.
    Vestry::Records::Limb[made.limb_id].planned.update(hidden_at: Time.now)
    expect(asked[winter]).to eq [%w[regraft-spring], %w[regraft-spring]]
  end

  it "says what a loss that was recorded without a visit means too" do
    on = Date.new(2026, 8, 20)
    Vestry::Deeds::RecordLoss.call(made, on: on, cause: "blown-out", by: "Orla", today: on)
    expect(graft_report(on).answer.first[:code]).to eq "answer_bud"
  end

  # What is said and asked of one that was lost and of which nothing is decided.
  MADE_NOW = %w[answer_regraft_now answer_regraft_no_wood answer_beside_now answer_beside_no_wood answer_rejoin_now
                answer_rebud].freeze
  NOW_TASKS = %w[regraft beside rejoin rebud again-this-spring bud-this-summer].freeze
  PLAN_TASKS = %w[regraft-spring beside-spring bud-spring].freeze
  BUD_TASKS = %w[regraft-bud bud-this-summer].freeze

  def asked_of(one, on)
    report = Vestry::Records::GraftReport.new(Vestry::Records::Graft[one.id], on)
    open = report.care[:tasks].select { |task| %w[open late].include?(task[:status]) }.map { |task| task[:rule] }
    [report.answer.first[:code], open & (NOW_TASKS + PLAN_TASKS + BUD_TASKS)]
  end

  # Nothing is asked that the answer calls too late, and what it says can be done now is asked for.
  def disagree?(code, asked)
    case code
    when *MADE_NOW then (asked & NOW_TASKS).empty?
    when "answer_bud" then (asked - BUD_TASKS - PLAN_TASKS).any?
    when /spring|later|next|soon/ then (asked & (NOW_TASKS - ["again-this-spring"])).any?
    else asked.any?
    end
  end

  { "rind" => "2026-05-28", "side-bark" => "2026-05-28", "approach" => "2026-06-02",
    "shield-bud" => "2026-08-25" }.each do |method, died|
    it "says of a #{method} that died what its tasks ask, through two years in which nobody decides" do
      bud = method == "shield-bud"
      one = graft(limb(standing, "Q"), technique: method, cut_mm: 700, sticks: 1, cover: bud ? nil : "wax-only",
                                       grafted_on: bud ? Date.new(2026, 8, 5) : Date.new(2026, 4, 25))
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: one.id, seen_on: Date.iso8601(died), buds: "dead",
                                    verdict: "failed")
      # Week by week through its own season, and every third week from then on.
      days = [*0..30, *(33..100).step(3)].map { |week| Date.iso8601(died) + 7 * week }
      told = days.map { |on| [on, *asked_of(one, on)] }
      expect(told.select { |_, code, asked| disagree?(code, asked) }).to eq []
      expect(told.flat_map(&:last).uniq.size).to be >= 2
    end
  end

  it "lists a lost graft of which nothing is decided as long as it is asked to be made again, planned or not" do
    Vestry::Deeds::RecordLoss.call(made, on: Date.new(2026, 7, 20), cause: "blown-out", by: "Orla",
                                         today: Date.new(2026, 7, 20))
    days = %w[2026-07-20 2027-05-01 2028-05-01 2028-08-10 2029-05-01].map { |day| Date.iso8601(day) }
    fresh = -> { Vestry::Records::Orchard[here.id] }
    told = days.map do |day|
      [fresh.call.lost_undecided(day).map(&:tag),
       graft_report(day).care[:tasks].any? { |task| %w[open late ahead].include?(task[:status]) }]
    end
    expect(told).to eq [*[[["A"], true]] * 4, [[], false]]
    expect(Vestry::Web::Headline.new(fresh.call, days[1]).plan).to start_with "A1 A was lost, and nothing is decided of"
    decide(made.limb, 2027, 600)
    expect(fresh.call.lost_undecided(days[1])).to eq []
  end

  it "names the trees without a plan that its filter finds, one that was grafted in part among them" do
    today = Date.new(2026, 6, 1)
    limb(standing, "B")
    graft(limb(tree(here, number: 2)))
    bare = tree(here, number: 3)
    headline = Vestry::Web::Headline.new(here, today)
    found = Vestry::Records::TreeWindow.new(here, today, { state: "open" }).count
    named = Vestry::Records::PlanQueries.unplanned(here, most: 9)
    expect(named.map(&:id)).to eq [standing.id, bare.id]
    expect(found).to eq 2
    limb(bare)
    expect(headline.survey).to include "#{standing.label} and #{bare.label} have no plan yet"
  end
end
