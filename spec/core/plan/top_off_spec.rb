# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::TopOff do
  let(:book) { Vestry::Core::Rulebook.shipped }

  it "is clear of the branch's fork by the branch's thickness, and by room for the saw at least" do
    expect([[500, 24.0], [500.0, 140.0], [0, 100.0]].map { |fork, thick| described_class.at(fork, thick, book) })
      .to eq [600.0, 640.0, 100.0]
  end

  it "waits where nothing lives below it, and in its season for what may come to live" do
    told = %w[gone lost unworked waiting took].to_h do |branch|
      [branch, [false, true].map { |due| described_class.waits?(branch, due: due) }]
    end
    expect(told).to eq("gone" => [true, true], "lost" => [true, true], "unworked" => [false, true],
                       "waiting" => [false, true], "took" => [false, false])
  end
end
