# frozen_string_literal: true

# The year of an orchard by its place alone.
RSpec.describe Vestry::Web::FirstYear do
  def words(latitude) = described_class.new(latitude, 10, Date.new(2026, 5, 18)).words

  it "says where no winter sets the year that its dates say little" do
    expect([0.0, 5.0, -22.9].map { |at| words(at) }).to all(include("no winter sets the year", "test cut"))
    expect([23.0, 50.6, -43.2].map { |at| words(at) }).to all(satisfy { |text| !text.include?("winter") })
  end

  it "says between which days bark slips of kinds that sleep: those that keep their leaves have no such spring" do
    # Apricot's bark opens on 29 March at 50 degrees, three days later for each degree.
    expect(words(61)).to match(/slips between 1 May and \d+ September, by kind\./)
  end
end
