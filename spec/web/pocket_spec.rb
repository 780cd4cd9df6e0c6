# frozen_string_literal: true

require "rack/test"
require "zlib"

RSpec.describe "The day in the pocket" do
  include Rack::Test::Methods
  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  before { enter person(grafter: here) }

  def lines(answer = last_response) = answer.body.lines.map { |line| JSON.parse(line) }

  def pages
    frames = lines.select { |line| line.key?("html") }.to_h { |line| [line["frame"], line["html"]] }
    lines.select { |line| line.key?("main") }.to_h do |line|
      [line["address"], frames.fetch(line["frame"]).sub("<title></title>", "<title>#{line['title']}</title>")
        .sub('<main id="main" tabindex="-1"></main>') { "<main id=\"main\" tabindex=\"-1\">#{line['main']}</main>" }]
    end
  end

  # Only the first stubs of the day: what is held for each is the same.
  def short_day
    later = Vestry::Records::DaySheet.new(here, World::TODAY, World::TODAY).cards.drop(6).map { |card| card.limb.id }
    Vestry::Records::PlanLimb.where(limb_id: later).update(season: 2027)
  end

  it "holds each station, the day's stubs with their cuts and logs, and what is due, as each would be answered" do
    short_day
    get "/o/maunder-hill/graft/pocket"
    expect(last_response.status).to eq 200
    held = pages
    stub = Vestry::Records::DaySheet.new(here, World::TODAY, World::TODAY).cards.first.limb
    due = Vestry::Records::Agenda.new(here, World::TODAY).due.reject(&:wound?).first.of
    wanted = %w[today survey plan wood slip slip/walk graft graft/sheet tend tally repair] +
             ["graft/limbs/#{stub.id}", "graft/limbs/#{stub.id}/cuts", "graft/limbs/#{stub.id}/different",
              "graft/stubs?on=#{World::TODAY}", "tend/grafts/#{due.id}", "survey/trees/#{stub.tree_id}"] +
             Vestry::DB[:trees].select_map(:id).map { |id| "survey/trees/#{id}/limb" }
    expect(wanted.map { |path| "/o/maunder-hill/#{path}" } - held.keys).to eq []
    alike = ->(html) { html.gsub(/data-made="[^"]*"/, "").gsub(/[0-9a-f]{8}-[0-9a-f-]{27}/, "") }
    ["/o/maunder-hill/tend", "/o/maunder-hill/graft/limbs/#{stub.id}/cuts"].each do |address|
      get address
      expect(alike[held.fetch(address)] == alike[last_response.body]).to be true
    end
  end

  it "travels in few bytes: the sheet of a day with all its stubs stays under 200 kB" do
    get "/o/maunder-hill/graft/stubs?on=#{World::TODAY}", {}, { "HTTP_ACCEPT_ENCODING" => "gzip" }
    walk = last_response.body.bytesize
    get "/o/maunder-hill/graft/sheet", {}, { "HTTP_ACCEPT_ENCODING" => "gzip" }
    sheet = last_response.body.bytesize
    # All scripts but the one that reads codes, which the page that scans fetches for itself.
    shell = Dir[File.join(Vestry::Web::Stack::Assets::FOLDER, "*.gz")].reject { |file| file.end_with?("/qr.js.gz") }
      .sum { |file| File.size(file) }
    expect(walk + sheet + shell).to be < 200_000
    get "/o/maunder-hill/graft/pocket", {}, { "HTTP_ACCEPT_ENCODING" => "gzip" }
    expect(last_response.headers["content-encoding"]).to eq "gzip"
    expect(last_response.body.bytesize).to be < 600_000
  end

  it "gives nothing of another orchard, and nothing to nobody" do
    other = orchard(name: "Other Hill")
    get "/o/#{other.slug}/graft/pocket"
    expect(last_response.status).not_to eq 200
    clear_cookies
    get "/o/maunder-hill/graft/pocket"
    expect(last_response.status).to eq 302
  end

  it "leaves a word that waits for the page that is looked at" do
    small = orchard(name: "Small Hill")
    limb(tree(small))
    clear_cookies
    enter person("Tam Reed", grafter: small)
    set_cookie "notice=A6+is+kept"
    expect(get("/o/#{small.slug}/graft/pocket").status).to eq 200
    expect(pages.size).to be > 10
    expect(last_response.body).not_to include "A6 is kept"
    get "/o/#{small.slug}/tend"
    expect(last_response.body).to include "A6 is kept"
  end
end
