# frozen_string_literal: true

# What the pages say through a year of the demo, to be read by a grower's eye: each sentence once, numbers and names as
# they first stood, with its page and its day.
#   bin/sentences [FIRST DAY [HOW MANY DAYS [EVERY]]]
require_relative "../boot"
require "rack/test"
require_relative "../spec/support/said"

Vestry::Boot.start
include Vestry

first = ARGV[0] ? Date.iso8601(ARGV[0]) : Date.new(2025, 11, 1)
many, every = (ARGV[1] || "365").to_i, (ARGV[2] || "7").to_i
seen = {}

orchards = Records::Orchard.standing
account = Records::Account.first(email: "orla@maunder.example")
session = Rack::Test::Session.new(Web::Stack.build)
session.get "/sign-in"
token = session.last_response.body[/name="authenticity_token" value="([^"]+)"/, 1]
session.post "/sign-in", login: account.email, password: Deeds::DemoPeople.all.first["password"],
                         authenticity_token: token

own = lambda do |orchard, n|
  trees, grafts = orchard.trees_dataset.order(:id).select_map(:id), orchard.grafts_dataset.order(:id).select_map(:id)
  limbs = DB[:limbs].where(orchard_id: orchard.id).order(:id).select_map(:id)
  [*(0..3).map { |i| trees[(n * 4 + i) % trees.size] }.flat_map { |id| ["survey/trees/#{id}", "plan/trees/#{id}",
                                                                        "tally/trees/#{id}"] },
   *(0..5).map { |i| "tend/grafts/#{grafts[(n * 6 + i) % grafts.size]}" },
   *(0..2).map { |i| limbs[(n * 3 + i) % limbs.size] }.flat_map { |id| ["tally/limbs/#{id}", "graft/limbs/#{id}"] },
   *orchard.stripped_trunks(first).all.map { |told| "repair/#{told.wound.id}" }]
end

plain = lambda do |text|
  text.gsub(/\d+(?:[.,]\d+)?/, "#").gsub(/\b[A-HW]#\b(?: [A-Z]\d*)?/, "TREE").gsub(/\s+/, " ").strip
end

(0...many).step(every).each_with_index do |n, round|
  ENV["VESTRY_TODAY"] = (first + n).iso8601
  orchards.each do |orchard|
    [*Said::STATIONS, *own[orchard, round]].each do |place|
      session.get "/o/#{orchard.slug}/#{place}"
      answer = session.last_response
      warn "#{first + n} #{place}: #{answer.status}" unless [200, 302].include?(answer.status)
      Said.of(answer.body).each { |said| seen[plain[said]] ||= [first + n, orchard.slug[0, 2], place, said] }
    end
  end
end
seen.values.sort_by { |day, _, place, _| [place.sub(/\d+/, ""), day] }.each { |told| puts told.join("\t") }
warn "#{seen.size} sentences"
