# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# A page that was opened, or kept on a phone, before the orchard's measures were changed is read as it was typed.
RSpec.describe "Numbers typed on a page of other measures" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard(units: "imperial") }
  let(:base) { "/o/#{here.slug}" }
  let!(:stock) { tree(here) }

  before { enter person("Orla Finch", steward: here) }

  # A form as a page has it, sent once the orchard measures in millimetres.
  def sent_late(page, action, **typed)
    get "#{base}/#{page}"
    form = Nokogiri::HTML(last_response.body).css("form").find { |each| each["action"] == "#{base}/#{action}" }
    here.update(units: "metric")
    post "#{base}/#{action}", FormFields.fields(form).merge(typed.transform_keys(&:to_s))
    here.update(units: "imperial")
    last_response.status
  end

  it "are inches where the page had inches: of a limb by form and by lines, a visit, a bundle and a trunk" do
    limb = { tag: "A", girth: "14", bearing: "ne" }
    expect(sent_late("survey/trees/#{stock.id}", "survey/trees/#{stock.id}/limbs", **limb)).to eq 302
    expect(sent_late("survey/trees/#{stock.id}", "survey/trees/#{stock.id}/lines", lines: "B w girth 12")).to eq 302
    expect(Vestry::Records::Limb.order(:tag).select_map(:girth_mm).map { |mm| mm.to_f.round(1) }).to eq [355.6, 304.8]
    made = graft(Vestry::Records::Limb.first(tag: "A"))
    expect(sent_late("tend/grafts/#{made.id}", "tend/grafts/#{made.id}/visits", longest_shoot: "9")).to eq 302
    expect(Vestry::Records::Visit.first.longest_shoot_mm.to_f).to be_within(0.1).of(228.6)
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: made.variety_id, source: "Low",
                                            cut_on: World::TODAY - 90)
    Vestry::DB[:sticks].insert(orchard_id: here.id, bundle_id: bundle.id, number: 1)
    expect(sent_late("wood/bundles/#{bundle.id}", "wood/bundles/#{bundle.id}/measure", diameters: "3/8")).to eq 302
    expect(bundle.reload.sticks.first.diameter_mm.to_f).to be_within(0.1).of(9.5)
    expect(sent_late("repair", "repair", lines: "#{stock.label} girth 22")).to eq 302
    expect(Vestry::Records::Wound.first.girth_mm.to_f).to be_within(0.1).of(558.8)
  end

  it "are the orchard's where a page says none, or one that is none" do
    ["", "cubits"].each_with_index do |units, at|
      get "#{base}/survey/trees/#{stock.id}"
      post "#{base}/survey/trees/#{stock.id}/limbs", authenticity_token: token, page_units: units,
                                                     tag: %w[A B][at], girth: "14", bearing: %w[ne sw][at]
    end
    expect(Vestry::Records::Limb.select_map(:girth_mm).map { |mm| mm.to_f.round(1) }).to eq [355.6, 355.6]
  end
end
