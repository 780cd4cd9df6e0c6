# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::Soundness do
  def limb(tag, role, **more)
    { id: tag.ord, tag: tag, role: role, share: 0.25, season: 2027, gone: false, grafted: false, length_mm: 2000.0,
      **more }
  end
  def faults(*limbs, **more)
    described_class.of(limbs: limbs, nurses_wanted: 1, cap: nil, removed: {}, vigour: nil, **more)
  end
  def codes(...) = faults(...).map { |each| each[:code] }

  it "finds nothing wrong with a sound plan, nor with none" do
    good = { "value" => "good", "why" => "One species." }
    expect(codes(limb("A", "work", compatibility: good, cut_mm: 600.0, stock_then_mm: 55.0, stock_now_mm: 56.0),
                 limb("B", "nurse"))).to eq []
    expect(codes(limb("A", nil), limb("B", nil))).to eq []
  end

  it "says when nothing is left, nothing is worked, or no nurse is kept" do
    expect(codes(limb("A", "lift"), limb("B", "lift"))).to eq ["plan_all_lifted"]
    expect(codes(limb("A", "lift"), limb("B", "nurse"))).to eq ["plan_nothing_worked"]
    expect(codes(limb("A", "work"), limb("B", "work"))).to eq ["plan_no_nurse"]
    expect(codes(limb("A", "work"), limb("B", "work"), nurses_wanted: 0)).to eq []
    expect(codes(limb("A", "work", grafted: true), limb("B", "nurse"), nurses_wanted: 2)).to eq []
    expect(codes(limb("A", "work", grafted: true), limb("B", "work"), nurses_wanted: 2)).to eq ["plan_no_nurse"]
    expect(codes(limb("A", "lift", above: true), limb("B", "lift"), limb("C", "work"), nurses_wanted: 0)).to eq []
  end

  it "has a trunk mended that lost half its bark before the head is cut, decided or not" do
    bare = lambda do |share, state, *limbs|
      codes(*limbs, wounds: [{ share: share, state: state, course: "bridge" }]) & ["plan_trunk_bare"]
    end
    sound = [limb("A", "work"), limb("B", "nurse")]
    expect([bare[0.5, "knitting", *sound], bare[0.94, "failing", *sound], bare[0.94, "bare", limb("A", nil)]])
      .to eq [["plan_trunk_bare"]] * 3
    expect([bare[0.49, "bare", *sound], bare[0.94, "holding", *sound], bare[0.94, "mended", *sound],
            bare[0.94, "bare", limb("A", "work", grafted: true)], codes(*sound)]).to eq [[]] * 5
    two = [["bridge", 0.9, "holding"], ["cut-back", 0.8, "bare"], ["inarch", 0.6, "bare"]]
      .map { |course, share, state| { course: course, share: share, state: state } }
    expect(faults(*sound, wounds: two).first).to include(code: "plan_trunk_bare", share: 0.6)
    expect(faults(limb("A", "lift"), wounds: two).map { |each| each[:code] })
      .to eq %w[plan_all_lifted plan_trunk_bare]
  end

  it "warns of a wall-trained tree that loses more than half of its arms in one season, and not of half" do
    arms = ->(count, of) { Array.new(of) { |n| limb("ABCDEF"[n], n < count ? "work" : "nurse") } }
    all = ->(count, of) { faults(*arms[count, of], trained: true).find { |each| each[:code] == "plan_all_arms" } }
    expect(all[3, 5]).to include(arms: 3, of: 5, season: 2027)
    expect([all[2, 5], all[3, 6]]).to eq [nil, nil]
  end

  it "names the limb that no season can take under the cap" do
    fault = faults(limb("A", "work", share: 0.5), limb("B", "nurse"), cap: 0.4, removed: { 2027 => 0.5, 2028 => 0.2 })
      .first
    expect(fault).to include(code: "plan_over_cap", tag: "A", season: 2027, share: 0.5, cap: 0.4)
    several = faults(limb("A", "work"), limb("B", "work"), limb("C", "nurse"), cap: 0.4, removed: { 2027 => 0.5 }).first
    expect(several).to include(limb: nil, share: 0.5)
  end

  it "says nothing of the kin or place of a limb that is gone, grafted or not worked" do
    refused = { compatibility: { "value" => "refused", "why" => "x" }, overdue: true }
    beside = [limb("B", "nurse"), limb("C", "work")]
    { limb("A", "work", **refused, gone: true) => ["plan_limb_gone"],
      limb("A", "work", **refused, gone: true, grafted: true) => [], limb("A", "work", **refused, grafted: true) => [],
      limb("A", "nurse", **refused, gone: true) => [], limb("A", "nurse", **refused) => [],
      limb("A", "backup", **refused) => %w[plan_refused plan_overdue] }
      .each { |one, told| expect([one, codes(one, *beside)]).to eq [one, told] }
  end

  it "tells of kin: refused, doubtful, late to fail, protected" do
    pairs = { "refused" => "plan_refused", "doubtful" => "plan_doubtful" }
    pairs.each do |value, code|
      expect(codes(limb("A", "work", compatibility: { "value" => value, "why" => "x" }), limb("B", "nurse")))
        .to eq [code]
    end
    expect(codes(limb("A", "work", compatibility: { "value" => "workable", "why" => "x", "delayed" => "parts" },
                      unpermitted: true), limb("B", "nurse"))).to eq %w[plan_protected plan_delayed]
  end

  it "tells of a tree that has changed since" do
    expect(codes(limb("A", "work", gone: true), limb("B", "nurse"))).to eq ["plan_limb_gone"]
    expect(codes(limb("A", "work", gone: true, grafted: true), limb("B", "nurse"))).to eq []
    expect(codes(limb("A", "work", cut_mm: 2005.0), limb("B", "nurse"))).to eq ["plan_cut_beyond"]
    expect(codes(limb("A", "work", cut_mm: 2003.0), limb("B", "nurse"))).to eq []
    expect(codes(limb("A", "work", cut_mm: 600.0, stock_then_mm: 55.0, stock_now_mm: 62.0), limb("B", "nurse")))
      .to eq ["plan_measured_anew"]
    expect(codes(limb("A", "work", conflict: ["browse"]), limb("B", "nurse"))).to eq ["plan_no_cut"]
  end

  it "says when the shoots will be too long, or the grafts would stand in shade or beside too strong a limb" do
    vigour = ->(**more) { { reasons: reckon("vigour", kept: 0.3, stubs: 3, **more)[:reasons] } }
    told = ->(**more) { codes(limb("A", "work"), limb("B", "nurse"), vigour: vigour.call(**more)) }
    expect(told.call(kept: 0.1, stubs: 1)).to eq ["plan_long_shoots"]
    expect(told.call(above: 0.6)).to eq ["plan_overtopped"]
    expect(codes(limb("A", "nurse"), limb("B", nil), vigour: vigour.call(above: 0.6))).to eq ["plan_nothing_worked"]
    expect(told.call(largest_kept: 0.79)).to eq ["plan_nurse_too_strong"]
    expect(told.call).to eq []
  end

  it "says when a strong variety stands high or a weak one low, and when a tree carries many" do
    family = lambda do |*kinds|
      kinds.each_with_index.map do |(vigour, height), i|
        limb((65 + i).chr, "work", variety: "V#{i}", variety_vigour: vigour, height_mm: height)
      end + [limb("N", "nurse")]
    end
    told = ->(limbs, **more) { faults(*limbs, **more).map { |each| each.values_at(:code, :tag) } }
    expect(told.(family.(["strong", 2400], ["weak", 1200], ["middling", 1800])))
      .to eq [%w[plan_strong_high A], %w[plan_weak_low B]]
    expect(told.(family.(["strong", 1200], ["weak", 2400]))).to eq []
    expect(told.(family.(["strong", 2400], ["strong", 1200]))).to eq []
    three, four = [3, 4].map { |many| family.(*[["middling", 1500]] * many) }
    expect([told.(four), told.(four, few: true), told.(three, few: true)])
      .to eq [[], [["plan_many_varieties", nil]], []]
  end

  it "never lets the only limb of a tree go without a word" do
    expect(codes(limb("A", "work"))).to eq ["plan_only_limb"]
    expect(codes(limb("A", "work", grafted: true))).to eq []
    expect(codes(limb("A", "work"), limb("B", "nurse"))).to eq []
  end

  it "leaves a top on while what takes over below it does not live, and says nothing of one that is gone" do
    top = limb("D", "lift", above: true, waits_for: { branch: "D1", state: "lost" })
    told = faults(top, limb("A", "work"), limb("B", "nurse")).select { |each| each[:code] == "plan_lift_waits" }
    expect(told).to eq [{ code: "plan_lift_waits", limb: "D".ord, tag: "D", season: 2027, branch: "D1", state: "lost" }]
    expect(codes(top.merge(gone: true), limb("A", "work"), limb("B", "nurse"))).not_to include "plan_lift_waits"
    expect(codes(top.merge(waits_for: nil), limb("A", "work"), limb("B", "nurse"))).not_to include "plan_lift_waits"
  end
end
