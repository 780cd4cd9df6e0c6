# frozen_string_literal: true

RSpec.describe Vestry::Records::GraftReport do
  let(:here) { orchard }
  let(:made) { graft(limb(tree(here))) }

  def signs
    described_class.new(Vestry::Records::Graft[made.id], World::TODAY).causes[:causes].flat_map do |each|
      each[:evidence].map { |sign| sign[:sign] }
    end
  end

  def visit(day, **seen)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: day, **seen)
  end

  # Bark of the kind closes before the summer is too far on for a new shoot to harden.
  it "makes a dead cleft again until its own method's last day, and a rind graft while bark slips" do
    here.update(latitude: 44.5, altitude_m: 120)
    stub = made.limb
    today = here.season.next_day("05-20", here.season.year_start(World::TODAY))
    told = lambda do |technique|
      made.update(technique: technique, grafted_on: today - 25, lost_on: today, lost_cause: "blown-out")
      report = described_class.new(Vestry::Records::Graft[made.id], today)
      allow(report).to receive(:free_wood).and_return(sticks: 2, wanted: false, woken: true, leafy: false)
      [report.regraft_until, report.answer.first.fetch(:code), report.budding.begin]
    end
    pear = stub.tree.update(species: "pear")
    slips = Vestry::Records::Orchard[here.id].bark_forecast(today).closes_on("pear")
    expect(slips).to be < today
    rind, cleft = %w[rind cleft].map(&told)
    row = Vestry::Records::PlanLimb.create(
      orchard_id: here.id, limb_id: limb(pear, "Q").id, role: "work", season: 2026, technique: "cleft", cut_mm: 700,
      sticks: 1, plan_id: Vestry::Records::Plan.create(orchard_id: here.id, tree_id: pear.id).id,
      variety_id: made.variety_id
    )
    window = Vestry::Records::Orchard[here.id].stub_windows(today).of([row.id]).first.window
    expect(rind.first(2)).to eq [slips, "answer_bud"]
    expect(cleft.first(2)).to eq [window[:closes_on], "answer_regraft_now"]
    expect(cleft.first).to be > today
    expect([rind.last, cleft.last].uniq).to eq [Vestry::Records::LastDays.new(here, today).ripe_buds]
  end

  # Leaves fall in November and come in March by the calendar of aftercare.
  it "says other things of one that was seen to move by the week, through its winter, and a spring later" do
    made.update(grafted_on: Date.new(2026, 4, 20))
    visit(Date.new(2026, 7, 16), buds: "swelling", callus: "some")
    told = %w[2026-07-17 2026-07-24 2026-12-20 2027-06-20 2027-12-20].map do |day|
      described_class.new(Vestry::Records::Graft[made.id], Date.iso8601(day)).answer.first[:code]
    end
    expect(told).to eq %w[answer_swelling_late answer_grows_on answer_asleep answer_unjudged answer_unjudged]
  end

  it "counts for a cause what the failing visit itself saw, and nothing that was seen later" do
    visit(Date.new(2026, 5, 12), verdict: "failed", buds: "dead", pests: "aphids", seal_state: "cracked")
    visit(Date.new(2026, 5, 14), buds: "dead", wrap_state: "biting")
    expect(signs).to include("pests")
    expect(signs).not_to include("tape-biting")
  end

  it "looks for a cause over the first and the last weather of one that stood for ten years" do
    made.update(grafted_on: Date.new(2016, 4, 20))
    rows = (Date.new(2016, 1, 1)..World::TODAY).map do |day|
      { day: day, min_c: 5, max_c: 20, rain_mm: 3, gust_ms: day == Date.new(2026, 5, 9) ? 25 : 5 }
    end
    Vestry::Records::SiteWeather.keep(here, rows)
    visit(Date.new(2017, 6, 1), verdict: "took", longest_shoot_mm: 600)
    visit(Date.new(2026, 5, 12), verdict: "failed")
    expect(signs).to eq ["gale"]
  end

  it "looks for no cause where somebody said by what it was lost" do
    visit(Date.new(2026, 5, 12), verdict: "failed", pests: "aphids")
    told = %w[cut-off unknown failed].to_h do |cause|
      made.update(lost_on: Date.new(2026, 5, 12), lost_cause: cause)
      [cause, described_class.new(Vestry::Records::Graft[made.id], World::TODAY).causes.nil?]
    end
    expect(told).to eq("cut-off" => true, "unknown" => false, "failed" => false)
  end
end
