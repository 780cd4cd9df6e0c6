# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# What is sent after a session has ended is not lost: it waits for its person to be in again.
RSpec.describe "A form that comes after its session has ended" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:stock) { tree(here) }
  let(:orla) { person("Orla Finch", steward: here) }
  let(:path) { "/o/#{here.slug}/survey/trees/#{stock.id}/lines" }

  def ended = Vestry::DB[:account_active_session_keys].delete
  def kept = Vestry::DB[:typed_forms]
  def html = Nokogiri::HTML(last_response.body)

  def typed_late(**fields)
    get "/o/#{here.slug}/survey/trees/#{stock.id}"
    sent = { authenticity_token: token, **fields }
    ended
    post path, sent
  end

  before { enter orla }

  it "is shown after the sign-in, and sent by one press" do
    typed_late(lines: "A n girth 210 long 2000 from 900\nB s girth 190 long 1900 from 950", what: "keep")
    expect([last_response.status, stock.limbs_dataset.count]).to eq [302, 0]
    expect(last_response.location).to end_with "/sign-in"
    enter orla
    follow_redirect!
    expect(html.at_css("h1").text).to eq "You were signed out before this was kept: send it now."
    expect(html.css("dd").map(&:text)).to include("A n girth 210 long 2000 from 900\nB s girth 190 long 1900 from 950")
    form = html.css("form").find { |each| each["action"] == path }
    post(path, FormFields.fields(form))
    expect(last_response.status).to eq 302
    expect(stock.limbs_dataset.select_order_map(:tag)).to eq %w[A B]
  end

  it "leads a page that was asked for on, too" do
    ended
    get "/o/#{here.slug}/plan", {}, "HTTP_ACCEPT" => "text/html,*/*"
    expect(last_response.location).to end_with "/sign-in"
    enter orla
    expect(last_response.location).to end_with "/o/#{here.slug}/plan"
  end

  it "waits for nobody else, and can be left" do
    typed_late(lines: "A n girth 210", what: "keep")
    waits = "/typed/#{kept.get(:id)}"
    enter person("Tam Reddaway", grafter: here)
    get waits
    expect(last_response.location).to end_with "/"
    clear_cookies
    enter orla
    get waits
    expect(last_response.body).to include "A n girth 210"
    expect(send_to("#{waits}/leave")).to eq 302
    expect(kept.count).to eq 0
  end

  it "keeps lists and tables of words, no token, no file, and not everything" do
    typed_late(tasks: %w[a b], sticks: { "3" => "12" }, notes: "x" * 200_001)
    expect(kept.count).to eq 0
    enter orla
    typed_late(tasks: %w[a b], sticks: { "3" => "12" }, photo: Rack::Test::UploadedFile.new(__FILE__), once: "k")
    expect(kept.get(:fields).to_h).to eq("tasks" => %w[a b], "sticks" => { "3" => "12" }, "once" => "k")
    6.times do
      enter orla
      typed_late(lines: "A n girth 210")
    end
    expect(kept.count).to eq 5
  end

  it "is a phone's own to keep, where a phone sent it" do
    get "/o/#{here.slug}/survey/trees/#{stock.id}"
    sent = { authenticity_token: token, lines: "A n girth 210", client_key: SecureRandom.uuid }
    ended
    header "Accept", "application/json"
    post path, sent
    expect(kept.count).to eq 0
  end

  it "is thrown away after a week" do
    [-60, 600].each do |later|
      kept.insert(account_id: orla.id, path: path, fields: Sequel.pg_jsonb({}),
                  created_at: Time.now.utc - 7 * 86_400 + later)
    end
    Vestry::Deeds::Purge.requests
    expect(kept.count).to eq 1
  end
end
