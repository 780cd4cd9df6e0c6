# frozen_string_literal: true

require "openssl"
require "socket"
require "stringio"

RSpec.describe Vestry::Deeds::Jobs::PollDevices do
  let!(:here) { orchard(weather_place: "maunder-hill") }
  let(:log) { StringIO.new }

  # A service whose certificate nobody signed.
  def with_bad_certificate
    key = OpenSSL::PKey::RSA.new(2048)
    certificate = OpenSSL::X509::Certificate.new.tap do |each|
      each.subject = each.issuer = OpenSSL::X509::Name.parse("/CN=elsewhere.example")
      each.serial, each.version, each.public_key = 1, 2, key.public_key
      each.not_before, each.not_after = Time.now - 60, Time.now + 3600
      each.sign(key, OpenSSL::Digest.new("SHA256"))
    end
    context = OpenSSL::SSL::SSLContext.new.tap { |each| each.cert, each.key = certificate, key }
    plain = TCPServer.new("127.0.0.1", 0)
    server = OpenSSL::SSL::SSLServer.new(plain, context)
    answering = Thread.new { loop { server.accept.close rescue nil } }
    allow(Vestry::Settings).to receive(:standins).and_return("https://127.0.0.1:#{plain.addr[1]}")
    yield
  ensure
    answering&.kill
    plain&.close
  end

  it "says that a weather service cannot be trusted, and the others have their turn" do
    expect(Vestry::Deeds::DailyLetters).to receive(:all).and_call_original
    with_bad_certificate { described_class.new({}).run }
    expect(here.reload.weather_trouble).to eq "The weather service cannot be trusted: its certificate is not valid."
  end

  it "goes on to every other orchard and part where one breaks, and logs it" do
    other = orchard(weather_place: "tern-flat")
    allow(Vestry::Settings).to receive(:standins).and_return("http://127.0.0.1:9")
    asked = []
    allow(Vestry::Deeds::AskWeather).to receive(:call) { |one, **| asked << one.id &&
        (raise "a bad row" if one.id == here.id) }
    allow(Vestry::Deeds::AskThermometers).to receive(:call).and_raise("a broken store")
    expect(Vestry::Deeds::DailyLetters).to receive(:all).and_call_original
    Vestry::Outside::FailureLog.writing_to(log) { described_class.new({}).run }
    expect(asked.sort).to eq [here.id, other.id].sort
    expect(log.string.lines.map { |line| JSON.parse(line)["message"] }).to match_array ["a bad row", "a broken store"]
  end

  describe "queued" do
    around do |example|
      before, Que.run_synchronously = Que.run_synchronously, false
      example.run
    ensure
      Que.run_synchronously = before
      Vestry::DB[:que_jobs].delete
    end

    def waiting = Vestry::DB[:que_jobs].where(job_class: described_class.name, finished_at: nil)

    it "waits once, however many ask, and comes once again after a failure" do
      4.times.map { Thread.new { described_class.begin } }.each(&:join)
      expect(waiting.count).to eq 1
      allow(Vestry::Settings).to receive(:test?).and_return(false)
      allow(Vestry::Settings).to receive(:standins).and_return(nil)
      allow(Vestry::Deeds::DailyLetters).to receive(:all).and_raise("the letters broke")
      3.times do
        row = waiting.first
        Vestry::Outside::FailureLog.writing_to(log) { described_class.new(row).run }
        expect(waiting.count).to eq 1
        expect(waiting.get(:id)).not_to eq row[:id]
      end
    end
  end
end
