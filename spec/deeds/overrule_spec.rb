# frozen_string_literal: true

RSpec.describe Vestry::Deeds::Overrule do
  let(:here) { orchard }

  def overrule(path, typed, why: "our record")
    described_class.call(here, path, typed, why: why, by: "Orla Finch", today: World::TODAY)
    here.reload
  end

  def refused(path, typed, **more)
    overrule(path, typed, **more)
    nil
  rescue Vestry::Deeds::Refused => e
    e.errors.keys
  end

  it "changes what is reckoned at once, and says who, when and why" do
    stock = limb(tree(here))
    before = Vestry::Records::CoreInputs.methods(stock, 60.0)[:ranking].first[:score]
    overrule("species.apple.take", "0.45")
    stock = here.limb!(stock.id)
    expect(Vestry::Records::CoreInputs.methods(stock, 60.0)[:ranking].first[:score]).to be_within(1e-6).of(before / 2)
    expect(here.rulebook.entry("species.apple.take").overruled)
      .to include("who" => "Orla Finch", "on" => "2026-05-18", "why" => "our record")
  end

  it "takes each number within its own range alone" do
    expect(%w[1.4 -0.1 NaN Infinity 1e400].map { |typed| refused("reckoning.wood.cull", typed) }).to all(eq([:value]))
    expect([refused("reckoning.cut.taper", "1"), refused("reckoning.cut.clearance", "0"),
            refused("reckoning.sticks.ring_most", "2147483647")]).to all(eq([:value]))
    expect(refused("methods.bark.stock_ideal", "10 to 100")).to eq [:value]
    overrule("reckoning.wood.cull", "0,2")
    expect(here.rulebook.value("reckoning.wood.cull")).to eq 0.2
  end

  it "has a range for every number that can be overruled, and the book's own number in it" do
    book = Vestry::Core::Rulebook.shipped
    paths = lambda do |node, path|
      next [] unless node.is_a?(Hash)

      node.key?("value") ? [path] : node.flat_map { |key, inside| paths.call(inside, "#{path}.#{key}") }
    end
    numbers = %w[reckoning site care cause materials methods].flat_map do |file|
      book.book(file).flat_map { |key, node| paths.call(node, "#{file}.#{key}") }
    end
                .map { |path| book.entry(path) }.select do |entry|
                  Array(entry.value).any?(Numeric) && !entry.value.is_a?(Hash)
                end
    expect(numbers.size).to be > 150
    wrong = numbers.reject do |entry|
      entry.range && Array(entry.value).grep(Numeric).all? { |number| number.between?(*entry.range) }
    end
    expect(wrong.map(&:path)).to eq []
  end

  it "overrules one point of the school" do
    stock = limb(tree(here))
    expect(Vestry::Records::CoreInputs.sticks(stock, 60.0)[:count]).to eq 3
    overrule("practice.sticks", "single")
    expect(Vestry::Records::CoreInputs.sticks(here.limb!(stock.id), 60.0)[:count]).to eq 1
  end

  it "goes back to the rulebook's own, and keeps all of it in the history" do
    overrule("species.apple.take", "0.5")
    described_class.take_back(here, "species.apple.take", by: "Orla Finch")
    expect(here.reload.rulebook.value("species.apple.take")).to eq 0.9
    expect(Vestry::DB[:history].where(table_name: "orchards").count).to eq 2
  end

  it "reads a range as it is written" do
    overrule("methods.rind.stock_ideal", "35 to 75")
    expect(here.rulebook.value("methods.rind.stock_ideal")).to eq [35, 75]
  end

  it "refuses what is not of the kind that stands there, and a change without a reason" do
    expect(refused("species.apple.take", "lots")).to eq [:value]
    expect(refused("species.apple.take", "-1")).to eq [:value]
    expect(refused("methods.rind.stock_ideal", "80 to 30")).to eq [:value]
    expect(refused("methods.rind.stock_ideal", "30")).to eq [:value]
    expect(refused("practice.sticks", "heap")).to eq [:value]
    expect(refused("species.oak.take", "0.5")).to eq [:path]
    expect(refused("species.apple.take", "0.5", why: " ")).to eq [:why]
    expect(refused("care.calendar.autumn", "13-01")).to eq [:value]
  end
end

RSpec.describe Vestry::Deeds::Hide do
  it "takes a limb away with what hangs on it, says so beforehand, and brings all of it back" do
    stock = limb(tree(orchard))
    limb(stock.tree, "A1", parent_id: stock.id, girth_mm: 80)
    made = graft(stock)
    Vestry::Records::Visit.create(orchard_id: stock.orchard_id, graft_id: made.id, seen_on: Date.new(2026, 5, 1),
                                        buds: "asleep")
    expect(described_class.reach(stock)).to eq("limbs" => 2, "grafts" => 1, "observations" => 1)
    described_class.call(stock, by: "Orla")
    expect([Vestry::Records::Limb, Vestry::Records::Graft,
            Vestry::Records::Visit].map { |model| model.in_sight.count }).to eq [0, 0, 0]
    described_class.undo(stock.reload, by: "Orla")
    expect([Vestry::Records::Limb, Vestry::Records::Graft,
            Vestry::Records::Visit].map { |model| model.in_sight.count }).to eq [2, 1, 1]
  end

  it "leaves hidden what was hidden before" do
    stock = limb(tree(orchard))
    side = limb(stock.tree, "A1", parent_id: stock.id, girth_mm: 80)
    described_class.call(side, by: "Orla")
    described_class.call(stock, by: "Orla")
    described_class.undo(stock.reload, by: "Orla")
    expect(side.reload.hidden?).to be true
  end
end
