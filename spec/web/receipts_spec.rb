# frozen_string_literal: true

require "rack/test"

RSpec.describe "Receipts for a phone's outbox" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let(:key) { SecureRandom.uuid }
  let(:stub) { here.planned(:waiting, 2026).rows.find(&:complete?) }
  let(:deed) do
    { client_key: key, grafted_on: "2026-05-18", technique: stub.technique, variety: stub.variety_id, stub: "50 mm",
      sticks: 2, grafter: "Gus", wrap: "stretch-tape", seal: "wax", cover: "wax-only" }
  end

  before { enter person(grafter: here) }

  def session_token = JSON.parse(get("/token").body)["token"]

  def send_deed(values, path: "graft/limbs/#{stub.limb_id}", with: session_token)
    header "Accept", "application/json"
    header "X-CSRF-Token", with
    post "/o/maunder-hill/#{path}", values
    last_response
  ensure
    header "Accept", nil
    header "X-CSRF-Token", nil
  end

  it "names the deed and where it leads" do
    told = JSON.parse(send_deed(deed).body)
    expect(last_response.status).to eq 200
    expect(told).to eq("key" => key, "location" => "/o/maunder-hill/tend/grafts/#{Vestry::Records::Graft.max(:id)}")
  end

  it "gives the same receipt again, for the one deed" do
    first, again = Array.new(2) { JSON.parse(send_deed(deed).body) }
    expect(again).to eq first
    expect(Vestry::Records::Graft.where(client_key: key).count).to eq 1
  end

  it "says why a deed is refused, by the form's rules and by the deed's own" do
    told = JSON.parse(send_deed(deed.merge(technique: "weld", sticks: "many")).body)
    expect(last_response.status).to eq 422
    expect(told["key"]).to eq key
    expect(told["refused"]).to include("technique: is one of", "sticks:")
    expect(JSON.parse(send_deed(deed.merge(grafted_on: "2027-01-01")).body)["refused"]).to include("lies in the future")
    expect(Vestry::Records::Graft.where(client_key: key).count).to eq 0
  end

  it "asks as a question what the hand is to settle" do
    send_deed(deed)
    told = JSON.parse(send_deed(deed.merge(client_key: SecureRandom.uuid)).body)["refused"]
    expect(told).to match(/was logged on that day already: .+ by Gus\. Is this another graft\?\z/)
  end

  it "gives none without a token, nor to someone signed out, nor to a viewer" do
    expect(send_deed(deed, with: "guess").status).to eq 403
    clear_cookies
    get "/token"
    expect(last_response.status).to eq 302
    enter person("Vera Viewer", viewer: here)
    expect(send_deed(deed).content_type.to_s).not_to include("json")
    expect(Vestry::Records::Graft.where(client_key: key).count).to eq 0
  end

  it "says of what was taken away meanwhile, and of what no form held out, why it is not taken" do
    told = JSON.parse(send_deed({ client_key: key, buds: "leafing", seen_on: "2026-05-18" },
                                path: "tend/grafts/999999/visits").body)
    why = "There is no such thing in this orchard any more."
    expect([last_response.status, told]).to eq [404, { "key" => key, "refused" => why }]
    expect(JSON.parse(send_deed({ client_key: key }, path: "tend/nothing").body)["key"]).to eq key
  end

  it "tells a role that was lost from a token of another session" do
    clear_cookies
    enter person("Vera Viewer", viewer: here)
    expect([send_deed(deed).status, last_response.headers["vestry-refused"]]).to eq [403, "role"]
    expect([send_deed(deed, with: "guess").status, last_response.headers["vestry-refused"]]).to eq [403, nil]
  end

  it "answers a plain form as before" do
    get "/o/maunder-hill/graft/limbs/#{stub.limb_id}"
    post "/o/maunder-hill/graft/limbs/#{stub.limb_id}", deed.merge(authenticity_token: token)
    expect(last_response.status).to be_between(302, 303)
  end

  it "keeps the day a tree was seen on, however late it is sent, and none to come" do
    tree = here.trees_dataset.first(row: "B", number: 5)
    seen = { client_key: key, stage: "blossom", slipping: "yes", seen_on: "2026-05-16" }
    expect(JSON.parse(send_deed(seen, path: "slip/trees/#{tree.id}/seen").body)["key"]).to eq key
    expect(Vestry::Records::PhenologySeen.first).to have_attributes(seen_on: Date.new(2026, 5, 16), slipping: true)
    expect(JSON.parse(send_deed(seen.merge(seen_on: "2026-06-01"), path: "slip/trees/#{tree.id}/seen").body)["refused"])
      .to include("lies in the future")
    expect(JSON.parse(send_deed(seen.merge(seen_on: "soon"), path: "slip/trees/#{tree.id}/seen").body)["refused"])
      .to include("is a day")
  end
end
