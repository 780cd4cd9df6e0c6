# frozen_string_literal: true

RSpec.describe "Tending" do
  let!(:here) { orchard }
  let!(:stock) { limb(tree(here)) }
  let!(:made) { graft(stock, cut_mm: 800) }
  let(:today) { World::TODAY }

  def lose_it(on = Date.new(2026, 5, 15))
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: on, buds: "dead",
                                        verdict: "failed")
  end
  def told(on = today) = Vestry::Records::GraftReport.new(Vestry::Records::Graft[made.id], on)
  def codes(on = today) = told(on).answer.map { |each| each[:code] }

  describe Vestry::Deeds::Regraft do
    def regraft(on = today) = described_class.call(Vestry::Records::Graft[made.id], by: "Orla", today: on)

    it "puts a failed stub back into plan, wood and day, and records the loss" do
      lose_it
      row = regraft
      expect(row.values.slice(:role, :season, :technique, :variety_id))
        .to eq(role: "work", season: 2026, technique: "rind", variety_id: made.variety_id)
      expect(row.cut_mm.to_f).to eq 740
      expect(made.reload.values.slice(:lost_on, :lost_cause))
        .to eq(lost_on: Date.new(2026, 5, 15), lost_cause: "failed")
      fresh = Vestry::Records::Orchard[here.id]
      expect(Vestry::Records::PlanQueries.stubs_of(fresh, 2026).all.map(&:id)).to eq [row.id]
      expect(Vestry::Records::WoodSupply.new(fresh, 2026, today).lines.map { |line| line.variety.id })
        .to eq [made.variety_id]
      expect(Vestry::Records::StubWindows.new(fresh, today).stubs.map { |stub| stub.row.id }).to eq [row.id]
    end

    it "refuses a stub too near the fork to be cut again, whose page and tasks say what else there is" do
      made.update(cut_mm: 159)
      lose_it
      expect { regraft }.to raise_error(Vestry::Deeds::Refused, /too near the fork to be cut again/)
      expect([codes, told.care[:tasks].map { |task| task[:rule] } & %w[regraft regraft-spring stub-spring]])
        .to eq [%w[answer_no_room], %w[stub-spring]]
      # A hand's breadth is left above the fork.
      made.update(cut_mm: 160)
      expect([codes.first, regraft.cut_mm]).to match [/\Aanswer_regraft/, 100]
    end

    it "sets a bud again this summer while buds can be set, and next summer after that" do
      seasons = { Date.new(2026, 8, 20) => 2026, Date.new(2026, 11, 20) => 2027 }.keys.map.with_index do |day, n|
        bud = graft(limb(tree(here, number: 20 + n)), technique: "shield-bud", sticks: 1,
                                                      grafted_on: Date.new(2026, 7, 28))
        Vestry::Records::Visit.create(orchard_id: here.id, graft_id: bud.id, seen_on: day - 1, leaf_stalk: "clings",
                                      buds: "dead", verdict: "failed")
        described_class.call(Vestry::Records::Graft[bud.id], by: "Orla", today: day).season
      end
      expect(seasons).to eq [2026, 2027]
    end

    it "waits for next season when this one is over, and refuses what has not failed" do
      expect { regraft }.to raise_error(Vestry::Deeds::Refused, /has not failed/)
      lose_it(Date.new(2026, 8, 9))
      expect(regraft(Date.new(2026, 8, 10)).season).to eq 2027
      stock.update(gone_on: today)
      expect { regraft }.to raise_error(Vestry::Deeds::Refused, /limb that is gone/)
    end
  end

  describe Vestry::Deeds::RecordLoss do
    it "is of a day on which its limb still stood" do
      stock.update(gone_on: Date.new(2026, 5, 10))
      lose = lambda do |on|
        described_class.call(Vestry::Records::Graft[made.id], on: on, cause: "blown-out", by: "Orla", today: today)
      end
      expect { lose[Date.new(2026, 5, 11)] }
        .to raise_error(Vestry::Deeds::Refused, /is after #{stock.label} came off on 10 May/)
      expect(lose[Date.new(2026, 5, 10)].lost_on).to eq Date.new(2026, 5, 10)
    end

    it "keeps the cause, and takes it back" do
      described_class.call(made, on: today, cause: "blown-out", by: "Orla", today: today, note: "the gale")
      expect(Vestry::Records::Graft[made.id].fate).to eq "lost"
      described_class.undo(made, by: "Orla")
      expect(Vestry::Records::Graft[made.id].fate).to eq "waiting"
      { { cause: "bored", on: today } => /choose what took it/, { cause: "pest", on: today + 1 } => /future/,
        { cause: "pest", on: Date.new(2026, 4, 1) } => /before the graft/ }.each do |facts, words|
        expect { described_class.call(made, by: "Orla", today: today, **facts) }
          .to raise_error(Vestry::Deeds::Refused, words)
      end
    end
  end

  describe Vestry::Deeds::HandOver do
    let(:wound) do
      Vestry::Records::Wound.create(orchard_id: here.id, tree_id: stock.tree_id, cause: "teeth",
                                    found_on: Date.new(2026, 3, 1), girth_mm: 500, bark_left: 0.4)
    end

    def theirs(name) = Vestry::Records::Agenda.new(Vestry::Records::Orchard[here.id], today, person: name)

    before { person("Tam Reddaway", grafter: here) }

    it "moves aftercare from one agenda to another, with its history, and back" do
      before = theirs(made.grafter).due_count
      expect([before, theirs("Tam Reddaway").due_count]).to match [be > 0, 0]
      described_class.call([made], to: "Tam Reddaway", by: "Orla")
      expect([theirs(made.grafter).due_count, theirs("Tam Reddaway").due_count]).to eq [0, before]
      expect(Vestry::DB[:history].where(table_name: "grafts", row_id: made.id).select_order_map(:id).size).to eq 1
      described_class.call([Vestry::Records::Graft[made.id]], to: "", by: "Orla")
      expect([theirs(made.grafter).due_count, theirs("Tam Reddaway").due_count]).to eq [before, 0]
    end

    it "gives a stripped trunk too, and refuses who does not graft here: then nothing changes hands" do
      described_class.call([wound], to: "Tam Reddaway", by: "Orla")
      expect(theirs("Tam Reddaway").due.map(&:of)).to include(wound)
      person("Vera Quill", viewer: here)
      ["Vera Quill", "Nobody"].each do |name|
        expect { described_class.call([made, wound], to: name, by: "Orla") }
          .to raise_error(Vestry::Deeds::Refused, /someone who grafts here/)
      end
      expect(Vestry::Records::Graft[made.id].tended_by).to be_nil
    end
  end

  it "is done with a dead graft by planning it again, and with the count by counting, not by saying so" do
    lose_it
    settle = ->(key, what, on) { Vestry::Deeds::SettleTask.call(made, key, what, by: "Orla", today: on) }
    key = told.care[:tasks].find { |task| task[:rule] == "regraft" }[:key]
    expect { settle[key, "done", today] }
      .to raise_error(Vestry::Deeds::Refused, /A1 A, regraft or rescue: this is done by planning it again/)
    expect(settle[key, "waived", today].what).to eq "waived"
    Vestry::Records::Visit.where(graft_id: made.id).delete
    autumn = Date.new(2026, 9, 20)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: today, verdict: "took")
    count = told(autumn).care[:tasks].find { |task| task[:rule] == "tally" }[:key]
    expect { settle[count, "done", autumn] }.to raise_error(Vestry::Deeds::Refused, /this is done by counting it/)
  end

  it "is looked at by saying what was seen; a limb that grows may be looked at and nothing be said" do
    look = told(Date.new(2026, 5, 20)).care[:tasks].find { |task| task[:rule] == "first-look" }[:key]
    settle = ->(what) { Vestry::Deeds::SettleTask.call(made, look, what, by: "Orla", today: Date.new(2026, 5, 20)) }
    expect { settle["done"] }.to raise_error(Vestry::Deeds::Refused, /this is done by saying what was seen/)
    expect(settle["waived"].what).to eq "waived"
    by = ->(rule) { Vestry::Core::Tend::Rules.done_by(Vestry::Core::Rulebook.shipped.task(rule)) }
    expect(%w[bud-look approach-look first-fates yearly-look wax-check set-again again-this-spring tally regraft-bud
              rebud].map(&by))
      .to eq ["look", "look", "look", nil, nil, "set", "plan", "count", "log", "log"]
  end

  it "takes no look, count or graft of a day after its limb came off" do
    made
    stock.update(gone_on: Date.new(2026, 5, 4))
    at = ->(day) { { seen_on: day, buds: "asleep" } }
    expect { Vestry::Deeds::RecordVisit.call(made, at[Date.new(2026, 5, 5)], by: "Orla", today: today) }
      .to raise_error(Vestry::Deeds::Refused, /is after A1 A came off on 4 May 2026/)
    expect(Vestry::Deeds::RecordVisit.call(made, at[Date.new(2026, 5, 4)], by: "Orla", today: today).buds)
      .to eq "asleep"
    values = { technique: "rind", variety_id: made.variety_id, stub_mm: 60, cut_mm: 700, sticks: 2, faces: [],
               grafter: "Orla", wrap: "stretch-tape", seal: "wax", cover: "wax-only", grafted_on: Date.new(2026, 5, 5) }
    log = ->(**more) { Vestry::Deeds::LogGraft.call(stock.reload, values.merge(more), by: "Orla", today: today) }
    expect { log[] }.to raise_error(Vestry::Deeds::Refused, /is after A1 A came off/)
    expect(log[grafted_on: Date.new(2026, 5, 4)].grafted_on).to eq Date.new(2026, 5, 4)
  end

  describe "how long a shoot is" do
    let(:set) { Date.new(2026, 4, 21) }

    def seen(mm, on, of = made)
      Vestry::Deeds::RecordVisit.call(of, { seen_on: on, longest_shoot_mm: mm }, by: "Orla", today: on)
    end

    # A graft of 21 April: 100 mm that day, and 50 mm more with each day.
    it "is no more than can have grown since, at a look and at a count" do
      expect { seen(3000, set) }.to raise_error(Vestry::Deeds::Refused, /more than a shoot grows in 0 days, 100 mm/)
      expect { seen(201, set + 2) }.to raise_error(Vestry::Deeds::Refused, /2 days, 200 mm at most: check the unit/)
      expect(seen(200, set + 2).longest_shoot_mm).to eq 200
      expect { count(1700, set + 31) }
        .to raise_error(Vestry::Deeds::Refused) { |e| expect(e.errors.keys).to eq [:growth_mm] }
      expect(count(1600, set + 31).growth_mm).to eq 1600
      old = graft(limb(tree(here, number: 9)), grafted_on: set << 12)
      expect(seen(3000, set, old).longest_shoot_mm).to eq 3000
      donor = graft(limb(tree(here, number: 10)), grafted_on: set, technique: "approach")
      guessed = graft(limb(tree(here, number: 11)), grafted_on: set, known_since: set)
      expect([donor, guessed].map { |each| seen(900, set + 1, each).longest_shoot_mm }).to eq [900, 900]
    end

    def count(mm, on)
      Vestry::Deeds::RecordTally.call(made, { tallied_on: on, alive: true, growth_mm: mm }, by: "Orla", today: on)
    end
  end

  describe "what a visit means" do
    def visit(on = today, **facts)
      Vestry::Records::Visit.create({ orchard_id: here.id, graft_id: made.id, seen_on: on }.merge(facts))
    end

    it "answers at the tree" do
      expect(codes).to eq []
      visit(Date.new(2026, 4, 28), buds: "swelling", callus: "none")
      expect(codes(Date.new(2026, 4, 28))).to eq %w[answer_false_start answer_odds]
      visit(Date.new(2026, 5, 14), buds: "asleep")
      expect(codes(Date.new(2026, 5, 14))).to eq %w[answer_false_start answer_odds]
    end

    it "says how likely it lives while one waits, and what another look would make of that" do
      visit(Date.new(2026, 5, 14), buds: "asleep", callus: "none")
      report = Vestry::Records::GraftReport.new(Vestry::Records::Graft[made.id], Date.new(2026, 5, 14))
      odds = report.answer.find { |reason| reason[:code] == "answer_odds" }
      # Bayes by hand: of two sticks one lives; its buds move about when its patience ends.
      stick = here.success(Date.new(2026, 5, 14)).of("apple", "rind")[:stick]
      prior = 1 - (1 - stick)**2
      chance = lambda do |day, moving_seen|
        days = (day - made.grafted_on).to_i
        share = [days / (report.patience_on - made.grafted_on).to_f, 2].min
        moving = 0.98 / (1 + Math.exp(-(share - 1) / 0.15))
        none, full = [0.05, 1 - share].max, [0.05, [0.9, share - 0.5].min].max
        none /= none + full + [0.05, 1 - none - full].max
        false_start = 0.35 * Math.exp(-days / 12.0)
        dead_buds = 1 - Math.exp(-days / 40.0)
        lives, dies = moving_seen ? [moving / 2, false_start / 2] :
          [1 - moving - 0.02, 1 - false_start - dead_buds]
        (prior * lives * none) / (prior * lives * none + (1 - prior) * dies * 0.9)
      end
      expect(odds).to match(code: "answer_odds", better: "swelling", worse: "asleep", on: report.look_again_on,
                            alive: be_within(1e-9).of(chance[Date.new(2026, 5, 14), false]),
                            if_better: be_within(1e-9).of(chance[report.look_again_on, true]),
                            if_worse: be_within(1e-9).of(chance[report.look_again_on, false]))
      expect(odds[:if_better]).to be > odds[:alive]
      expect(odds[:if_worse]).to be < odds[:alive]
    end

    it "judges by the hand of a new grafter who took the limb on, and by the orchard for any other" do
      visit(Date.new(2026, 5, 14), buds: "asleep", callus: "none")
      alive = -> { told(Date.new(2026, 5, 14)).odds[:alive] }
      orchards = alive.call
      plan = Vestry::Records::Plan.create(orchard_id: here.id, tree_id: stock.tree.id)
      row = Vestry::Records::PlanLimb.create(orchard_id: here.id, plan_id: plan.id, limb_id: stock.id, role: "work",
                                             season: 2026, technique: "rind", cut_mm: 800, sticks: 2,
                                             variety_id: made.variety_id)
      expect(alive.call).to eq orchards
      row.update(hand: "Tam Reddaway")
      expect(alive.call).to eq orchards
      row.update(hand: made.grafter)
      expect(alive.call).to be < orchards - 0.05
      row.update(season: 2027)
      expect(alive.call).to eq orchards
    end

    it "tells waiting from opening, and taking from losing" do
      visit(Date.new(2026, 5, 14), buds: "asleep")
      expect(codes(Date.new(2026, 5, 14))).to eq %w[answer_wait answer_odds]
      visit(Date.new(2026, 5, 28), buds: "asleep")
      expect(codes(Date.new(2026, 5, 28))).to eq %w[answer_open_it]
      visit(Date.new(2026, 5, 28), callus: "some", buds: "asleep")
      expect(codes(Date.new(2026, 5, 28))).to eq %w[answer_callused]
      visit(Date.new(2026, 6, 1), buds: "leafing", verdict: "took", longest_shoot_mm: 700, stock_shoots: "many",
            pests: "aphids")
      expect(codes(Date.new(2026, 6, 1))).to eq %w[answer_growing answer_shorten answer_stock answer_pests]
      visit(Date.new(2026, 6, 2), buds: "leafing", snapped: true)
      expect(codes(Date.new(2026, 6, 2)).first).to eq "answer_snapped"
    end

    it "counts the wood that is left before it says regraft" do
      lose_it
      expect(codes).to eq %w[answer_regraft_no_wood]
      bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: made.variety_id, source: "row S",
                                              cut_on: Date.new(2026, 1, 16))
      Vestry::DB[:sticks].insert(orchard_id: here.id, bundle_id: bundle.id, number: 1)
      expect(told.answer.first).to include(code: "answer_regraft_now", sticks: 1)
      expect(codes(Date.new(2026, 8, 10))).to eq %w[answer_bud]
      expect(codes(Date.new(2026, 10, 20))).to eq %w[answer_spring]
      expect(codes(Date.new(2026, 11, 10))).to eq %w[answer_this_spring]
    end
  end

  it "ranks why it may have failed by what is on record" do
    made.update(bark_slip: "none", cut_mm: 100)
    5.times do |i|
      graft(limb(stock.tree, "N#{i}")).then { |other| Vestry::Records::Visit.create(orchard_id: here.id,
        graft_id: other.id, seen_on: today, verdict: "took") }
    end
    expect(told.causes).to be_nil
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 5, 10),
                                        seal_state: "cracked")
    lose_it
    expect(told.causes[:causes].map { |each| each[:cause] }).to eq %w[bark dried stub]
  end

  it "keeps a nurse until the grafts carry enough leaf, and takes it off by the day it came off" do
    nurse = limb(stock.tree, "N")
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    advice = ->(on, practice) { Vestry::Records::Nurses
      .new(here.reload.tap { |place| place.overrides = Sequel.pg_jsonb({ "practice.nurse-off" => { "value" => practice,
        "why" => "x" } }) }, on).all.map(&:action) }
    # On 1 October of its first year nothing is known to live, and there is no word of coming off.
    expect(advice.call(Date.new(2026, 10, 1), "first-autumn")).to eq ["keep"]
    made
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 6, 20),
                                  verdict: "took")
    summer_and_autumn = [Date.new(2026, 7, 1), Date.new(2026, 10, 1)].flat_map { |on| advice.call(on, "first-autumn") }
    expect(summer_and_autumn).to eq %w[shorten keep]
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2026, alive: true,
                                  tallied_on: Date.new(2026, 10, 1), above_mm: made.stub_mm)
    spring = Date.new(2027, 3, 1)
    told = %w[first-autumn second-year closed].map { |practice| advice.call(spring, practice).first }
    expect(told).to eq %w[off keep keep]
    Vestry::Deeds::TakeOff.call(nurse, on: spring, today: spring, by: "Orla")
    expect([nurse.refresh.gone_on, advice.call(spring, "first-autumn")]).to eq [spring, []]
    expect { Vestry::Deeds::TakeOff.call(made.limb, on: spring, today: spring, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /living graft/)
    expect { Vestry::Deeds::TakeOff.call(limb(stock.tree, "P"), on: spring + 1, today: spring, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /future/)
  end

  describe Vestry::Deeds::DailyLetters do
    def letters = Vestry::DB[:letters].order(:id).select_map(%i[address subject])

    it "writes once a day, to each who wants it, and only if something is due" do
      person(steward: here)
      person("Tam Reddaway", grafter: here)
      person("Ines Wood", viewer: here)
      2.times { described_class.call(here, today: today) }
      expect(letters.map(&:first)).to eq %w[orla.finch@trial.example]
      list = "#{Vestry::Settings.address}/o/#{here.slug}/tend"
      expect(Vestry::DB[:letters].get(:body))
        .to include("A1 A: First look, due 19 May", "The whole list: #{list}\n",
                    "To turn this letter off: #{list}/calendar")
      described_class.call(here, today: today + 1)
      expect(letters.size).to eq 2
      Vestry::Records::Membership.dataset.update(daily_letter: false)
      described_class.call(here, today: today + 2)
      described_class.call(here, today: Date.new(2026, 4, 21))
      expect(letters.size).to eq 2
    end

    it "is wanted or not by each person alone" do
      orla, tam = person("Orla Finch", steward: here), person("Tam Reddaway", grafter: here)
      described_class.want(here, orla, false)
      expect([orla, tam].map { |who| Vestry::Records::Membership.between(who, here).daily_letter }).to eq [false, true]
      described_class.want(here, orla, true)
      expect(Vestry::Records::Membership.between(orla, here).daily_letter).to be true
    end

    it "says how many more there are, where it does not list them all, and only then" do
      person(steward: here)
      body = -> { Vestry::DB[:letters].order(:id).last[:body] }
      described_class.call(here, today: today)
      due = Vestry::Records::Agenda.new(here, today).due_count
      expect([due, body.call]).to match [be_between(1, 25), satisfy { |words| !words.include?(" more") }]
      stub_const("#{described_class}::MOST_LINES", due)
      described_class.call(here, today: today + 1)
      expect(body.call).not_to include " more"
      stub_const("#{described_class}::MOST_LINES", 0)
      described_class.call(here, today: today + 2)
      expect(body.call).to include "and #{Vestry::Records::Agenda.new(here, today + 2).due_count} more"
    end
  end
end
