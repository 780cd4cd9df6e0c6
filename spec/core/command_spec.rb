# frozen_string_literal: true

require "open3"

RSpec.describe "bin/reckon" do
  let(:command) { File.expand_path("../../bin/reckon", __dir__) }

  def run(*arguments, input: "")
    clean = ENV.keys.grep(/\A(BUNDLE|RUBYOPT|RUBYLIB|GEM_)/).to_h { |name| [name, nil] }
    Open3.capture3(clean, command, *arguments, stdin_data: input)
  end

  it "lists the names, a line each" do
    out, _, status = run
    expect([out.lines.map(&:chomp), status.exitstatus]).to eq [Vestry::Core::RECKONINGS.keys, 0]
  end

  it "answers JSON with JSON" do
    out, err, status = run("section", input: '{"girth_mm": 220, "bark_mm": 3}')
    expect(JSON.parse(out)["diameter_mm"]).to be_within(1e-4).of(70.0282)
    expect([err, status.exitstatus]).to eq ["", 0]
  end

  ["", "{", "[]", "null", '{"girth_mm": 1e999}', '{"girth_mm": NaN}', '{"girth_mm": "220"}', '{"bark_mm": 3}']
    .each do |bad|
    it "answers #{bad.inspect} with one line and exit 2" do
      out, err, status = run("section", input: bad)
      expect([out, err.lines.size, status.exitstatus]).to eq ["", 1, 2]
      expect(err).to match(/\A(input|girth_mm): /)
    end
  end

  # What it shows of the others is held by what is declared.
  it "shows a reckoning's fields" do
    %w[section practice-ten-years].each { |name| expect(run(name, "--help").first).to start_with("#{name}: ") }
  end

  it "refuses a name it does not know" do
    _, err, status = run("nonsense", input: "{}")
    expect([err.lines.size, status.exitstatus]).to eq [1, 2]
  end
end
