# frozen_string_literal: true

RSpec.describe Vestry::Web::LearnedFigures do
  # The words of a page of an orchard.
  def words(orchard)
    Class.new { include Vestry::Web::Helpers::Words; attr_accessor :orchard }.new.tap { |page| page.orchard = orchard }
  end

  it "says how thick a shoot's foot is in the orchard's own measures" do
    told = { low: 0.008, high: 0.012, book: 0.0095, own: 0.01, seen: 6, used: true, years: 2 }
    allow_any_instance_of(Vestry::Records::OwnFigures).to receive(:all).and_return("reckoning.union.thickens" => told)
    said = %w[metric imperial].map do |units|
      here = orchard(units: units)
      described_class.new(here, World::TODAY, words(here)).lines.first.values_at(:name, :book, :own)
    end
    expect(said).to eq [["How thick a shoot's foot is, for a metre of it", "9.5 mm", "10.0 mm"],
                        ["How thick a shoot's foot is, for a yard of it", "11/32 in", "3/8 in"]]
  end
end
