# frozen_string_literal: true

RSpec.describe Vestry::Core::Tend::Answer, :core do
  DAY = Date.new(2026, 5, 20)

  def answer(state, seen = {}, slip: { slips: true, closes_on: Date.new(2026, 6, 5), sticks: 2 }, today: DAY, open: [])
    care = { state: state, knit_on: Date.new(2026, 5, 12), knit_share: 0.6,
             tasks: open.map { |rule| { rule: rule, status: "open" } } }
    described_class.of(seen, care: care, patience_on: Date.new(2026, 5, 26), slip: slip,
                       last_regraft_on: Date.new(2026, 7, 5), bud_from: Date.new(2026, 8, 1), today: today)
  end

  def codes(...) = answer(...).map { |each| each[:code] }

  it "says what each state means" do
    expect(%w[false-start knitting growing].map { |state| codes(state).first })
      .to eq %w[answer_false_start answer_knitting answer_growing]
    expect(codes("growing", { snapped: true })).to eq %w[answer_snapped]
    expect([codes("waiting"), codes("late", {}, today: DAY + 10), codes("late", { callus: "some" }),
            codes("waiting", { buds: "swelling" })]).to eq [%w[answer_wait], %w[answer_open_it], %w[answer_rewrap_wait],
                %w[answer_swelling]]
  end

  it "says so to the last day, and not the day after" do
    slip = { slips: true, closes_on: Date.new(2026, 8, 1), sticks: 2 }
    on = lambda do |day, sticks|
      described_class.of({ buds: "dead" }, care: { state: "failed", tasks: [] }, patience_on: day,
                         slip: slip.merge(sticks: sticks), last_regraft_on: Date.new(2026, 7, 5),
                         bud_from: Date.new(2026, 8, 1), today: day).first[:code]
    end
    expect([2, 0].product([5, 6]).map { |sticks, day| on[Date.new(2026, 7, day), sticks] })
      .to eq %w[answer_regraft_now answer_bud answer_regraft_no_wood answer_bud]
  end

  it "says regraft only while bark slips, wood is left and a shoot has time to harden" do
    slip = ->(**change) { { slips: true, closes_on: Date.new(2026, 6, 5), sticks: 2 }.merge(change) }
    expect(answer("failed").first).to eq(code: "answer_regraft_now", until: Date.new(2026, 6, 5), sticks: 2)
    expect(answer("failed", slip: slip[closes_on: Date.new(2026, 8, 1)]).first[:until]).to eq Date.new(2026, 7, 5)
    expect(codes("failed", slip: slip[sticks: 0])).to eq %w[answer_regraft_no_wood]
    expect(codes("failed", slip: slip[slips: false])).to eq %w[answer_bud]
    expect(codes("failed", today: Date.new(2026, 7, 6))).to eq %w[answer_bud]
    expect(codes("failed", slip: slip[slips: false], today: Date.new(2026, 9, 15))).to eq %w[answer_bud]
    expect(codes("failed", slip: slip[slips: false], today: Date.new(2026, 9, 16))).to eq %w[answer_spring]
  end

  it "adds what else was seen, and what is open" do
    expect(codes("growing", { seal: "gone", wrap: "biting", longest_shoot_mm: 600, stock_shoots: "many",
                              pests: "aphids", fruit: true }, open: %w[let-light-in uncover choose brace fruit-off]))
      .to eq %w[answer_growing answer_reseal answer_slit answer_light answer_uncover answer_shorten answer_choose
                answer_brace answer_stock answer_pests answer_fruit]
    expect(codes("growing", { seal: "sound", wrap: "sound", longest_shoot_mm: 599, stock_shoots: "some", pests: "none",
                              fruit: true })).to eq %w[answer_growing]
    expect(answer("growing", { longest_shoot_mm: 900 }).last).to eq(code: "answer_shorten", mm: 600)
  end
end
