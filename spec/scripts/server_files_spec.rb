# frozen_string_literal: true

require "open3"
require "tmpdir"

RSpec.describe "What an installation is told" do
  def read(path) = File.read(File.join(Vestry::ROOT, path))
  def files(pattern) = Dir[File.join(Vestry::ROOT, pattern)]

  # Set by bin/start and bin/test for themselves, or read by shell alone.
  let(:own) { %w[VESTRY_TODAY VESTRY_START_ID VESTRY_ENV VESTRY_DEMO] }
  let(:read_here) { read("boot.rb").scan(/ENV(?:\[|\.fetch\()"(VESTRY_\w+)"/).flatten.uniq }
  let(:told) do
    read("docs/running-for-a-crew.md").scan(/^\| (.+?) \|/).flatten.join(" ").scan(/`(VESTRY_\w+)`/).flatten
  end

  it "stands in one table with all that is read, and nothing else reads the environment" do
    expect(told.uniq.sort).to eq (read_here - own).sort
    elsewhere = files("{core,records,deeds,drawings,sheets,outside,web}/**/*.rb").reject do |path|
      File.foreach(path).none? { |line| line.match?(/\bENV\b(?!.*\] = )/) }
    end
    expect(elsewhere).to eq []
  end

  it "is set by names that are known, in the server's own file" do
    names = read("docs/server/vestry.env").scan(/^(VESTRY_\w+)=/).flatten
    expect(names - told).to eq []
  end

  it "names commands and files that there are" do
    text = read("docs/server/README.md") + files("docs/server/*.service").map { |path| File.read(path) }.join
    named = text.scan(%r{(?:/opt/vestry/|\b)(bin/[a-z]+)}).flatten.uniq - %w[bin/sh bin/bundle]
    expect(named.reject { |path| File.executable?(File.join(Vestry::ROOT, path)) }).to eq []
    linked = read("docs/server/README.md").scan(/\]\(([\w.\/-]+)\)/).flatten
    expect(linked.reject { |path| File.exist?(File.join(Vestry::ROOT, "docs/server", path)) }).to eq []
  end

  it "says to systemd what it understands" do
    skip "systemd is not on this machine" unless system("command -v systemd-analyze >/dev/null")
    Dir.mktmpdir do |folder|
      units = files("docs/server/*.{service,timer}").map do |path|
        unit = File.read(path).gsub("/opt/vestry", Vestry::ROOT)
        File.join(folder, File.basename(path)).tap { |to| File.write(to, unit) }
      end
      said, = Open3.capture2e("systemd-analyze", "verify", *units)
      expect(said).to eq ""
    end
  end

  it "has a version, and tells of it among its changes" do
    expect(Vestry::VERSION).to match(/\A\d+\.\d+\.\d+\z/)
    expect(read("CHANGELOG.md")).to include("## #{Vestry::VERSION}\n")
  end
end
