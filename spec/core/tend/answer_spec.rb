# frozen_string_literal: true

RSpec.describe Vestry::Core::Tend::Answer, :core do
  DAY = Date.new(2026, 5, 20)

  def answer(state, seen = {}, slip: { slips: true, sticks: 2 }, today: DAY, open: [], safe_mm: nil, kind: "stub",
             hand_mm: 0, asleep: false, tasks: [], lost: nil, **more)
    care = { **more, state: state, knit_on: Date.new(2026, 5, 12), knit_share: 0.6, kind: kind,
             patience_on: Date.new(2026, 5, 26), waking_on: Date.new(2027, 3, 15),
             tasks: open.map { |rule| { rule: rule, status: "open", opens_on: today } } + tasks }
    described_class.of(seen, care: care, slip: slip, regraft_until: Date.new(2026, 7, 5),
                       budding: Date.new(2026, 8, 1)..Date.new(2026, 9, 7), safe_mm: safe_mm, hand_mm: hand_mm,
                       asleep: asleep, today: today, lost: lost)
  end

  def codes(...) = answer(...).map { |each| each[:code] }

  it "says what each state means" do
    expect(%w[false-start knitting growing callused].map { |state| codes(state).first })
      .to eq %w[answer_false_start answer_knitting answer_growing answer_callused]
    expect(codes("growing", { snapped: true })).to eq %w[answer_snapped]
    expect([codes("growing", limb: true), codes("growing", { snapped: true }, limb: true),
            codes("knitting", limb: true)])
      .to eq [%w[answer_limb], %w[answer_snapped], %w[answer_knitting]]
    expect([codes("waiting"), codes("late", {}, today: DAY + 10),
            codes("waiting", { buds: "swelling" }), codes("late", { buds: "swelling" })])
      .to eq [%w[answer_wait], %w[answer_open_it], %w[answer_swelling], %w[answer_swelling_late]]
  end

  it "asks of one that moved whether it grows on, once its week has passed and until somebody looked" do
    look = ->(status, opens) { [{ rule: "moving-look", status: status, opens_on: DAY + opens }] }
    told = [look["ahead", 1], look["open", 0], look["passed", -60], look["done", -60]].map do |tasks|
      codes("late", { buds: "swelling" }, tasks: tasks).first
    end
    expect(told).to eq %w[answer_swelling_late answer_grows_on answer_grows_on answer_swelling_late]
    expect(codes("late", { buds: "asleep" }, today: DAY + 10, tasks: look["open", 0])).to eq %w[answer_open_it]
  end

  it "opens and waits for nothing while it sleeps with its tree, nor a spring later" do
    expect(%w[waiting late callused false-start].flat_map { |state| codes(state, {}, asleep: true) }.uniq)
      .to eq %w[answer_asleep]
    expect(%w[knitting growing].map { |state| codes(state, {}, asleep: true).first })
      .to eq %w[answer_knitting answer_growing]
    expect(codes("late", {}, kind: "bud", asleep: true)).to eq %w[answer_bud_unseen]
    later = %w[late passed].map { |status| [{ rule: "unjudged", status: status, opens_on: DAY }] }
    expect(later.map { |tasks| codes("late", { buds: "swelling" }, tasks: tasks).first }.uniq)
      .to eq %w[answer_unjudged]
    ahead = [{ rule: "unjudged", status: "ahead", opens_on: DAY + 1 }]
    expect(codes("late", {}, asleep: true, tasks: ahead)).to eq %w[answer_asleep]
  end

  it "opens no wrap but that of a stub" do
    expect(%w[late callused].map { |state| codes(state, {}, today: DAY + 10, kind: "side").first })
      .to eq %w[answer_side_late answer_side_callused]
    expect(answer("waiting", kind: "side").first).to eq(code: "answer_wait", until: Date.new(2026, 5, 26))
  end

  it "lets a bud sleep until spring, and has the stock headed then" do
    told = ->(state, seen = {}, on = Date.new(2026, 8, 30)) { codes(state, seen, today: on, kind: "bud").first }
    spring = [Date.new(2027, 3, 14), Date.new(2027, 3, 15)]
    expect(%w[knitting waiting late sleeping].map { |state| told[state] })
      .to eq %w[answer_bud_knitting answer_bud_unseen answer_bud_unseen answer_sleeping]
    expect(spring.map { |on| told["sleeping", {}, on] }).to eq %w[answer_sleeping answer_bud_slow]
    expect(spring.map { |on| told["sleeping", { buds: "swelling" }, on] }).to eq %w[answer_bud_early answer_bud_wakes]
    expect([told["false-start", { buds: "leafing" }], told["growing"]]).to eq %w[answer_bud_early answer_growing]
  end

  it "takes a plant alongside by its callus alone, and parts it from its donor when its tasks say so" do
    told = ->(state, seen = {}, **more) { codes(state, seen, kind: "approach", **more).first }
    expect([told["knitting"], told["waiting", { buds: "leafing" }], told["callused", { callus: "some" }]])
      .to eq %w[answer_approach_knitting answer_approach_wait answer_joining]
    expect([told["late", { callus: "none" }], told["waiting", { callus: "none" }], told["late"]])
      .to eq %w[answer_approach_late answer_approach_wait answer_approach_wait]
    expect(%w[approach-half approach-off approach-head].map { |rule| told["callused", {}, open: [rule]] }.uniq)
      .to eq %w[answer_joined]
  end

  it "says of each kind how it is made again" do
    dead = ->(kind, slip, on = DAY) { codes("failed", { buds: "dead" }, slip: slip, today: on, kind: kind).first }
    slips, bare, ahead, closed = { slips: true, sticks: 2 }, { slips: true, sticks: 0 }, { ahead: true, sticks: 2 },
      { slips: false, sticks: 2 }
    expect([slips, bare, ahead, closed].map { |slip| dead["side", slip] })
      .to eq %w[answer_beside_now answer_beside_no_wood answer_beside_spring answer_beside_later]
    expect([slips, bare, ahead, closed].map { |slip| dead["approach", slip] })
      .to eq %w[answer_rejoin_now answer_rejoin_now answer_rejoin_spring answer_rejoin_spring]
    expect([[8, 1], [9, 7], [9, 8], [7, 31]].map { |month, day| dead["bud", slips, Date.new(2026, month, day)] })
      .to eq %w[answer_rebud answer_rebud answer_rebud_next answer_rebud_later]
  end

  it "slits the wrap of a stub, and eases the tie of a bud" do
    expect([codes("growing", { wrap: "biting" }, open: %w[slit-now]),
            codes("growing", { wrap: "biting" }, kind: "bud", open: %w[untie])])
      .to eq [%w[answer_growing answer_slit], %w[answer_growing answer_untie]]
  end

  it "says so to the last day, and not the day after" do
    on = lambda do |month, day, sticks|
      answer("failed", { buds: "dead" }, slip: { slips: true, sticks: sticks }, today: Date.new(2026, month, day))
        .first[:code]
    end
    expect([2, 0].product([5, 6]).map { |sticks, day| on[7, day, sticks] })
      .to eq %w[answer_regraft_now answer_bud answer_regraft_no_wood answer_bud]
    expect([on[9, 7, 2], on[9, 8, 2]]).to eq %w[answer_bud answer_spring]
  end

  it "says of a stub too near the fork to be cut again when its own shoots can be budded, and never to graft it" do
    told = lambda do |month, day, **more|
      slip = { slips: true, sticks: 2, ahead: true, no_room: true }
      answer("failed", { buds: "dead" }, slip: slip, today: Date.new(2026, month, day), **more).first
    end
    buds = { code: "answer_no_room", from: Date.new(2026, 8, 1), until: Date.new(2026, 9, 7) }
    expect([told[5, 20], told[8, 2], told[9, 8]]).to eq [buds, { **buds, from: nil }, { code: "answer_no_room" }]
    expect(told[5, 20, kind: "side"][:code]).to start_with "answer_beside"
  end

  it "says regraft only while bark slips, and names every last day" do
    expect(answer("failed").first).to eq(code: "answer_regraft_now", until: Date.new(2026, 7, 5), sticks: 2,
                                         from: Date.new(2026, 8, 1))
    expect(answer("failed", slip: { slips: false, sticks: 2 }).first)
      .to eq(code: "answer_bud", from: Date.new(2026, 8, 1), until: Date.new(2026, 9, 7))
    expect(answer("failed", slip: { slips: false, sticks: 2 }, today: Date.new(2026, 8, 1)).first)
      .to eq(code: "answer_bud", from: nil, until: Date.new(2026, 9, 7))
    expect(answer("failed", lost: "browsed").first).to include(code: "answer_regraft_now", lost: "browsed")
  end

  it "waits for bark that is to come, with the wood there is once none can be cut any more" do
    told = lambda do |kind = "stub", on: Date.new(2026, 4, 3), **slip|
      answer("failed", kind: kind, today: on, slip: { ahead: true, sticks: 2, **slip }).first
    end
    opens = { until: Date.new(2026, 7, 5), from: Date.new(2026, 8, 1), opens: Date.new(2026, 4, 17) }
    expect([told[], told[woken: false, leafy: true]])
      .to eq [{ code: "answer_this_spring" }, { code: "answer_this_spring", leafy: true }]
    expect(%w[stub side approach].map { |kind| told[kind, woken: true, opens_on: opens[:opens]] })
      .to eq(%w[answer_regraft_soon answer_beside_soon answer_rejoin_soon]
        .map { |code| { code: code, sticks: 2, **opens } })
    expect(told[woken: true, opens_on: opens[:opens], sticks: 0, wanted: true])
      .to eq(code: "answer_regraft_soon", sticks: 0, wanted: true, **opens)
    expect([told[woken: true, on: Date.new(2026, 7, 5)], told[woken: true, on: Date.new(2026, 7, 6)]]
      .map { |each| each[:code] }).to eq %w[answer_regraft_soon answer_bud]
  end

  it "lets what a visit saw rest when its task is done, and asks for no more than the tasks do" do
    seen = { seal: "gone", wrap: "biting", stock_shoots: "many", pests: "aphids", fruit: true }
    expect(codes("growing", seen)).to eq %w[answer_growing]
    expect(%w[stock-shoots stock-shoots-later year-stock-shoots].map { |rule| codes("growing", seen, open: [rule]) }
      .uniq)
      .to eq [%w[answer_growing answer_stock]]
    expect(codes("growing", { fruit: true }, open: %w[no-fruit])).to eq %w[answer_growing answer_fruit]
  end

  it "asks for a brace alone where less than a hand is safe, and for nothing below a hand or once it was held" do
    long = ->(mm, **more) { codes("growing", { longest_shoot_mm: mm, on: DAY }, hand_mm: 150, **more) }
    expect([long[149, safe_mm: 60.0], long[150, safe_mm: 60.0], long[150, safe_mm: 149.0], long[151, safe_mm: 150.0]])
      .to eq [%w[answer_growing], %w[answer_growing answer_tie], %w[answer_growing answer_tie],
              %w[answer_growing answer_shorten]]
    expect([DAY - 1, DAY].map { |on| long[400, safe_mm: 200.0, shortened_on: on].last })
      .to eq %w[answer_shorten answer_growing]
    expect([false, true].map { |braced| long[400, safe_mm: 200.0, braced: braced].last })
      .to eq %w[answer_shorten answer_growing]
  end

  it "says of a plant alongside that its donor is off" do
    expect(codes("callused", { callus: "full" }, kind: "approach", parted_on: DAY)).to eq %w[answer_parted]
  end

  it "adds what else was seen, and what is open" do
    expect(codes("growing", { seal: "gone", wrap: "biting", longest_shoot_mm: 600, stock_shoots: "many",
                              pests: "aphids", fruit: true },
                 open: %w[reseal slit-now let-light-in free-buds uncover choose brace stock-shoots-now pests-treat
                          fruit-off]))
      .to eq %w[answer_growing answer_reseal answer_slit answer_light answer_free_buds answer_uncover answer_choose
                answer_brace answer_stock answer_pests answer_fruit]
    expect(codes("growing", { seal: "sound", wrap: "sound", longest_shoot_mm: 599, stock_shoots: "some", pests: "none",
                              fruit: true })).to eq %w[answer_growing]
  end

  it "says shorten or brace once, where the shoot is longer than this site's gusts allow" do
    long = ->(mm) { codes("growing", { longest_shoot_mm: mm }, safe_mm: 203.0, open: %w[brace]) }
    expect([long[203], long[204]]).to eq [%w[answer_growing answer_brace], %w[answer_growing answer_shorten]]
    expect(answer("growing", { longest_shoot_mm: 500 }, safe_mm: 203.0).last).to eq(code: "answer_shorten", mm: 203.0)
  end
end
