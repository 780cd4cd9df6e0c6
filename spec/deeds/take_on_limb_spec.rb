# frozen_string_literal: true

RSpec.describe Vestry::Deeds::TakeOnLimb do
  let(:here) { orchard }
  let(:stock) { limb(tree(here)) }
  let(:kind) { variety(here) }

  def plan(**facts)
    Vestry::Deeds::DecideLimb.call(stock, { role: "work", cut: 700.0, technique: "rind", variety: kind.id,
                                            practice: "single" }.merge(facts), by: "Orla", season: 2026)
  end

  def take_on(name = "Tam", **more)
    described_class.call(Vestry::Records::Limb[stock.id], by: name, mine: true, **more)
  end

  it "gives a limb to who takes it on, and to nobody else until it is given back" do
    plan
    expect(take_on.hand).to eq "Tam"
    expect { take_on("Gus") }.to raise_error(Vestry::Deeds::Refused, /Tam took A1 A on/)
    expect { take_on("Gus", mine: false) }.to raise_error(Vestry::Deeds::Refused, /Tam took A1 A on/)
    expect(take_on("Orla", mine: false, any: true).hand).to be_nil
    expect(take_on("Gus").hand).to eq "Gus"
  end

  it "gives nobody a limb that is not planned whole, nor one that was grafted" do
    expect { take_on }.to raise_error(Vestry::Deeds::Refused, /A1 A is not to be worked/)
    plan(variety: nil)
    expect { take_on }.to raise_error(Vestry::Deeds::Refused, /A1 A is not to be worked/)
    plan
    graft(stock)
    expect { take_on }.to raise_error(Vestry::Deeds::Refused, /A1 A is not to be worked/)
  end
end
