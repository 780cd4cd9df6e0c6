# frozen_string_literal: true

require_relative "../support/api_client"
require "puma"
require "puma/server"
require "open3"

RSpec.describe "A day by a program" do
  let!(:here) { demo }
  let!(:orla) { person("Orla Finch", steward: here) }
  let(:key) { Vestry::Records::ApiToken.issue(orla, "a day") }
  let(:server) do
    quiet = { log_writer: Puma::LogWriter.null, min_threads: 1, max_threads: 2 }
    Puma::Server.new(Vestry::Web::Stack.build, nil, quiet)
      .tap do |each|
        @port = each.add_tcp_listener("127.0.0.1", 0).addr[1]
        each.run
      end
  end
  let(:client) { server && ApiClient.new("http://127.0.0.1:#{@port}", key) }
  let(:there) { { slug: "maunder-hill" } }

  after { server.stop(true) }

  it "asks what is due, takes the day's sheet, logs a stub, visits a graft and counts one" do
    due = client.call("get_due", **there)["items"]
    expect(due.map { |item| item["label"] })
      .to eq Vestry::Records::Agenda.new(here, World::TODAY).due.map(&:label)
    expect(due.first["due_on"]).to be <= World::TODAY.iso8601

    card = client.call("get_sheet", on: "2026-05-18", **there)["items"].first
    expect(card).to include("label" => "A6 A", "variety" => "Tollgate Amber", "method" => "rind")
    log = { grafted_on: "2026-05-18", technique: card["method"], cut: card["cut_mm"], stub: card["stock_mm"],
            sticks: card["sticks"], variety: card["variety_id"], grafter: "Orla Finch", wrap: "stretch-tape",
            seal: "wax", cover: "wax-only" }
    made, again = Array.new(2) do
      client.call("post_limbs_id_grafts", log, headers: { "Idempotency-Key" => "stub one" }, id: card["limb"], **there)
    end
    expect([made["id"], client.last.code]).to eq [again["id"], "201"]
    left = client.call("get_sheet", on: "2026-05-18", **there)["items"]
    expect(left.map { |each| each["label"] }).not_to include("A6 A")

    graft = due.find { |item| item["kind"] == "graft" }["id"]
    seen = { seen_on: "2026-05-18", buds: "swelling", callus: "some" }
    expect(client.call("post_grafts_id_visits", seen, id: graft, **there)).to include("buds" => "swelling")
    older = here.grafts_dataset.where(grafted_on: Date.new(2025, 4, 21)).first.id
    counted = { tallied_on: "2026-05-18", alive: true, growth: "80 cm" }
    expect(client.call("post_grafts_id_tallies", counted, id: older, **there)).to include("growth_mm" => 800)

    changes = client.call("get_changes", after: Vestry::DB[:history].max(:id) - 3, **there)["items"]
    expect(changes.map { |each| each["who"] }.uniq).to eq ["Orla Finch"]
  end

  it "answers match, cutting list and bark as the pages do" do
    board = Vestry::Records::MatchBoard.new(here, here.season_to_plan(World::TODAY), World::TODAY)
    expect(client.call("get_match", **there)["items"].map { |each| [each["plan_limb"], each["short"]] })
      .to eq(board.page(1).map { |place| [place.row.id, place.short] })
    order = Vestry::Records::WoodOrder.new(here, here.season_to_plan(World::TODAY), World::TODAY)
    listed = client.call("get_cutting_list", **there)["items"]
    expect(listed.map { |each| each.values_at("variety", "to_come", "to_cut", "cut_from", "cut_until") })
      .to eq(order.lines.map { |line| [line.variety.name, 0, [line.total - line.have, 0].max,
                                       *order.window(line.variety.species).values_at(:from, :to).map(&:iso8601)] })
    bark = client.call("get_slip", **there)["items"].find { |each| each["species"] == "apple" }
    spring = here.bark_forecast(World::TODAY)
    expect(bark.values_at("likely_on", "closes_on"))
      .to eq([spring.of_species("apple")[:p50], spring.closes_on("apple")].map { |date| date&.iso8601 })
  end

  it "is told what the front page and the pages of trees and limbs say" do
    line = -> { Vestry::Web::Headline.new(Vestry::Records::Orchard[here.id], World::TODAY) }
    front = line.call.front
    told = client.call("get_today", **there)["items"]
    expect(told.map { |each| each["words"] }).to eq(front.matters.map { |matter| front.words[matter.station] })
    expect([told.first["words"], told.map { |each| each["urgency"] }]).to eq [front.first, front.matters.map(&:urgency)]
    limb = Vestry::Records::Limb.where(orchard_id: here.id).order(:id).first
    expect(client.call("get_limbs_id_answer", id: limb.id, **there))
      .to eq("id" => limb.id, "label" => limb.label, "words" => line.call.limb(limb))
    expect(client.call("get_trees_id_answer", id: limb.tree_id, **there)["words"]).to eq line.call.tree(limb.tree)
    strange = limb(tree(orchard(name: "Elsewhere")))
    expect([client.call("get_limbs_id_answer", id: strange.id, **there)["status"], client.last.code]).to eq [404, "404"]
  end

  it "answers the coming days, nurse limbs and what is to be counted as the pages do" do
    days = client.call("get_days", **there)["items"]
    board = Vestry::Records::DayBoard.new(here, World::TODAY, here.stub_windows(World::TODAY))
    best = days.group_by { |each| each["day"] }
      .transform_values { |each| (%w[good marginal wait] & each.map { |told| told["verdict"] }).first }
    expect(best).to eq(board.dates.to_h { |date| [date.iso8601, board.verdict(date)] })
    nurses = client.call("get_nurses", **there)["items"].group_by { |each| each["action"] }
    expect(nurses.transform_values { |each| each.map { |nurse| nurse["label"] } }.slice("off", "shorten"))
      .to eq(Vestry::Records::Nurses.to_cut(here, World::TODAY).reject { |_, labels| labels.empty? })
    left = client.call("get_to_count", **there)["items"]
    expect(left.map { |each| each["label"][/\A\w+/] }.uniq.size)
      .to eq Vestry::Records::CountRow.left_trees(here, World::TODAY).size
    early = { tallied_on: "2026-05-18", alive: true, growth: "3 cm" }
    client.call("post_grafts_id_tallies", early, id: left.first["graft"], **there)
    expect(client.call("get_to_count", **there)).to eq("items" => left, "next" => nil)
    allow(Vestry::Records::CountRow).to receive(:pages).and_return(2)
    expect([1, 2].map { |page| client.call("get_to_count", page: page, **there)["next"] }).to eq [2, nil]
  end

  it "is not sent again what it knows, and writes nothing over what it does not" do
    limb = client.call("get_limbs", limit: 1, **there)["items"].first["id"]
    client.call("get_limbs_id", id: limb, **there)
    tag = client.last["etag"]
    expect(tag).to match(/\A"\h{32}"\z/)
    measured = { girth: "333", length: "2 m" }
    client.call("put_limbs_id", measured, headers: { "If-Match" => tag }, id: limb, **there)
    expect(client.last.code).to eq "200"
    said = client.call("put_limbs_id", { girth: "334" }, headers: { "If-Match" => tag }, id: limb, **there)
    expect([client.last.code, said["title"]]).to eq ["412", "it was changed since"]
    expect(Vestry::Records::Limb[limb].girth_mm).to eq 333
  end

  it "is told in JSON what is wrong with what it asks" do
    said = client.call("get_sheet", on: "18/05/2026", **there)
    expect([client.last.code, said["errors"]]).to eq ["422", { "on" => ["a day as 2026-05-18"] }]
    client.call("get_changes", after: -1, **there)
    expect(client.last.code).to eq "422"
  end

  it "answers every example of its page, as it is written there" do
    client
    page = File.read(File.join(Vestry::ROOT, "docs/interface.md"))
    examples = page.scan(/^ {4}curl .*(?:\n {6}.*)*/)
    graft = here.grafts_dataset.min(:id)
    codes = examples.map do |example|
      command = example.gsub("https://orchard.example", "http://127.0.0.1:#{@port}")
        .sub("grafts/17/", "grafts/#{graft}/").sub("curl", "curl -s -o /dev/null -w '%{http_code} '")
      Open3.capture2e({ "KEY" => key }, "bash", "-c", command).first.strip
    end
    expect([examples.size, codes]).to eq [3, %w[200 200 201]]
  end
end
