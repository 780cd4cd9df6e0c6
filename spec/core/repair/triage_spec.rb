# frozen_string_literal: true

RSpec.describe "triage", :core do
  BARK = { opens_on: "2026-04-15", closes_on: "2026-06-20", next_opens_on: "2027-04-18" }.freeze

  def triage(share, today: "2026-02-01", girth: 500, **more)
    reckon("triage", { girdled_share: share, girth_mm: girth, today: today }.merge(BARK, more))
  end
  def codes(answer) = answer[:reasons].map { |each| each[:code] }

  it "puts a ring before a half, a half before a scratch" do
    rings = [triage(1.0, today: "2026-05-01"), triage(1.0, drying: true), triage(0.9, covered: true),
             triage(0.4, covered: true), triage(0.1), triage(0.1, covered: true)]
    expect(rings.map { |each| each[:rank] }).to eq [0, 1, 2, 3, 4, 5]
  end

  it "says how long there is" do
    expect(triage(0.8).values_at(:by, :days_left)).to eq [Date.new(2026, 6, 20), 139]
    expect(triage(0.8, today: "2026-07-01")[:by]).to be_nil
    expect(codes(triage(0.8, today: "2026-07-01"))).to include "triage_too_late"
    expect(triage(0.4, today: "2026-07-01")[:by]).to eq Date.new(2027, 6, 20)
    expect(triage(0.1)[:by]).to be_nil
    expect(codes(triage(0.8, today: "2026-04-15"))).to include "triage_slips"
  end

  it "grafts a thin stem that is stripped below its own union on its stump, unless its variety stands elsewhere" do
    answer = triage(0.7, girth: 80, below_union: true)
    expect(answer[:verdict]).to eq "stump-graft"
    expect(codes(answer)).to eq %w[triage_stump_graft triage_save_wood triage_cover triage_bark_ahead]
    safe = triage(0.7, girth: 80, below_union: true, elsewhere: true)
    expect([safe[:verdict], codes(safe), safe[:by]]).to eq ["cut-back", %w[triage_cut_back], Date.new(2026, 2, 22)]
  end

  it "gives a stem that is cut back three weeks from the day it was found, however often it is asked" do
    left = lambda do |day, **more|
      triage(0.9, girth: 80, today: day, **more).values_at(:by, :days_left)
    end
    expect([left["2026-02-10", found_on: "2026-02-01"], left["2026-03-01", found_on: "2026-02-01"], left["2026-02-10"]])
      .to eq [[Date.new(2026, 2, 22), 12], [Date.new(2026, 2, 22), -7], [Date.new(2026, 3, 3), 21]]
  end

  it "never cuts a stem of 28 mm back to live wood where none lives, and never loses its variety" do
    answer = triage(1.0, girth: 88, root_bark: false, below_union: true)
    expect(answer[:verdict]).to eq "inarch"
    expect(codes(answer)).to include("triage_dig", "triage_no_root", "triage_save_wood")
    tasks = lambda do |course|
      reckon("mending", course: course, species: "apple", girdled_share: 1.0, found_on: "2026-02-01",
                        slips_on: "2026-04-15", today: "2026-04-20")[:tasks].map { |task| task[:rule] }
    end
    # What cuts and what keeps the stem never stand beside each other.
    cutting = %w[cut-below bridge inarch stump-graft]
    expect(%w[inarch stump-graft bridge cut-back].map { |course| tasks[course] & cutting })
      .to eq [["inarch"], ["stump-graft"], ["bridge"], ["cut-below"]]
  end

  it "asks to dig, to cover, and to inarch where no root bark lives" do
    answer = triage(0.6, buried: true, root_bark: false, drying: true)
    expect(codes(answer)).to eq %w[triage_inarch triage_dig triage_no_root triage_cover triage_bark_ahead]
    expect(answer[:reasons].last[:days]).to eq 73
    expect(refusal("triage", BARK.merge(girdled_share: 1.1, girth_mm: 300, today: "2026-02-01")).field)
      .to eq "girdled_share"
  end

  it "has the wood of what never sleeps cut on the day" do
    told = ->(leafy, **more) { triage(0.8, leafy: leafy, **more)[:reasons].find { |each| each[:code] =~ /ahead/ } }
    expect(told[true]).to eq told[false].merge(leafy: true)
    last = ->(leafy) { codes(triage(0.8, leafy: leafy, below_union: true)) & %w[triage_save_wood triage_leafy_wood] }
    expect([true, false].map(&last)).to eq [%w[triage_leafy_wood], %w[triage_save_wood]]
  end
end

RSpec.describe "shoots", :core do
  def shoots(scions, shoots, **more)
    reckon("shoots", { scions: scions.each_with_index.map { |mm, i| { id: i, length_mm: mm } },
                       shoots: shoots.each_with_index.map { |(mm, thick), i| { id: "S#{i}", length_mm: mm,
                         diameter_mm: thick } } }.merge(more))
  end

  it "cuts long scions from long shoots and names what is missing" do
    answer = shoots([300, 200, 260, 500], [[520, 9], [620, 8]])
    expect(answer[:cuts]).to match_array [{ shoot: "S0", left_mm: 10.0, scions: [3] },
                                          { shoot: "S1", left_mm: 40.0, scions: [0, 2] }]
    expect(answer.values_at(:missing, :missing_mm)).to eq [[1], 200.0]
  end

  it "finds the way of cutting that serves all, where the tightest rest does not" do
    answer = shoots([600, 500, 500, 500], [[1000, 9], [1100, 9]], kerf_mm: 0)
    expect(answer).to include(missing: [], missing_mm: 0.0)
    expect(answer[:cuts].to_h { |each| [each[:shoot], each[:scions]] }).to eq("S0" => [1, 2], "S1" => [0, 3])
      .or eq("S0" => [2, 3], "S1" => [0, 1])
  end

  # Every way of cutting there is.
  def most_served(scions, left, kerf)
    return 0 if scions.empty?

    ways = left.each_index.select { |at| left[at] >= scions[0] - 1e-9 }.map do |at|
      1 + most_served(scions.drop(1), left.dup.tap { |all| all[at] -= scions[0] + kerf }, kerf)
    end
    [most_served(scions.drop(1), left, kerf), *ways].max
  end

  it "serves as many as any way of cutting does, and with more wood never fewer" do
    chance = Random.new(11)
    60.times do
      scions = Array.new(1 + chance.rand(6)) { 100 + 50 * chance.rand(9) }
      wood = Array.new(1 + chance.rand(3)) { 200 + 50 * chance.rand(20) }
      missing = shoots(scions, wood.map { |mm| [mm, 9] }, kerf_mm: 10)[:missing]
      expect([scions, wood, scions.size - missing.size]).to eq [scions, wood, most_served(scions, wood, 10)]
      expect(shoots(scions, [*wood, 300].map { |mm| [mm, 9] }, kerf_mm: 10)[:missing].size).to be <= missing.size
    end
  end

  it "cuts each scion once, and no more from a shoot than it is long" do
    scions = Array.new(24) { |i| 180 + i * 7 % 110 }
    answer = shoots(scions, Array.new(9) { |i| [420 + i * 31, 9] })
    cut = answer[:cuts].flat_map { |each| each[:scions] }
    expect((cut + answer[:missing]).sort).to eq scions.each_index.to_a
    answer[:cuts].each do |each|
      expect(each[:scions].sum { |id| scions[id] } + 10 * (each[:scions].size - 1)).to be <= 420 +
      each[:shoot].delete("S").to_i * 31
    end
  end
  it "leaves out shoots that are too thin or too thick" do
    expect(shoots([100], [[400, 4], [400, 20]]).values_at(:missing, :unfit)).to eq [[0], %w[S0 S1]]
    expect(shoots([100], [[400, nil]])[:missing]).to eq []
  end

  it "never serves fewer from more wood, and nothing twice" do
    PropCheck.forall(PropCheck::Generators.array(PropCheck::Generators.choose(50..600)),
                     PropCheck::Generators.array(PropCheck::Generators.choose(50..900))) do |scions, wood|
      answer = shoots(scions, wood.map { |mm| [mm, nil] })
      served = answer[:cuts].flat_map { |each| each[:scions] }
      raise "twice" unless (served + answer[:missing]).sort == scions.each_index.to_a
      if answer[:cuts].any? { |cut| cut[:scions].sum { |i| scions[i] } > wood[cut[:shoot].delete("S").to_i] + 1e-9 }
        raise "too long"
      end
    end
  end
end
