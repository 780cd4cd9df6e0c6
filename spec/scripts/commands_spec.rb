# frozen_string_literal: true

require "open3"
require "tmpdir"

# Commands say what they want, whoever runs them.
RSpec.describe "The commands" do
  root = Vestry::ROOT

  # As an ordinary person's shell has it: no sbin, and nothing of Bundler's.
  def run(*command, **environment)
    bare = ENV.keys.grep(/\A(BUNDLE|RUBYOPT|RUBYLIB|GEM_|VESTRY|DATABASE)/).to_h { |name| [name, nil] }
    Open3.capture3(bare.merge("PATH" => "/usr/local/bin:/usr/bin:/bin", **environment.transform_keys(&:to_s)), *command,
                   chdir: Dir.tmpdir)
  end

  %w[prepare begin letters bring check work].each do |name|
    it "bin/#{name} sets itself up, and says in two lines that no database can be reached" do
      arguments = { "begin" => %w[Acre 50.6 -2.9], "bring" => %w[o.zip orla@trial.example] }.fetch(name, [])
      _, err, status = run("#{root}/bin/#{name}", *arguments, VESTRY_DATABASE_URL: "postgres://nobody@127.0.0.1:1/none")
      expect([status.success?, err.lines.size]).to eq [false, 2]
      expect(err).to match(/\AStopped: the database cannot be reached .*\nWhat to do: /)
    end
  end

  it "say in two lines that no database is named" do
    _, err, status = run("#{root}/bin/check")
    expect([status.success?, err.lines.size]).to eq [false, 2]
    expect(err).to match(/\AStopped: no database is named\.\nWhat to do: /)
  end

  it "finds ldconfig and runuser where Debian keeps them, for a user without sbin in the path" do
    out, = run("bash", "-c", "source #{root}/bin/setup.sh; command -v ldconfig; command -v runuser",
               VESTRY_VAR: Dir.mktmpdir)
    expect(out.lines.size).to eq 2
  end

  it "takes no server for its own that it did not start" do
    server = TCPServer.new("127.0.0.1", 0)
    answering = Thread.new do
      loop do
        client = server.accept
        nil until client.gets.to_s.strip.empty?
        client.write("HTTP/1.0 200 OK\r\nx-vestry-start: another\r\n\r\nhello")
        client.close
      end
    end
    asked = "source #{root}/bin/setup.sh; started_here #{server.addr[1]} && echo ours || echo theirs"
    check = ->(id) { run("bash", "-c", asked, VESTRY_VAR: Dir.mktmpdir, VESTRY_START_ID: id).first.strip }
    expect([check.call("mine"), check.call("another")]).to eq %w[theirs ours]
  ensure
    answering&.kill
    server&.close
  end

  it "writes what only its owner reads: secrets, photos, packed orchards and backups" do
    expect(File.umask).to eq 0o077
    expect(File.read("#{root}/bin/backup")).to match(/^umask 077$/)
    Dir.mktmpdir do |folder|
      path = File.join(folder, "deep/file")
      FileUtils.mkdir_p(File.dirname(path))
      File.write(path, "x")
      expect([File.stat(path).mode & 0o077, File.stat(File.dirname(path)).mode & 0o077]).to eq [0, 0]
    end
  end

  describe "with records", :database do
    def with_records(*command) = run(*command, VESTRY_DATABASE_URL: ENV.fetch("VESTRY_DATABASE_URL"))

    it "bin/prepare loads no demo where other people sign in" do
      person("Orla Finch")
      _, err, status = with_records("#{Vestry::ROOT}/bin/prepare", "--demo")
      expect(status.success?).to be false
      expect(err).to start_with "Stopped: 1 other person signs in here; the demo's passwords are no secret"
      expect([Vestry::DB[:accounts].count, Vestry::DB[:orchards].count]).to eq [1, 0]
    end

    it "bin/bring brings a packed orchard in for someone who signs in, and says what cannot be" do
      Dir.mktmpdir do |folder|
        path = File.join(folder, "o.zip")
        Vestry::Records::Archive.pack(demo, path)
        orla = person("Orla Finch")
        expect(with_records("#{Vestry::ROOT}/bin/bring", path, "nobody@trial.example")[1])
          .to start_with "Stopped: nobody signs in here"
        expect(with_records("#{Vestry::ROOT}/bin/bring", path, orla.email)[1])
          .to include "an orchard called maunder-hill is here already"
        said, _, status = with_records("#{Vestry::ROOT}/bin/bring", path, orla.email, "brought")
        expect([status.success?, said]).to match [true, %r{at /o/brought/survey}]
        expect(orla.role_in(Vestry::Records::Orchard.first(slug: "brought"))).to eq "steward"
      end
    end
  end
end
