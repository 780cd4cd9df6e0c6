# frozen_string_literal: true

RSpec.describe Vestry::Deeds::KeepVariety do
  let(:here) { orchard }

  def keep(name: "Tollgate Amber", species: "apple", **values)
    described_class.call(here, { name: name, species: species, **values }, by: "Orla")
  end

  def refused(...)
    keep(...)
    nil
  rescue Vestry::Deeds::Refused => e
    e.errors.keys
  end

  it "writes a variety down once, whatever the capitals" do
    keep
    expect(refused).to eq [:name]
    expect(refused(name: "tollgate amber")).to eq [:name]
  end

  it "wants both ends of a window, a known kind, and the origin of wood from outside" do
    expect(refused(bloom_from: "05-01")).to eq [:bloom_to]
    expect(refused(species: "oak")).to eq [:species]
    expect(refused(outside: true)).to eq [:origin]
    expect(refused(outside: true, origin: "a neighbour")).to be_nil
  end
end
