# frozen_string_literal: true

require_relative "../support/smtp_sink"
require "net/http"
require "socket"
require "timeout"

RSpec.describe "Processes beside this one", :database do
  # Runs a command until the block is done, with its output to be read line by line.
  def beside(*command, **environment)
    out, into = IO.pipe
    pid = spawn(environment.transform_keys(&:to_s), *command, out: into, err: into, chdir: Vestry::ROOT, pgroup: true)
    into.close
    Timeout.timeout(90) { yield out }
  ensure
    Process.kill("TERM", pid) if pid
    @ended = Process.wait2(pid).last if pid
    out&.close
  end

  def until_said(out, words)
    lines = []
    while (line = out.gets)
      lines << line
      return line if line.include?(words)
    end
    raise "ended without “#{words}”: #{lines.last(5).join}"
  end

  it "does background work in a process apart, and ends when it is told to" do
    sink = SmtpSink.new
    here = orchard
    letter = Vestry::Outside::Outbox::Letter.new(address: "orla@maunder.example", subject: "Due", body: "x",
                                                 orchard: here)
    before, Que.run_synchronously = Que.run_synchronously, false
    allow(Vestry::Settings).to receive(:smtp).and_return(sink.address)
    Vestry::Deeds::PostLetter.call(letter)
    expect(Vestry::DB[:letters].get(:delivered_at)).to be_nil
    beside("bin/work", VESTRY_SMTP: sink.address, VESTRY_ENV: nil, VESTRY_TODAY: "2026-05-18") do |out|
      until_said(out, "Background work is done here")
      expect(sink.taken.pop.to).to eq ["orla@maunder.example"]
    end
    expect(@ended.exitstatus).to eq 0
    expect(Vestry::DB[:letters].exclude(delivered_at: nil).count).to eq 1
  ensure
    Que.run_synchronously = before
    Vestry::DB[:que_jobs].delete
    sink&.close
  end

  it "serves from a second process what the first one wrote, to the same sign-in, and says what did not change" do
    here = orchard
    tree(here, row: "A", number: 1)
    session = Rack::Test::Session.new(Vestry::Web::Stack.build)
    person("Orla Finch", steward: here)
    session.get "/sign-in"
    token = session.last_response.body[/name="authenticity_token" value="([^"]+)"/, 1]
    session.post "/sign-in", login: "orla.finch@trial.example", password: World::PASSWORD, authenticity_token: token
    session.get "/o/#{here.slug}/survey"
    cookies = Array(session.last_response.headers["set-cookie"]).grep(/\Avestry=/).first[/\A[^;]+/]
    port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
    beside("bundle", "exec", "puma", "-C", "config/puma.rb", "-b", "tcp://127.0.0.1:#{port}", "config.ru") do |out|
      until_said(out, "Use Ctrl-C to stop")
      ask = lambda do |tag = nil|
        request = Net::HTTP::Get.new("/o/#{here.slug}/survey")
        request["Cookie"] = cookies
        request["If-None-Match"] = tag if tag
        Net::HTTP.start("127.0.0.1", port) { |http| http.request(request) }
      end
      # What is worked out and stored by the first look is there at the second.
      first = Array.new(2) { ask.call }.last
      expect([first.code, first.body.include?("A1")]).to eq ["200", true]
      expect(ask.call(first["etag"]).code).to eq "304"
      Vestry::Deeds::AddTrees.call(here, { row: "A", first: 7, last: 7, species: "apple", form: "bush" }, by: "Orla")
      after = ask.call(first["etag"])
      expect([after.code, after.body.include?("A7")]).to eq ["200", true]
    end
  end
end
