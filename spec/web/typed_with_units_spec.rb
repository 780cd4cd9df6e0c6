# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# A number is read with the word that people write behind it.
RSpec.describe "Numbers with their units" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:base) { "/o/#{here.slug}" }
  let(:one) { limb(tree(here)) }

  before { enter person("Orla Finch", steward: here) }

  it "are read in counts, events, settings and promises" do
    made = graft(one)
    send_to("#{base}/tally/grafts/#{made.id}", tallied_on: "2026-05-17", alive: "true", growth: "40 cm",
                                               angle: "45°", crop: "12 lb", sticks_alive: "2 sticks")
    expect(Vestry::Records::Tally.first.values.slice(:angle_deg, :crop_kg, :sticks_alive).transform_values(&:to_f))
      .to eq(angle_deg: 45.0, crop_kg: 5.443, sticks_alive: 2.0)
    send_to("#{base}/survey/limbs/#{one.id}/events", kind: "tied-down", happened_on: "2026-05-17", rise: "20 degrees",
                                                     left: "")
    expect(one.reload.rise_deg).to eq 20
    send_to("#{base}/varieties/#{here.varieties.first.id}/promises", season: "2027", sticks: "12 sticks", source: "Low")
    expect(Vestry::Records::WoodPromise.first.sticks).to eq 12
  end

  it "read a crop without one in kilograms, and in pounds where inches are measured in" do
    form = Vestry::Web::Contracts::TallyForm
    read = lambda do |typed, units|
      told = form.new(units: units).read({ "tallied_on" => "2026-05-17", "alive" => "true", "crop" => typed })
      told.errors[:crop] || form.to_row(told.values, by: "Orla")[:crop_kg]
    end
    expect(["12", "12 lb", "3.5 kg"].product(%w[metric imperial]).map { |typed, units| read[typed, units] })
      .to eq [12.0, 5.443, 5.443, 5.443, 3.5, 3.5]
    expect(%w[metric imperial].map { |units| read["many", units] })
      .to eq [["kilograms, as 3.5, or 8 lb, from 0 to 500 kg"], ["pounds, as 8, or 3.5 kg, from 0 to 1,100 lb"]]
    here.update(units: "imperial")
    get "#{base}/tally/grafts/#{graft(one).id}"
    expect(Nokogiri::HTML(last_response.body).at_css("main").text).to include "lb, or such as 3.5 kg"
  end

  it "are read in the settings, where a height is in metres or feet, and shown in the orchard's own" do
    settings = lambda do |**more|
      get "#{base}/settings"
      form = Nokogiri::HTML(last_response.body).css("form").find { |each| each["action"] == "#{base}/settings" }
      post "#{base}/settings", FormFields.fields(form).merge(more.transform_keys(&:to_s))
      last_response.status
    end
    expect(settings[altitude: "5,900 ft", declination: "-1.5°"]).to eq 302
    expect(here.reload.values.slice(:altitude_m, :declination_deg).transform_values { |value| value.to_f.round(2) })
      .to eq(altitude_m: 1798.32, declination_deg: -1.5)
    expect(settings[units: "imperial"]).to eq 302
    expect(here.reload.altitude_m.round(2)).to eq 1798.32
    get "#{base}/settings"
    expect(Nokogiri::HTML(last_response.body).at_css("[name=altitude]")["value"]).to eq "5900 ft"
    # A bare number is in the unit that stands beside it: feet, and metres once those are chosen.
    expect([settings[altitude: "5,200"], here.reload.altitude_m.round(2)]).to eq [302, 1584.96]
    expect([settings[altitude: "150", units: "metric", reach: "2300"], here.reload.altitude_m, here.reach_mm])
      .to eq [302, 150, 2300]
    expect(settings[units: "imperial", reach: "96"]).to eq 302
    expect(here.reload.reach_mm).to be_within(0.01).of(2438.4)
    # A reach of a few millimetres leaves no place to cut anywhere: what was left out is the unit.
    expect(settings[reach: "8"]).to eq 422
    expect(last_response.body).to include("8 in is not likely here", "If it is in feet, write 8 ft.")
    expect([settings[units: "metric", reach: "2.6"], last_response.body])
      .to match [422, /3 mm is not likely here; from 1.00 m to 15.00 m is allowed. If it is in metres, write 2.6 m./]
    expect([settings[units: "metric", reach: "180"], last_response.body]).to match [422, /write 180 cm/]
    expect([settings[units: "metric", reach: "3 cm"], last_response.body]).to match [422, /Check the unit/]
    expect([settings[altitude: "up the hill"], last_response.body]).to match [422, /is a height in m or ft, such as/]
    expect([settings[altitude: "40,000 ft"], last_response.body]).to match [422, /is 6000 m or less/]
  end
  it "are read of how far a tree stands from the corner, in metres or feet, and shown in the orchard's own" do
    facts = "#{base}/survey/trees/#{one.tree_id}"
    shown = lambda do
      get facts
      Nokogiri::HTML(last_response.body).css("form").find { |each| each["action"] == facts }
    end
    send_to(facts, **FormFields.fields(shown.call).transform_keys(&:to_sym), east: "12 m", north: "40 ft")
    expect(one.tree.reload.values.values_at(:x_m, :y_m).map { |m| m.round(3) }).to eq [12.0, 12.192]
    here.update(units: "imperial")
    form = shown.call
    expect(%w[east north].map { |name| form.at_css("[name=#{name}]")["value"] }).to eq ["39.4 ft", "40 ft"]
    send_to(facts, **FormFields.fields(form).transform_keys(&:to_sym))
    expect(one.tree.reload.values.values_at(:x_m, :y_m).map { |m| m.round(3) }).to eq [12.0, 12.192]
    send_to(facts, **FormFields.fields(form).transform_keys(&:to_sym), east: "50", north: "12 m")
    expect(one.tree.reload.values.values_at(:x_m, :y_m).map { |m| m.round(3) }).to eq [15.24, 12.0]
    form = shown.call
    send_to(facts, **FormFields.fields(form).transform_keys(&:to_sym), east: "over there")
    expect(last_response.body).to include("is a way over ground in m or ft, such as 12 m or 40 ft")
  end
end
