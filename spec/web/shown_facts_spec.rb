# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "A form that corrects what is known" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }

  before { enter person(steward: here) }

  def value(path, name)
    get "/o/#{here.slug}/#{path}"
    Nokogiri::HTML(last_response.body).css("[name='#{name}']").map { |field| field["value"] }.uniq
  end

  it "shows a limb's length as it was measured, typed or not" do
    branch = limb(tree(here), length_mm: 2400)
    page = "survey/trees/#{branch.tree_id}?limb=#{branch.id}"
    expect(value(page, "length")).to include "2.40 m"
    branch.update(length_typed: "2400")
    expect(value(page, "length")).to include "2400"
  end

  it "shows what is left of how much grew, and by which it tapers where it is planned" do
    branch = limb(tree(here), girth_mm: 314.16, length_mm: 1000, whole_mm: 2000)
    get "/o/#{here.slug}/survey/trees/#{branch.tree_id}?limb=#{branch.id}"
    expect(last_response.body.gsub(/<[^>]+>|\s+/, " ").squeeze(" ")).to include "1.00 m of the 2.00 m that grew"
    plan = lambda do
      get "/o/#{here.slug}/plan/trees/#{branch.tree_id}?limb=#{branch.id}"
      last_response.body
    end
    expect(plan[]).to include("losing 70 % over 2.00 m", "÷ 2.00 m =")
    branch.update(outer_mm: 60, outer_at_mm: 900)
    expect(plan[]).to include("100 mm at the fork, 60 mm measured at 900 mm", "(100 mm − 60 mm) ×", "÷ 900 mm =")
    expect(last_response.body).not_to include "losing 70 %"
  end

  it "shows how rough its bark is, where it was measured twice and where it is unsound, and puts it right" do
    branch = limb(tree(here), bark: "rough", outer_mm: 40, outer_at_mm: 1800,
                              unsound_mm: Sequel.pg_array([600, 900], :numeric))
    page = "/o/#{here.slug}/survey/trees/#{branch.tree_id}?limb=#{branch.id}"
    get page
    facts = Nokogiri::HTML(last_response.body).css("dl.facts > div").to_h do |pair|
      %w[dt dd].map { |part| pair.at_css("> #{part}").text.gsub(/\s+/, " ").strip }
    end
    expect(facts).to include("Bark" => "rough", "Further out" => "40 mm across, 1.80 m from the fork",
                             "Unsound" => "600 mm to 900 mm from the fork")
    form = Nokogiri::HTML(last_response.body).css("form").find do |each|
      each["action"] == "/o/#{here.slug}/survey/limbs/#{branch.id}"
    end
    thick = ->(stem) { Vestry::Records::CoreInputs.bark(stem.reload, 60.0) }
    before = thick[branch]
    post form["action"], FormFields.fields(form).merge("bark" => "smooth")
    expect([last_response.status, branch.reload.bark]).to eq [302, "smooth"]
    expect(before / thick[branch]).to be_within(1e-6).of(1.6)
  end

  it "keeps a stretch that is unsound from either end, and lets it be sound again" do
    branch = limb(tree(here))
    kept = lambda do |from, to|
      get "/o/#{here.slug}/survey/trees/#{branch.tree_id}?limb=#{branch.id}"
      form = Nokogiri::HTML(last_response.body).css("form").find do |each|
        each["action"] == "/o/#{here.slug}/survey/limbs/#{branch.id}"
      end
      post form["action"], FormFields.fields(form).merge("unsound_from" => from, "unsound_to" => to)
      branch.reload.unsound_mm.to_a.map(&:to_i)
    end
    expect([kept["90 cm", "600"], kept["900", "600"], kept["", ""]]).to eq [[600, 900], [600, 900], []]
  end

  it "asks again for bark or a girth that would leave no wood, and keeps nothing of it" do
    branch = limb(tree(here), girth_mm: 220, bark_mm: 5)
    get "/o/#{here.slug}/survey/trees/#{branch.tree_id}?limb=#{branch.id}"
    form = Nokogiri::HTML(last_response.body).css("form").find do |each|
      each["action"] == "/o/#{here.slug}/survey/limbs/#{branch.id}"
    end
    send_with = lambda do |typed|
      post form["action"], FormFields.fields(form).merge(typed)
      [last_response.status, last_response.body[/leaves no wood: below [^,]+, half the thickness of A/],
       *branch.reload.values.values_at(:girth_mm, :bark_mm).map(&:to_i)]
    end
    expect([send_with["bark_thickness" => "40"], send_with["girth" => "30"]])
      .to eq [[422, "leaves no wood: below 35.0 mm, half the thickness of A", 220, 5],
              [422, "leaves no wood: below 4.7 mm, half the thickness of A", 220, 5]]
    expect(send_with["bark_thickness" => "34"].values_at(0, 3)).to eq [302, 34]
  end

  it "shows the share of bark that is left in per cent" do
    wound = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: tree(here).id, found_on: World::TODAY,
                                          girth_mm: 500, bark_left: 0.2, drying: true, cause: "teeth")
    expect(value("repair/#{wound.id}", "bark_left")).to eq ["20 %"]
  end
end
