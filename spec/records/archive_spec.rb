# frozen_string_literal: true

require "fileutils"
require "tmpdir"

RSpec.describe Vestry::Records::Archive do
  it "reads the demo orchard with its story" do
    read = demo
    expect([read.trees_dataset.count, read.grafts_dataset.count]).to eq [57, 39]
    lost = read.grafts.select { |each| each.fate == "lost" }
    expect(lost.map { |each| each.tallies.last.breakage }).to include("blown out in August")
  end

  it "reads all of it or nothing, and says where it stopped" do
    Dir.mktmpdir do |folder|
      FileUtils.cp_r("#{Vestry::ROOT}/demo/maunder-hill/.", folder)
      lines = File.readlines("#{folder}/limbs.csv")
      lines[3] = lines[3].sub(/\AA1/, "Z9")
      File.write("#{folder}/limbs.csv", lines.join)
      expect { described_class.read(folder) }.to raise_error(Vestry::Records::Archive::Unreadable, /limbs.csv line 4: "Z9" is not in trees.csv/)
      expect(Vestry::Records::Orchard.count).to eq 0
    end
  end
end
