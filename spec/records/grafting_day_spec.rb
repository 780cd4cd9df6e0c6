# frozen_string_literal: true

RSpec.describe "A grafting day" do
  let(:here) { orchard }
  let(:today) { World::TODAY }
  let!(:kind) { variety(here) }
  let(:stock) { limb(tree(here), rise_deg: 60) }

  def decide(technique: "rind", cut: 700.0, practice: "pair")
    Vestry::Deeds::DecideLimb.call(stock, { role: "work", technique: technique, cut: cut, practice: practice,
                                          variety: kind.id, against_reason: "for trial" }, by: "Orla", season: 2026)
  end

  def bundle(count)
    Vestry::Deeds::MakeBundle.call(here, { variety: kind.id, source: "row S", cut_on: Date.new(2026, 1, 16),
                                           diameters: [9.0] * count, checked: Vestry::Deeds::MakeBundle::CHECKS.keys },
                                   by: "Orla", today: today)
  end

  describe Vestry::Records::DaySheet do
    def sheet(day = today) = described_class.new(Vestry::Records::Orchard[here.id], today, day)

    it "has a card for each stub of the day, its sticks, and what the day uses up" do
      decide
      bundle(3)
      card = sheet.cards.first
      expect([card.limb.id, card.given.size, card.short]).to eq [stock.id, 2, 0]
      expect(sheet.materials.map { |each| each[:item] }).to include("stretch-tape", "grafting-wax")
      expect(sheet.bundles.map(&:last)).to eq [2]
      expect(sheet.minutes).to be > 0
    end

    it "follows the crew's plan, and is empty on a day with nothing to do" do
      decide
      Vestry::Deeds::SettleCrew.fix(Vestry::Records::PlanLimb.first, today + 3, by: "Orla", today: today)
      expect(sheet.cards).to eq []
      expect(sheet(today + 3).cards.size).to eq 1
      expect(sheet(today + 60).cards).to eq []
    end
  end

  it "leaves a stub undone with a reason, in the plan and free of its day" do
    row = decide
    Vestry::Deeds::SettleCrew.fix(row, today, by: "Orla", today: today)
    expect { Vestry::Deeds::LeaveUndone.call(row, " ", on: today, by: "Tam") }.to raise_error(Vestry::Deeds::Refused)
    Vestry::Deeds::LeaveUndone.call(row, "bark tore", on: today, by: "Tam")
    expect(Vestry::Records::PlanLimb[row.id]).to have_attributes(role: "work", undone_on: today,
        undone_why: "bark tore")
    expect(Vestry::DB[:crew_fixed].count).to eq 0
    sheet = ->(day) { Vestry::Records::DaySheet.new(here, today, day) }
    said = ->(day) { Vestry::Web::Headline.new(here, today).sheet(sheet[day]) }
    expect([today, today + 1].map { |day| said[day][/; 1 stub left that day/] }).to eq ["; 1 stub left that day", nil]
  end

  it "gives each grafter a mark of their own" do
    expect(Vestry::Records::GrafterInitials.of(["Orla Finch", "Otto Fay", "Tam Reddaway"]))
      .to eq("Orla Finch" => "OF", "Otto Fay" => "OF2", "Tam Reddaway" => "TR")
  end

  it "gives a variety its colour of tape, and no two on a tree the same" do
    kinds = Array.new(10) { |i| variety(here, "Kind #{i}") }
    colours = Vestry::Records::TapeColours.new(here)
    expect(colours.on_tree([kinds[0].id])[kinds[0].id]).to eq colours.on_tree([kinds[0].id, kinds[3].id])[kinds[0].id]
    [[0, 8], [1, 9], [0, 1, 2, 3, 8, 9]].each do |some|
      given = colours.on_tree(some.map { |i| kinds[i].id })
      expect(given.values.uniq.size).to eq some.size
    end
  end

  describe Vestry::Records::ChangedStub do
    def found(**what)
      decide
      described_class.new(Vestry::Records::Limb[stock.id], today, **what)
    end

    it "says nothing until it is asked, and goes on as planned where that still does" do
      expect(found).not_to be_asked
      same = found(stub_mm: 58.0)
      expect(same).to be_still
      expect([same.row[:method], same.lower_mm]).to eq ["rind", 0.0]
    end

    it "cuts below a tear, where the limb is thicker" do
      torn = found(torn_mm: 80.0)
      expect(torn.lower_mm).to be_within(1e-6).of(90)
      expect(torn.stub_mm).to be > found.stub_mm
      expect(torn).not_to be_too_low
      expect(found(torn_mm: 640.0)).to be_too_low
    end

    it "changes the method when bark will not lift, or the stub is too thick for it" do
      still = found(slipping: false)
      expect(still).not_to be_still
      expect(still.row[:method]).to eq "cleft"
      expect(found(stub_mm: 130.0).row[:method]).not_to eq "rind"
      expect(found(stub_mm: 350.0).row).to be_nil
    end

    it "says which other stubs would go without" do
      other = limb(stock.tree, "Z", bearing_deg: 200, rise_deg: 60, girth_mm: 200)
      Vestry::Deeds::DecideLimb.call(other, { role: "backup", technique: "rind", cut: 700.0, practice: "single",
                                            variety: kind.id, against_reason: "for trial" }, by: "Orla", season: 2026)
      bundle(3)
      expect(found(stub_mm: 110.0).others_short).to eq [other.label]
      bundle(9)
      expect(found(stub_mm: 110.0).others_short).to eq []
    end

    it "names the bundle, and how many more sticks it takes" do
      wood = bundle(9)
      thick = found(stub_mm: 110.0)
      expect(thick.bundle.id).to eq wood.id
      expect(thick.more_sticks).to eq thick.sticks[:count] - 2
    end
  end
end
