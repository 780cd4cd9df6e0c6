# frozen_string_literal: true

# A graft that was logged, put right.
RSpec.describe Vestry::Deeds::CorrectGraft do
  let(:here) { orchard }
  let(:apple) { tree(here) }
  let(:limb_a) { limb(apple, "A") }
  let(:amber) { variety(here, "Tollgate Amber") }
  let(:made) { graft(limb_a, scion_mm: 9, against_reason: nil) }

  def correct(values, row: made, bundle: row.bundles.first, **more)
    described_class.call(row, values, bundle: bundle, by: "Orla Finch", today: World::TODAY, **more)
  end

  def tie(kind, count, cut_on: Date.new(2026, 1, 20))
    Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: kind.id, source: "a friend", cut_on: cut_on,
                                   number: Vestry::Records::Bundle.count + 1, ends: "sealed", dip: "none",
                                   packing: "damp").tap { |each| Vestry::Records::Stick.add(each, [nil] * count) }
  end

  it "keeps what it corrects, with who and before and after" do
    kind = made.variety
    correct({ variety_id: amber.id })
    line = Vestry::DB[:history].where(table_name: "grafts", row_id: made.id, action: "change").first
    expect(made.reload.variety).to eq(amber)
    expect(line.values_at(:who, :before, :after).map { |each| each.respond_to?(:to_h) ? each.to_h : each })
      .to eq(["Orla Finch", { "variety_id" => kind.id }, { "variety_id" => amber.id }])
  end

  it "does not date it after a visit, and says of which day" do
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 5, 2),
                                  verdict: "wait", seen_by: "Orla Finch")
    expect { correct({ grafted_on: Date.new(2026, 5, 3) }) }
      .to raise_error(Vestry::Deeds::Refused) { |e|
        expect(e.errors).to eq(grafted_on: ["is after a visit on 2 May 2026"])
      }
    expect(correct({ grafted_on: Date.new(2026, 5, 2) }).grafted_on).to eq(Date.new(2026, 5, 2))
  end

  it "asks for a reason where the rulebook is against it, and not for what has nothing to do with that" do
    expect { correct({ stub_mm: 14 }) }.to raise_error(Vestry::Deeds::Refused) { |e|
      expect(e.errors[:against_reason].first).to start_with("Rind graft works from 25 mm")
    }
    Vestry::DB[:grafts].where(id: made.id).update(stub_mm: 14)
    expect(correct({ conditions: "still, 14 °C" }).conditions).to eq("still, 14 °C")
  end

  it "drops a reason that is not needed any more" do
    odd = graft(limb(apple, "B"), stub_mm: 14, against_reason: "it is what there was")
    expect(correct({ stub_mm: 40 }, row: odd).against_reason).to be_nil
  end

  it "takes with the top what grows beyond the place of the cut, and lets the rest stand again" do
    low, high = { "A1" => 500, "A2" => 900 }.map { |tag, at| limb(apple, tag, parent_id: limb_a.id, fork_mm: at) }
    made = graft(limb_a, cut_mm: 600)
    Vestry::Deeds::LogGraft.fell(limb_a, made, "Orla Finch")
    correct({ cut_mm: 400 }, row: made)
    expect([low, high].map { |each| each.reload.gone_on }).to eq([made.grafted_on] * 2)
    correct({ cut_mm: 1000 }, row: made.reload)
    expect([low, high].map { |each| each.reload.gone_on }).to eq([nil, nil])
    correct({ cut_mm: 600 }, row: made.reload)
    correct({ grafted_on: Date.new(2026, 4, 22) }, row: made.reload)
    expect([low, high].map { |each| each.reload.gone_on }).to eq([nil, Date.new(2026, 4, 22)])
  end

  it "takes bare stretches with the top as well, and lets them stand again where it was cut higher, or not at all" do
    low, high, away = [["S1", 300.0], ["S2", 900.0], ["S3", 950.0]].map do |tag, at|
      Vestry::Deeds::MarkSite.call(made.limb.tree, { tag: tag, limb_id: made.limb_id, at_mm: at, bearing_deg: 90 },
                                   by: "Orla")
    end
    Vestry::Deeds::Hide.call(away, by: "Orla", why: "marked by mistake")
    standing = lambda do
      [low, high, away].map { |site| Vestry::Records::Site[site.id].then { |row| row.stands? && !row.hidden? } }
    end
    cut = lambda do |at|
      correct({ cut_mm: at }, row: made.reload)
      standing.call
    end
    expect([cut[301.0], cut[300.0], cut[1000.0], cut[500.0]])
      .to eq [[true, false, false], [false, false, false], [true, true, false], [true, false, false]]
    Vestry::Deeds::Hide.call(made.refresh, by: "Orla")
    expect(standing.call).to eq [true, true, false]
    Vestry::Deeds::Hide.undo(made.refresh, by: "Orla")
    expect(standing.call).to eq [true, false, false]
    expect { Vestry::Deeds::FillSite.call(high.refresh, { grafted_on: World::TODAY }, by: "Orla", today: World::TODAY) }
      .to raise_error Vestry::Records::Missing
  end

  it "gives back the sticks it did not take, and takes those it did" do
    bundle = tie(made.variety, 4)
    Vestry::Deeds::MoveSticks.use(bundle, made, 2, by: "Orla Finch")
    correct({ sticks: 1 })
    expect(Vestry::Records::Stick.left_in(bundle)).to eq(3)
    other = tie(made.variety, 1)
    correct({}, row: made.reload, bundle: other)
    expect([bundle, other].map { |each| Vestry::Records::Stick.left_in(each) }).to eq([4, 0])
    expect { correct({ sticks: 2 }, row: made.reload) }
      .to raise_error(Vestry::Deeds::Refused, /has only 1 left/)
    expect(made.reload.sticks).to eq(1)
    correct({}, row: made, bundle: nil)
    expect(Vestry::Records::Stick.left_in(other)).to eq(1)
  end

  it "takes the very sticks again that it had" do
    bundle = tie(made.variety, 4)
    Vestry::DB[:sticks].where(bundle_id: bundle.id, number: [3, 4]).update(graft_id: made.id)
    correct({ sticks: 3 })
    expect(Vestry::DB[:sticks].where(graft_id: made.id).select_order_map(:number)).to eq([1, 3, 4])
  end

  it "is of what its bundle is, and not older than that" do
    bundle = tie(made.variety, 2, cut_on: Date.new(2026, 2, 1))
    Vestry::Deeds::MoveSticks.use(bundle, made, 2, by: "Orla Finch")
    expect { correct({ variety_id: amber.id }) }.to raise_error(Vestry::Deeds::Refused, /is Skylark Russet/)
    expect { correct({ grafted_on: Date.new(2026, 1, 30), against_reason: "so it says on the label" }) }
      .to raise_error(Vestry::Deeds::Refused, /was cut on 1 February 2026, after the graft/)
  end

  it "is not corrected by two at once without either hearing of it" do
    seen = made.version
    correct({ conditions: "wet" }, version: seen)
    expect { correct({ conditions: "dry" }, version: seen) }.to raise_error(Vestry::Deeds::Conflict)
  end

  describe "a bundle that was labelled wrongly" do
    it "is put right with what was split from it and what was set of any of them" do
      whole = tie(made.variety, 6)
      Vestry::Deeds::MoveSticks.use(whole, made, 2, by: "Orla Finch")
      part = Vestry::Deeds::MoveSticks.split(whole, 2, by: "Orla Finch")
      late = graft(limb(apple, "B"))
      Vestry::Deeds::MoveSticks.use(part, late, 2, by: "Orla Finch")
      apart = graft(limb(apple, "C"))
      found = Vestry::Deeds::KeepBundle.variety(whole, amber, by: "Orla Finch")
      expect(found.map(&:id)).to contain_exactly(made.id, late.id)
      expect([whole, part, made, late, apart].map { |each| each.reload.variety.name })
        .to eq(["Tollgate Amber"] * 4 + ["Skylark Russet"])
    end

    it "is asked of a graft that is logged of it just then, too" do
      whole = tie(made.variety, 4)
      late = graft(limb(apple, "B"))
      going = nil
      Vestry::DB.transaction do
        Vestry::Deeds::MoveSticks.use(whole, late, 2, by: "Ines Marl")
        going = Thread.new { Vestry::Deeds::KeepBundle.variety(whole, amber, by: "Orla Finch") }
        until_waiting
      end
      going.join
      expect(late.reload.variety).to eq(amber)
    end
  end
end
