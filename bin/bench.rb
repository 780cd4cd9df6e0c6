# frozen_string_literal: true

require_relative "../boot"
$stdout.sync = true
require "bcrypt"
require "etc"
require "rack/mock"

Vestry::Boot.start
include Vestry

# Seconds a block takes, and the most memory the process held.
def timed
  started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
  answer = yield
  [Process.clock_gettime(Process::CLOCK_MONOTONIC) - started, answer]
end

def memory = File.read("/proc/self/status")[/VmHWM:\s+(\d+)/, 1].to_i / 1024

def orchard(slug)
  Records::Orchard.create(slug: slug, name: slug, latitude: 50.6, longitude: -2.9, time_zone: "Etc/UTC",
                          grazing: "sheep", wind_from_deg: 240, school: "waxed-rind")
end

def trees_csv(count, rows)
  lines = ["row,number,species,form,height_mm,trunk_girth_mm"]
  (0...count).each { |i| lines << "#{(i % rows + 10_000).to_s.tr('0-9', 'A-J')},#{i / rows + 1},apple,bush,3800,520" }
  lines.join("\n")
end

def limbs_csv(count, rows)
  lines = ["tree,tag,parent,fork_mm,bearing_deg,rise_deg,girth_mm,length_mm"]
  (0...count).each do |i|
    tree = "#{(i % rows + 10_000).to_s.tr('0-9', 'A-J')}#{i / rows + 1}"
    %w[A B C].each_with_index { |tag, k| lines << "#{tree},#{tag},,#{850 + k * 40},#{k * 120},45,#{180 + i % 60},2400" }
    lines << "#{tree},A1,A,1400,30,30,80,1000"
  end
  lines.join("\n")
end

def bring_in(orchard, kind, text)
  import = Deeds::ImportFile.preview(orchard, kind, "#{kind}.csv", text, by: "bench", today: Date.new(2026, 5, 18))
  import.update(state: "waiting")
  Deeds::ImportFile.write(import, today: Date.new(2026, 5, 18))
  import.reload
end

# A part alone: bin/bench care.
AGAIN = ARGV.delete("again")
if ARGV.any?
  ARGV.each { |part| require_relative "bench_#{part[/\A[a-z]+\z/]}" }
  exit
end

puts "#{Etc.nprocessors} cores, #{File.read('/proc/meminfo')[/MemTotal:\s+(\d+)/, 1].to_i / 1024 / 1024} GiB"
large = orchard("large")
preview_and_write, trees = timed { bring_in(large, "trees", trees_csv(50_000, 250)) }
puts format("bring in %d trees: %.1f s (%s)", trees.lines, preview_and_write, trees.state)
preview_and_write, limbs = timed { bring_in(large, "limbs", limbs_csv(50_000, 250)) }
puts format("bring in %d limbs: %.1f s (%s)", limbs.lines, preview_and_write, limbs.state)
puts "most memory held: #{memory} MiB"

# Sticks to stubs: the slowest kinds of case, on sizes that are all different.
chance = Random.new(3)
%w[four-flap rind].each do |method|
  places = Array.new(300) { |i| { id: i, method: method, diameter_mm: method == "rind" ? 60.0 : 8 + chance.rand * 12,
                                  sticks: 1, variety: "A" } }
  wood = Array.new(400) { |i| { id: i, diameter_mm: 6 + chance.rand * 12, variety: "A" } }
  seconds, answer = timed { Core::Wood::Match.reckon({ sites: places, sticks: wood }) }
  puts format("match 300 places by 400 sticks, %s: %.2f s (%d served)", method, seconds, answer[:served])
end

# Five hundred trees planned from one pattern, on limbs of their own.
rows = orchard("rows")
bring_in(rows, "trees", trees_csv(500, 10))
bring_in(rows, "limbs", limbs_csv(500, 10))
kind = Records::Variety.create(orchard_id: rows.id, name: "Trial", species: "apple")
pattern = Records::Pattern.create(orchard_id: rows.id,
                                  wish: Sequel.pg_jsonb({ "variety" => kind.id, "school" => "waxed-rind",
                                                          "seasons" => 2 }), by: "bench",
                                  tree_ids: Sequel.pg_array(rows.trees_dataset.order(:id).select_map(:id), :integer))
seconds, = timed { Deeds::LayPattern.write(pattern, today: Date.new(2026, 2, 1)) }
made = pattern.reload.outcomes.count { |each| each["done"] }
puts format("plan %d trees from a pattern: %.1f s (%s)", made, seconds, pattern.state)

# Two thousand trees' forecasts over twelve past springs.
many = orchard("many")
bring_in(many, "trees", trees_csv(2_000, 40))
DB[:weather_days].multi_insert((Date.new(2014, 1, 1)..Date.new(2026, 3, 10)).map { |day| { orchard_id: many.id,
  day: day, min_c: 4 - 6 * Math.cos(day.yday / 58.0), max_c: 14 - 7 * Math.cos(day.yday / 58.0) } })
standing = many.trees_dataset.order(:id).all
DB[:phenology_seen].multi_insert(standing.first(600).flat_map { |tree| [2024,
                                                                        2025].map { |year| { orchard_id: many.id,
                                                                          tree_id: tree.id, seen_on: Date
                                                                            .new(year, 4, 1 + tree.id % 20),
                                                                              stage: "green", slipping: true,
                                                                              seen_by: "bench" } } })
seconds, told = timed { Records::BarkForecast.new(Records::Orchard[many.id], Date.new(2026, 3, 10)).of_trees(standing) }
puts format("forecast slip of %d trees over 12 past springs: %.2f s (%d told)", standing.size, seconds,
            told.count(&:p50))

wide = orchard("wide")
bring_in(wide, "trees", trees_csv(20_000, 140))
account = Records::Account.create(name: "Bench", email: "bench@trial.example",
                                  password_hash: BCrypt::Password.create("a password for trials", cost: 4).to_s)
[large, wide].each { |each| Records::Membership.create(orchard_id: each.id, account_id: account.id, role: "steward") }
DB.run("ANALYZE")

app = Rack::MockRequest.new(Web::Stack.build)
page = app.get("/sign-in")
cookie = page["set-cookie"].to_s[/vestry=[^;]+/]
token = page.body[/authenticity_token" value="([^"]+)/, 1]
cookie = app.post("/sign-in", "HTTP_COOKIE" => cookie,
                  params: { login: account.email, password: "a password for trials",
                            authenticity_token: token })["set-cookie"].to_s[/vestry=[^;]+/]
tree = wide.trees_dataset.order(:id).first
{ "orchard, all of 20,000 trees" => "survey", "orchard, a window of 60 m" => "survey?x=300&y=-200&w=60",
  "the same, sent while moving" => "survey/window?x=300&y=-200&w=60",
  "orchard, a window of 200 m" => "survey?x=300&y=-200&w=200", "only pears" => "survey?species=pear",
  "one tree" => "survey/trees/#{tree.id}", "plans of 20,000 trees" => "plan" }.each do |name, address|
  times = Array.new(23) do
    seconds, answer = timed { app.get("/o/wide/#{address}", "HTTP_COOKIE" => cookie) }
    raise "#{address}: #{answer.status}" unless answer.status == 200

    seconds * 1000
  end.drop(3).sort
  puts format("%-30s p50 %4d ms  p95 %4d ms", name, times[times.size / 2], times[(times.size * 0.95).floor])
end
