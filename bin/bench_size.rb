# frozen_string_literal: true

# Every main page over an orchard of 20,000 trees, 100,000 limbs, 100,000 grafts and their visits; its
# export and import; and a crew's plan. Writes docs/bench.md.
require "tmpdir"
require "json"
require "time"
require_relative "large_orchard"
require_relative "reckonings_at_size"

# In a process of its own, so that what it leaves in memory is not the pages' to sweep.
def apart
  DB.disconnect
  reader, writer = IO.pipe
  child = fork do
    reader.close
    writer << Marshal.dump(yield)
    writer.close
    exit!(0)
  end
  writer.close
  answer = reader.read
  Process.wait(child)
  $?.success? ? Marshal.load(answer) : abort("the orchard could not be built")
end

# How fast the machine is just now: seconds for ten million additions.
def pace = timed { 10_000_000.times { |i| i + 1 } }.first

# What its host has kept for others since it began, and all there was, in ticks.
def ticks = File.readlines("/proc/stat").first.split.drop(1).map(&:to_i).then { |all| [all[7], all.first(8).sum] }

paces = [pace]
today = Date.new(2026, 5, 18)
care = apart do
  unless AGAIN && Records::Orchard.first(slug: "size")
    made = LargeOrchard.build("size")
    account = Records::Account.create(name: "Bench", email: "bench@trial.example",
                                      password_hash: BCrypt::Password.create("a password for trials", cost: 4).to_s)
    Records::Membership.create(orchard_id: made.id, account_id: account.id, role: "steward")
  end
  timed { Records::CareSchedule.refresh(Records::Orchard.first(slug: "size"), today, most: 1_000_000) }.first.tap do
    DB.run("VACUUM ANALYZE")
  end
end
place = Records::Orchard.first(slug: "size")
counts = %i[trees limbs grafts observations tallies weather_days plan_limbs sticks phenology_seen store_readings wounds]
  .to_h do |table|
  [table, DB[table].where(orchard_id: place.id).count]
end

# Milliseconds and number of what the database was asked.
class Asked < Logger
  attr_accessor :spent, :count

  def initialize = super(nil).tap { @spent = 0.0; @count = 0 }

  def add(_level, message = nil, name = nil)
    said = (message || name).to_s
    return true unless said =~ /\A\((\d+\.\d+)s\)/

    took = Regexp.last_match(1).to_f * 1000
    puts format("%.0f ms %s", took, said[0, 700]) if ENV["SLOW"] && took > ENV["SLOW"].to_f
    @spent += took
    @count += 1
    true
  end
end
asked = Asked.new
DB.loggers << asked

app = Rack::MockRequest.new(Web::Stack.build)
page = app.get("/sign-in")
cookie = page["set-cookie"].to_s[/vestry=[^;]+/]
token = page.body[/authenticity_token" value="([^"]+)/, 1]
cookie = app.post("/sign-in", "HTTP_COOKIE" => cookie,
                  params: { login: "bench@trial.example", password: "a password for trials",
                            authenticity_token: token })["set-cookie"]
            .to_s[/vestry=[^;]+/]
# By its first page the session has its form token.
cookie = app.get("/o/size/survey", "HTTP_COOKIE" => cookie)["set-cookie"].to_s[/vestry=[^;]+/]
graft = place.grafts_dataset.where(Sequel[:grafted_on] > today - 60).order(:id).first
limb, tree = graft.limb, graft.limb.tree
row = tree.row
planned = Records::PlanQueries.in_use(place).order(Sequel[:plan_limbs][:id]).first
pages = { "orchard" => "survey", "orchard, 60 m" => "survey?x=300&y=-200&w=60", "tree" => "survey/trees/#{tree.id}",
          "limb" => "survey/trees/#{tree.id}?limb=#{limb.id}", "plan" => "plan",
          "plan of a tree" => "plan/trees/#{tree.id}", "cut list" => "plan/cuts", "wood" => "wood",
          "match" => "wood/match", "slip" => "slip",
          "crew" => "slip/crew", "walk" => "slip/walk?row=#{row}", "grafting" => "graft",
          "day's sheet" => "graft/sheet", "log" => "graft/limbs/#{planned.limb_id}", "agenda" => "tend",
          "graft" => "tend/grafts/#{graft.id}", "tally" => "tally", "tally of a row" => "tally?row=#{row}",
          "limb's life" => "tally/limbs/#{limb.id}",
          "tree's years" => "tally/trees/#{tree.id}", "what took" => "tally/took", "varieties" => "varieties",
          "variety" => "varieties/#{graft.variety_id}", "cutting list" => "wood/list",
          "history" => "history", "find" => "find?q=trial", "stripped trunks" => "repair" }
# Round and round all pages, so that a page is not measured while only it is warm, and a stutter of the
# machine does not fall on one of them alone.
samples = Hash.new { |all, name| all[name] = [] }
begun = ticks
look = lambda do |name|
  # Nobody asks so fast; whoever does is told to wait.
  DB[:door_counts].delete
  asked.spent = 0.0
  asked.count = 0
  seconds, answer = timed { app.get("/o/size/#{pages.fetch(name)}", "HTTP_COOKIE" => cookie) }
  raise "#{name}: #{answer.status}" unless answer.status == 200

  [seconds * 1000, asked.spent, asked.count]
end
(ENV["SLOW"] ? 4 : 43).times do |round|
  pages.each_key { |name| look.call(name).then { |sample| samples[name] << sample if round > 2 } }
end
# The same just after somebody wrote: a planned limb, a bundle, a look at a tree's bark and a wound are other than they
# were.
write = -> { %i[plan_limbs bundles phenology_seen
                wounds].each { |table| DB[table].where(id: DB[table].where(orchard_id: place.id).select { min(:id) })
                  .update(version: Sequel[:version] + 1) } }
anew = Hash.new { |all, name| all[name] = [] }
(ENV["SLOW"] ? 1 : 20).times { pages.each_key { |name| write.call && anew[name] << look.call(name).first } }
# And asked by a browser that has the page already.
unchanged = pages.keys.to_h do |name|
  address = "/o/size/#{pages.fetch(name)}"
  tag = app.get(address, "HTTP_COOKIE" => cookie)["etag"]
  [name, Array.new(20) do
    DB[:door_counts].delete
    seconds, answer = timed { app.get(address, "HTTP_COOKIE" => cookie, "HTTP_IF_NONE_MATCH" => tag) }
    answer.status == 304 ? seconds * 1000 : raise("#{name}: #{answer.status}")
  end]
end
p95 = ->(all) { all.sort[(all.size * 0.95).ceil - 1] }
told = samples.map do |name, all|
  took, sql = [0, 1].map { |figure| all.map { |sample| sample[figure] }.sort }
  { name: name, p50: took[took.size / 2], p95: p95[took], sql: sql[sql.size / 2], questions: all.last[2],
    anew50: anew[name].sort[anew[name].size / 2], anew: p95[anew[name]], unchanged: p95[unchanged[name]] }
end
lines = told.map do |one|
  format("| %<name>s | %<p50>d | %<p95>d | %<sql>d | %<questions>d | %<anew50>d | %<anew>d | %<unchanged>.1f |", one)
    .tap { |line| puts line }
end
names = ->(found) { found.empty? ? "none" : found.map { |one| one[:name] }.join(", ") }
goals = ["Over 150 ms at p95: #{names[told.select { |one| one[:p95] > 150 }]}.",
         "Over 400 ms at p95 as the first after a change: #{names[told.select { |one| one[:anew] > 400 }]}.",
         "Over 10 ms at p95 where the browser has the page: #{names[told.select { |one| one[:unchanged] > 10 }]}."]
DB.loggers.clear
paces << pace
stolen = ticks.zip(begun).map { |now, first| now - first }.then { |steal, all| steal.fdiv(all) * 100 }

exit if ENV["SLOW"] || ENV["ONLY"] == "pages"

# Visits that 32 connections write down in one orchard at once, each a transaction: with what counts revisions, and
# without it.
writers = lambda do
  Dir.mktmpdir do |folder|
    ids = place.grafts_dataset.where(Sequel[:grafted_on] > today - 60).order(:id).limit(1000).select_map(:id)
    File.write("#{folder}/visit.sql", <<~SQL)
      \\set i random(#{ids.first}, #{ids.last})
      BEGIN;
      INSERT INTO observations (orchard_id, graft_id, seen_on, seen_by, buds)
        SELECT #{place.id}, id, '#{today}', 'Bench', 'swelling' FROM grafts WHERE orchard_id = #{place.id} AND id = :i;
      INSERT INTO history (orchard_id, table_name, row_id, action, who)
        VALUES (#{place.id}, 'observations', 1, 'add', 'Bench');
      COMMIT;
    SQL
    pgbench = Dir["/usr/lib/postgresql/*/bin/pgbench"].max or next nil
    said = IO.popen([pgbench, "-n", "-c", "32", "-j", "2", "-T", "10", "-f", "#{folder}/visit.sql",
                     Settings.database_url.sub("postgres://", "postgresql://")], err: %i[child out], &:read)
    Float(said[/tps = ([\d.]+)/, 1] || abort(said))
  end
end
triggers = %w[observations].product(%w[insert])
turn = ->(how) { triggers.each { |table, kind| DB.run("ALTER TABLE #{table} #{how} TRIGGER revision_#{kind}") } }
last = %i[observations history].to_h { |table| [table, DB[table].max(:id)] }
throughput = Array.new(3) do
  with = writers.call
  turn["DISABLE"]
  without = writers.call
  turn["ENABLE"]
  [with, without]
end
last.each { |table, id| DB[table].where { Sequel[:id] > id }.delete }
with, without = throughput.sort_by { |each| each[0].fdiv(each[1]) }[1]
written = format("Visits written by 32 connections in one orchard at once: %d a second, %d without the counting of " \
                 "revisions (%+.0f %%; the middle of %s).", with, without, (with / without - 1) * 100,
                 throughput.map { |each| format("%+.0f", (each[0] / each[1] - 1) * 100) }.join(", "))
puts written
DB.run("VACUUM ANALYZE")

reckoned = ReckoningsAtSize.all.map do |name, (size, input)|
  input = JSON.parse(JSON.generate(input))
  took = Array.new(22) { timed { Core.reckoning(name).reckon(input) }.first * 1000 }.drop(2).sort
  format("| %s | %s | %.1f | %.1f |", name, size, took[took.size / 2], took[(took.size * 0.95).floor]).tap do |line|
    puts line
  end
end

moved = []
Dir.mktmpdir do |folder|
  before = memory
  out, = timed { Records::Archive.pack(Records::Orchard[place.id], "#{folder}/size.zip") }
  moved << format("Export of it all: %.1f s, %d MB of zip, at most %d MiB more memory.", out,
                  File.size("#{folder}/size.zip") / 1024 / 1024, memory - before)
  tables = Records::Archive::Tables.all.map(&:table).uniq.select { |table| DB[table].columns.include?(:orchard_id) }
  tables.each do |table|
    File.open("#{folder}/#{table}.csv", "wb") { |file| DB.copy_table(DB[table].where(orchard_id: place.id),
                                                                     format: :csv) { |line| file << line } }
  end
  # Round and round again, for the machine is not the same from one half minute to the next.
  before = nil
  rounds = Array.new(3) do |round|
    plain, = timed do
      tables.each do |table|
        DB.run("CREATE TABLE plain_#{table} (LIKE #{table})")
        File.open("#{folder}/#{table}.csv", "rb") do |file|
          DB.copy_into(:"plain_#{table}", format: :csv,
                       data: Enumerator.new { |pieces| while (piece = file.read(65_536)) do pieces << piece end })
        end
      end
    end
    tables.each { |table| DB.drop_table(:"plain_#{table}") }
    # What an earlier measuring wrote and took back is swept first.
    DB.run("VACUUM ANALYZE")
    before ||= memory
    # Not kept, so that measuring once more measures the same.
    into = nil
    DB.transaction(rollback: :always, isolation: :repeatable) do
      into, again = timed { Records::Archive.read("#{folder}/size.zip", slug: "size-again") }
      Records::Archive.pack(again, "#{folder}/again.zip") if round.zero?
    end
    [into, plain]
  end
  into, plain = rounds.sort_by { |each| each[0] / each[1] }[1]
  moved << format("Import of it all: %.1f s, %.1f times a plain COPY of the same rows into tables without keys, " \
                  "names or checks (%.1f s), the middle of %s; at most %d MiB more memory.", into, into / plain, plain,
                  rounds.map { |each| format("%.1f", each[0] / each[1]) }.join(", "), [memory - before, 0].max)
  sums = lambda do |name|
    Zip::File.open("#{folder}/#{name}.zip") { |zip| zip.entries.to_h { |entry| [entry.name, entry.crc] } }
             .except("orchard.json")
  end
  same = %w[size again].map(&sums).uniq.size == 1
  moved << "Exported again, the files are #{same ? 'the same, byte for byte' : 'NOT the same'}."
end
paces << pace
moved.each { |line| puts line }
memory_gib = File.read("/proc/meminfo")[/MemTotal:\s+(\d+)/, 1].to_i / 1024 / 1024
rows = counts.map { |table, count| "#{count} #{table.to_s.tr('_', ' ')}" }.join(", ")
File.write(File.join(ROOT, "docs/bench.md"), <<~MD)
  # How long things take

  `bin/bench size` on #{Etc.nprocessors} cores and #{memory_gib} GiB, over one orchard of #{rows}. Server time within
  the process, in ms, of 40 rounds over all pages; SQL is the time of the questions asked of the database alone, its
  p50; then p50 and p95 of a page asked for just after a planned limb, a bundle, a look at bark and a wound were written,
  so that nothing derived of them holds, and p95 where the browser has the page and nothing was written. The
  machine is shared: ten million additions in Ruby took it
  #{paces.map { |seconds| format('%.2f', seconds) }.join(', then ')} s, and its host kept #{stolen.round} % of the
  processors' time for others while pages were asked for.

  | page | p50 | p95 | SQL | questions | after a change | p95 | unchanged |
  |---|--:|--:|--:|--:|--:|--:|--:|
  #{lines.join("\n")}

  #{goals.join("\n")}
  #{written}

  The reckonings that have much to do, checked input and all, in ms:

  | reckoning | on | p50 | p95 |
  |---|---|--:|--:|
  #{reckoned.join("\n")}

  #{moved.join("\n")}
  Care of every graft reckoned anew: #{format('%.1f', care)} s (those of the last 700 days; older ones need nothing).
  Most memory the process held: #{memory} MiB.
MD
