# frozen_string_literal: true

require "rack/test"
require "stringio"

RSpec.describe "Watched over while it runs" do
  include Rack::Test::Methods

  let(:log) { StringIO.new }
  let(:app) { Vestry::Web::Stack::RequestLog.new(Vestry::Web::Stack.build, output: log, on: true) }
  let!(:here) { orchard }
  let(:tam) { person("Tam Reed", grafter: here) }

  def lines = log.string.lines.map { |line| JSON.parse(line) }

  it "tells of each request in one line: by numbers and the shape of its address, and nothing that was typed" do
    stub = limb(tree(here))
    enter tam
    get "/o/#{here.slug}/survey/trees/#{stub.tree_id}?limb=#{stub.id}&q=a+secret+word"
    get "/o/#{here.slug}/nothing"
    expect(lines.size).to eq 4
    page = lines[2]
    expect(page).to include("person" => tam.id, "orchard" => here.id, "method" => "GET", "status" => 200,
                            "route" => "/o/NAME/survey/trees/N")
    expect([page["ms"], page["queries"]]).to match [be > 0, be_between(3, 200)]
    expect(lines.map { |line| line["status"] }).to eq [200, 302, 200, 404]
    expect(lines.map { |line| line["request"] }.uniq.size).to eq 4
    expect(log.string).not_to match(/secret|Tam|trial\.example|password/)
  end

  it "makes no address of a key, a row or a name" do
    shape = ->(path) { Vestry::Web::Stack::RequestLog.shape(path) }
    told = { "/t/7QK2M9XZ1" => "/t/KEY", "/join/abcDEF123" => "/join/KEY",
             "/tree/abc-DEF_123" => "/tree/KEY", "/tree/abc-DEF_123/card.pdf" => "/tree/KEY/card.pdf",
             "/o/long-acre/plan/rows/North" => "/o/NAME/plan/rows/ROW",
             "/api/orchards/5.json" => "/api/orchards/N.json",
             "/o/x/survey/photos/12/large" => "/o/NAME/survey/photos/N/large" }
    expect(told.keys.to_h { |path| [path, shape[path]] }).to eq told
  end

  it "answers a HEAD as it would a GET, without the page" do
    head "/sign-in"
    expect([last_response.status, last_response.body]).to eq [200, ""]
  end

  it "says under which request something broke" do
    failures = StringIO.new
    broken = Vestry::Web::Stack::Steady.new(->(_) { raise "x" }, raising: false)
    Vestry::Outside::FailureLog.writing_to(failures) do
      Vestry::Web::Stack::RequestLog.new(broken, output: log, on: true).call(Rack::MockRequest.env_for("/o/a/b"))
    end
    expect(JSON.parse(failures.string)["request"]).to eq lines.first["request"]
    expect(lines.first["status"]).to eq 500
  end

  it "has figures for whoever has their key, and no page of them without one" do
    get "/metrics"
    expect(last_response.status).not_to eq 200
    allow(Vestry::Settings).to receive(:metrics_key).and_return("a key for trials")
    get "/metrics"
    expect(last_response.status).to eq 401
    header "Authorization", "Bearer another key"
    get "/metrics"
    expect([last_response.status, last_response["www-authenticate"]]).to eq [401, "Bearer"]
    header "Authorization", "Bearer a key for trials"
    before = (get "/metrics").body[/^vestry_requests_total\{status="4xx"\} (\d+)/, 1].to_i
    get "/api/orchards/none"
    after = (get "/metrics").body
    expect(after[/^vestry_requests_total\{status="4xx"\} (\d+)/, 1].to_i).to be > before
    expect(after).to match(/^vestry_jobs_waiting 0$/).and match(/^vestry_jobs_failed 0$/)
      .and match(/^vestry_failures_total \d+$/).and match(/^vestry_request_milliseconds_total \d+$/)
  end

  it "counts background work by what waits, and what failed and is tried again" do
    allow(Vestry::Settings).to receive(:metrics_key).and_return("a key for trials")
    row = { job_class: "Trial", job_schema_version: 2 }
    past, ahead = Time.now.utc - 60, Time.now.utc + 3600
    Vestry::DB[:que_jobs].multi_insert([{ **row, run_at: past, error_count: 0 },
                                        { **row, run_at: past, error_count: 0 },
                                        { **row, run_at: ahead, error_count: 0 },
                                        { **row, run_at: ahead, error_count: 1 }])
    header "Authorization", "Bearer a key for trials"
    expect((get "/metrics").body.scan(/^vestry_jobs_\w+ \d+$/)).to eq ["vestry_jobs_waiting 2", "vestry_jobs_failed 1"]
  ensure
    Vestry::DB[:que_jobs].delete
  end

  it "makes a secret once, whole, where another process makes it in the midst of that" do
    Dir.mktmpdir do |folder|
      allow(Vestry::Settings).to receive(:var).and_return(folder)
      other = nil
      allow(SecureRandom).to receive(:hex).and_wrap_original do |hex, length|
        if length == 64 && other.nil?
          other = ""
          other = Vestry::Settings.secret_file("a-secret")
        end
        hex.call(length)
      end
      expect(Vestry::Settings.secret_file("a-secret")).to eq(other).and match(/\A\h{128}\z/)
      expect(Dir.children(folder)).to eq ["a-secret"]
      expect(File.stat("#{folder}/a-secret").mode & 0o777).to eq 0o600
    end
  end

  describe Vestry::Outside::SelfCheck do
    def found = described_class.all.to_h { |each| [each.what, each] }

    it "finds nothing wrong where nothing is" do
      expect(found.reject { |_, each| each.ok }.keys).to eq []
      expect(found.keys).to include("migrations", "clock", "zone", "secret for cookies", "host", "weather")
    end

    it "says what is wrong, and what to do" do
      allow(Vestry::Settings).to receive(:address).and_return(nil)
      allow(Vestry::Settings).to receive(:cookie_secrets).and_return(["short"])
      allow(Vestry::Settings).to receive(:standins).and_return("http://127.0.0.1:1")
      allow(Sequel::Migrator).to receive(:is_current?).and_return(false)
      wrong = found.reject { |_, each| each.ok }
      expect(wrong.keys).to eq ["migrations", "secret for cookies", "host", "weather"]
      expect(wrong["migrations"].words).to include("bin/backup", "bin/prepare")
      expect(wrong["secret for cookies"].words).to include("bin/rotate-keys")
    end

    it "does not let a process begin on a database that is behind" do
      allow(Sequel::Migrator).to receive(:is_current?).and_return(false)
      expect { Vestry::Boot.ready! }.to raise_error(SystemExit)
        .and output(%r{Stopped: migrations.*bin/prepare}m).to_stderr
    end
  end
end
