# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# What is on the list of what to saw is said to be done there, and leaves it.
RSpec.describe "The list of what to saw" do
  include Rack::Test::Methods
  include FormFields

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:stock) { tree(here) }
  let(:base) { "/o/#{here.slug}" }

  def html = Nokogiri::HTML(last_response.body)
  def listed = html.css("table.list tbody th").map { |each| each.text.strip }

  def decide(tag, role, bearing, **more)
    limb(stock, tag, bearing_deg: bearing).tap do |stem|
      Vestry::Deeds::DecideLimb.call(stem, { role: role, **more }, by: "Orla", season: 2026)
    end
  end

  def press(stem, more = {})
    get "#{base}/plan/cuts"
    form = html.at_css("form[action$='/survey/limbs/#{stem.id}/events']")
    post form["action"], fields(form).merge(more)
    expect([last_response.status, last_response.location.to_s]).to match [302, %r{/plan/cuts\z}]
  end

  it "loses what is lifted, headed for wood and taken back to what takes over, each with what is left" do
    off, wood = decide("A", "lift", 10), decide("B", "renew", 120)
    above = decide("C", "lift", 240)
    Vestry::DB[:plan_limbs].where(limb_id: above.id).update(cut_mm: 900)
    enter person("Tam Ley", grafter: here)
    get "#{base}/plan/cuts"
    expect(listed).to eq ["A1 A", "A1 B", "A1 C"]
    press(off)
    press(wood)
    expect([off.reload.gone_on, wood.reload.length_mm]).to eq [World::TODAY, 1200]
    get "#{base}/plan/cuts"
    expect(listed).to eq ["A1 C"]
    press(above, "left" => "850 mm")
    expect(above.reload.length_mm).to eq 850
    get "#{base}/plan/cuts"
    expect([listed, html.at_css("h1").text]).to eq [[], "All that was to be sawn for 2026 is done."]
  end

  it "keeps what was headed in a former season and is to be headed again" do
    wood = decide("B", "renew", 120)
    Vestry::Deeds::RecordLimbEvent.call(wood, { kind: "headed", happened_on: Date.new(2025, 2, 1), left_mm: 1500.0 },
                                        by: "Orla", today: World::TODAY)
    enter person("Ines Marl", viewer: here)
    get "#{base}/plan/cuts"
    expect([listed, html.css("form.sawn").size]).to eq [["A1 B"], 0]
  end
end
