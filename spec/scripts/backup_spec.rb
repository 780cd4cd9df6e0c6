# frozen_string_literal: true

require "open3"
require "tmpdir"

RSpec.describe "bin/backup and bin/restore", :database do
  def server = ENV.fetch("VESTRY_DATABASE_URL")
  def other = server.sub(%r{/[^/]+\z}, "/vestry_restored")

  def on_server
    Sequel.connect(server.sub(%r{/[^/]+\z}, "/postgres")) { |db| yield db }
  end

  def run(name, folder, url, var, from: Dir.pwd)
    Open3.capture2e({ "DATABASE_URL" => url, "VESTRY_VAR" => var }, File.join(Vestry::ROOT, "bin/#{name}"), folder,
                    chdir: from)
  end

  # What anyone on the machine can read of running commands while the block runs.
  def arguments_seen
    seen, running = Set.new, true
    looking = Thread.new do
      Dir["/proc/[0-9]*/cmdline"].each { |path| seen << File.binread(path).tr("\0", " ") rescue nil } while running
    end
    yield
    seen
  ensure
    running = false
    looking.join
  end

  # Every row of every table, as text.
  def contents(url)
    Sequel.connect(url) do |db|
      (db.tables - [:schema_info] - db.tables.grep(/\Aque_/)).sort
        .to_h { |table| [table, db.fetch("SELECT t::text AS line FROM #{table} t").select_map(:line).sort] }
    end
  end

  around do |example|
    on_server { |db| db.run("DROP DATABASE IF EXISTS vestry_restored WITH (FORCE)"); db.run("CREATE DATABASE " \
      "vestry_restored ENCODING 'UTF8' TEMPLATE template0") }
    example.run
  ensure
    on_server { |db| db.run("DROP DATABASE IF EXISTS vestry_restored WITH (FORCE)") }
  end

  it "brings back every row and every photo, and touches no database with something in it" do
    Dir.mktmpdir do |folder|
      allow(Vestry::Settings).to receive(:var).and_return("#{folder}/var")
      FileUtils.mkdir_p("#{folder}/var/photos/photos")
      File.binwrite("#{folder}/var/photos/photos/one.jpg", "a picture")
      demo
      said = done = nil
      seen = arguments_seen { said, done = run("backup", "kept", server, "#{folder}/var", from: folder) }
      expect(seen.grep(/pg_dump/)).not_to be_empty
      expect(seen.select { |line| line.include?(URI(server).password) }).to eq []
      expect([said, done.success?]).to match [/Kept in/, true]
      expect(run("backup", "#{folder}/kept", server, "#{folder}/var").last.success?).to be false

      expect(run("restore", "#{folder}/kept", server, "#{folder}/elsewhere"))
        .to match [/there are orchards in that database/, satisfy { |status| !status.success? }]
      said, done = run("restore", "kept", other, "#{folder}/elsewhere", from: folder)
      expect([said, done.success?]).to match [/Restored from/, true]
      one, two = contents(server), contents(other)
      one.each { |table, rows| expect([table, two[table] == rows]).to eq [table, true] }
      expect(File.binread("#{folder}/elsewhere/photos/photos/one.jpg")).to eq "a picture"

      %w[backup restore].each do |name|
        expect(run(name, "--help", server, "#{folder}/var").first).to eq "bin/#{name} FOLDER\n"
      end
      File.open("#{folder}/kept/database.dump", "ab") { |file| file.write("x") }
      expect(run("restore", "#{folder}/kept", other, "#{folder}/third").first).to include("the backup is damaged")
    end
  end
end
