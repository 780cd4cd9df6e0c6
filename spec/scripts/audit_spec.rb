# frozen_string_literal: true

require "fileutils"
require "json"
require "open3"
require "tmpdir"

RSpec.describe "bin/audit" do
  def audit(gems: nil, packages: nil)
    Dir.mktmpdir do |folder|
      %w[bin config].each { |name| FileUtils.mkdir_p(File.join(folder, name)) }
      %w[bin/audit config/advisories.yml gems.lock package-lock.json].each do |name|
        FileUtils.cp(File.join(Vestry::ROOT, name), File.join(folder, name))
      end
      { "gems.lock" => gems, "package-lock.json" => packages }.compact.each do |name, change|
        File.write(File.join(folder, name), change.call(File.read(File.join(folder, name))))
      end
      said, status = Open3.capture2e("ruby", File.join(folder, "bin/audit"))
      [status.exitstatus, said]
    end
  end

  it "finds nothing in what is locked" do
    expect(audit).to match [0, /\d+ gems and \d+ packages: none/]
  end

  it "names a version that is known to be unsafe, and a package without its checksum" do
    expect(audit(gems: ->(text) { text.sub(/^    rack \([\d.]+\)/, "    rack (2.0.1)") }))
      .to match [1, /rack 2.0.1 is unsafe: .+; 3.1.18 is sound/]
    bare = ->(text) { JSON.generate(JSON.parse(text).tap { |lock| lock["packages"].values.last.delete("integrity") }) }
    expect(audit(packages: bare)).to match [1, /is locked without its checksum/]
  end
end
