# frozen_string_literal: true

RSpec.describe Vestry::Deeds::LayPattern do
  let(:here) { orchard }
  let(:today) { Date.new(2026, 2, 1) }
  let!(:kind) { variety(here) }

  def grown(**facts)
    tree(here, **facts).tap do |tree|
      [0, 90, 180, 270].each_with_index { |bearing, i| limb(tree, "ABCD"[i], bearing_deg: bearing, rise_deg: 50,
                                                            girth_mm: 230 - i * 12) }
    end
  end

  def lay(trees, **wish)
    described_class.begin(here, { variety: kind.id, school: "waxed-rind", seasons: 2, **wish }, trees.map(&:id),
                          by: "Orla", today: today).reload
  end

  def told(pattern)
    pattern.outcomes.to_h { |each| [each["label"], [each["done"], each["notes"].map { |note| note["code"] }]] }
  end

  it "gives each tree a plan of its own, with places, methods and sticks" do
    one, other = grown, grown
    limb(other, "E", bearing_deg: 45, girth_mm: 150, rise_deg: 60)
    pattern = lay([one, other])
    expect([pattern.state, pattern.done]).to eq ["done", 2]
    expect(told(pattern).values.map(&:first)).to eq [true, true]
    rows = one.reload.plan.plan_limbs
    worked = rows.select { |row| %w[work later].include?(row.role) }
    expect(worked).to all(have_attributes(variety_id: kind.id, technique: "rind"))
    expect(worked.map(&:season).uniq).to contain_exactly(2026, 2027)
    expect(rows.map(&:role)).to include "nurse"
    expect(other.reload.plan.plan_limbs.size).to eq 5
    expect(Vestry::DB[:history].where(table_name: "plan_limbs").count).to eq 9
  end

  it "tells of each tree on whose stock the variety does not simply last" do
    apple, pear, hawthorn = grown, grown(species: "pear"), grown(species: "hawthorn")
    told = ->(pattern) { pattern.outcomes.to_h { |each| [each["tree"], each["notes"]] } }
    doubtful = told[lay([apple, pear])]
    expect(doubtful[apple.id]).to eq []
    expect(doubtful[pear.id]).to match [include("code" => "pattern_lasting", "value" => "doubtful")]
    say = Class.new { include Vestry::Web::Sentences }.new
    expect(say.say(doubtful[pear.id].first.transform_keys(&:to_sym)))
      .to eq "Skylark Russet on this stock is doubtful. A few varieties take and decline. " \
             "Later: Starves after a few years."
    lasting = told[lay([hawthorn], variety: variety(here, "Grey Pear", species: "pear").id)]
    expect(lasting[hawthorn.id]).to match [include("value" => "workable", "delayed" => be_a(String))]
  end

  it "tells tree by tree what it cannot do, and does the rest" do
    peach = variety(here, "Pit", species: "peach")
    plum, bare, decided, thin = grown(species: "plum"), tree(here), grown, tree(here)
    limb(thin, "A", rise_deg: 50)
    Vestry::Deeds::DecideLimb.call(decided.limbs.first, { role: "nurse" }, by: "Orla", season: 2026)
    good = grown(species: "peach")
    pattern = lay([plum, bare, decided, thin, good], variety: peach.id)
    expect(told(pattern)).to include(plum.label => [true, ["pattern_lasting"]],
                                     bare.label => [false, ["pattern_no_limbs"]],
                                     decided.label => [false, ["pattern_has_plan"]],
                                     thin.label => [false, ["pattern_refused"]], good.label => [true, []])
    expect(decided.reload.plan.plan_limbs.size).to eq 1
  end

  it "plans anew where asked, and keeps what was grafted" do
    done = grown
    Vestry::Deeds::DecideLimb.call(done.limbs.first,
                                   { role: "work", technique: "rind", cut: 700.0, practice: "single" },
                                 by: "Orla", season: 2025)
    graft(done.limbs.first, grafted_on: Date.new(2025, 4, 21))
    done.reload.plan.update(reasons: Sequel.pg_jsonb(["frost"]), new_worth: 0.9)
    pattern = lay([done], replace: true)
    expect(told(pattern).values.first.first).to be true
    expect(done.reload.plans.size).to eq 2
    kept = done.plan.plan_limbs.find { |row| row.limb_id == done.limbs.first.id }
    expect(kept).to have_attributes(role: "work", season: 2025, cut_mm: 700)
    expect([done.plan.reasons.to_a, done.plan.new_worth]).to eq [["frost"], 0.9]
  end

  it "goes on where it was broken off, each tree once" do
    trees = Array.new(3) { grown }
    stub_const("Vestry::Deeds::LayPattern::SLICE", 1)
    pattern = Vestry::Records::Pattern.create(orchard_id: here.id,
                                              wish: Sequel.pg_jsonb({ "variety" => kind.id, "seasons" => 2 }),
                                              tree_ids: Sequel.pg_array(trees.map(&:id), :integer), by: "Orla")
    calls = 0
    allow(Vestry::Records::TreePlan).to(receive(:new).and_wrap_original { |original, *args, **more| (calls += 1) == 2 ?
      raise(Interrupt) : original.call(*args, **more) })
    expect { described_class.write(pattern, today: today) }.to raise_error(Interrupt)
    expect([pattern.reload.done, Vestry::Records::Plan.count]).to eq [1, 1]
    described_class.write(pattern, today: today)
    expect([pattern.reload.done, pattern.state, Vestry::Records::Plan.count]).to eq [3, "done", 3]
  end

  it "begins once for the same form, and refuses what can never be planned" do
    key = SecureRandom.uuid
    ids = [grown.id]
    begun = Array.new(2) do
      described_class.begin(here, { seasons: 1, school: "waxed-rind" }, ids, by: "Orla", today: today, client_key: key)
    end
    expect(begun.map(&:id).uniq.size).to eq 1
    locked = variety(here, "Locked", protected: true)
    [[{ variety: locked.id, seasons: 1 }, ids], [{ variety: variety(orchard).id, seasons: 1 }, ids],
     [{ seasons: 1 }, []]].each do |wish, trees|
      expect { described_class.begin(here, wish, trees, by: "Orla", today: today) }
        .to raise_error(Vestry::Deeds::Refused)
    end
  end


  it "keeps places and thicknesses to the tenth of a millimetre" do
    stock = grown
    lay([stock])
    told = stock.reload.plan.plan_limbs.flat_map { |row| [row.cut_mm, row.stock_mm] }.compact
    expect(told.map(&:to_f)).to eq(told.map { |mm| mm.to_f.round(1) })
    expect(told).not_to be_empty
  end
end
