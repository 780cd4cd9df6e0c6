# frozen_string_literal: true

# Readers and writers, each signed in as someone of their own, at a server that serves the demo.
#   bin/load.rb ADDRESS SECONDS
require_relative "../boot"
require "bcrypt"
require "net/http"

Vestry::Boot.connect
Vestry::Boot.rooms

BASE = URI(ARGV.fetch(0))
SECONDS = Integer(ARGV.fetch(1))
PASSWORD = "many hands at one tree"
PAGES = %w[survey plan wood wood/match slip graft tend tally repair history survey/trees/1 plan/trees/1 tend/grafts/18
           varieties].freeze
# A person writes no faster than the throttle lets them.
WRITE_EVERY = 0.4

orchard = Vestry::Records::Orchard.first(slug: "maunder-hill")
hash = BCrypt::Password.create(PASSWORD, cost: BCrypt::Engine::MIN_COST).to_s
people = Array.new(96) do |i|
  account = Vestry::Records::Account.create(name: "Hand #{i}", email: "hand#{i}@load.example", password_hash: hash)
  Vestry::Records::Membership.create(orchard_id: orchard.id, account_id: account.id, role: "grafter")
  account
end

# One browser: a connection, its cookies, and the token its forms carry.
class Browser
  def initialize(account, place)
    @http = Net::HTTP.start(BASE.host, BASE.port, read_timeout: 60)
    @jar = {}
    @place = place
    token = get("/sign-in").body[/authenticity_token" value="([^"]+)/, 1]
    post("/sign-in", "login" => account.email, "password" => PASSWORD, "authenticity_token" => token)
    @token = get("/you").body[/authenticity_token" value="([^"]+)/, 1] or raise "not signed in"
  end

  def get(path) = send_on(Net::HTTP::Get.new(path, headers))

  def post(path, form)
    request = Net::HTTP::Post.new(path, headers)
    request.set_form_data({ "authenticity_token" => @token }.merge(form))
    send_on(request)
  end

  private

  def headers = { "Cookie" => @jar.map { |pair| pair.join("=") }.join("; "), "X-Forwarded-For" => @place }

  def send_on(request)
    @http.request(request).tap do |answer|
      (answer.get_fields("set-cookie") || []).each { |cookie| name,
                                                     value = cookie.split(";").first.split("=", 2); @jar[name] = value }
    end
  end
end

def at_once(label, browsers, wanted)
  found, times, gate = Hash.new(0), [], Mutex.new
  ends = Process.clock_gettime(Process::CLOCK_MONOTONIC) + SECONDS
  browsers.each_with_index.map do |browser, place|
    Thread.new do
      turn = place
      while (begun = Process.clock_gettime(Process::CLOCK_MONOTONIC)) < ends
        status = begin
          yield(browser, turn).code
        rescue StandardError => e
          e.class.name
        end
        took = Process.clock_gettime(Process::CLOCK_MONOTONIC) - begun
        gate.synchronize { found[status] += 1; times << took }
        turn += browsers.size
        sleep [WRITE_EVERY - took, 0].max if wanted == "303"
      end
    end
  end.each(&:join)
  times.sort!
  right = found[wanted]
  puts format("| %-12s | %5d | %5d | %6.0f | %6.0f | %s |", label, found.values.sum, found.values.sum - right,
              times[times.size / 2] * 1000, times[(times.size * 0.95).floor] * 1000,
              found.reject { |status, _| status == wanted }.map { |status, count| "#{status}: #{count}" }.join(", "))
  found.values.sum == right
end

browsers = people.each_with_index.map { |person, i| Browser.new(person, "192.0.2.#{i + 1}") }
read = ->(browser, turn) { browser.get("/o/maunder-hill/#{PAGES[turn % PAGES.size]}") }
grafts = Vestry::DB[:grafts].where(orchard_id: orchard.id, lost_on: nil, hidden_at: nil).select_order_map(:id)
write = ->(browser, turn) { browser.post("/o/maunder-hill/tend/grafts/#{grafts[turn % grafts.size]}/visits",
                                         "seen_on" => "2026-05-#{10 + turn % 8}", "buds" => "swelling",
                                         "client_key" => SecureRandom.uuid) }
puts "| who | requests | not as wanted | p50 ms | p95 ms | |", "|---|--:|--:|--:|--:|---|"
held = [at_once("16 readers", browsers.first(16), "200", &read),
        at_once("64 readers", browsers.first(64), "200", &read),
        at_once("32 writers", browsers.last(32), "303", &write)]
exit held.all? ? 0 : 1
