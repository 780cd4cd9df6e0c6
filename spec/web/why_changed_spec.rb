# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "Why a tree is changed" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let!(:stock) { tree(here) }

  before do
    enter person(steward: here)
    [limb(stock, "A", girth_mm: 300), limb(stock, "B", girth_mm: 250, bearing_deg: 270)].each do |each|
      Vestry::Deeds::DecideLimb.call(each, { role: "work", technique: "rind", cut: 600.0, variety: amber.id },
                                     by: "Orla", season: 2026)
    end
  end

  let(:amber) { variety(here, "Amber") }

  it "and its school are said on one form: the orchard's is nobody's choice, and sent back unchanged it stays so" do
    page = say(school: "")
    chosen = -> { page.at_css("#f-school option[selected]") }
    expect([chosen.call["value"], chosen.call.text]).to eq ["", "as the orchard: Waxed rind"]
    expect(page.text.squeeze(" \n")).to match(/by the Waxed rind school, as the orchard is/)
    page = say(school: "covered-inlay")
    expect(chosen.call["value"]).to eq "covered-inlay"
    expect(page.text.squeeze(" \n")).to match(/by the Covered inlay school\./)
    settings = -> { Nokogiri::HTML(get("/o/#{here.slug}/settings").body).text.split.join(" ") }
    expect(settings.call).to include("#{stock.label} goes by a school of its own, as its plan says.")
    here.update(school: "covered-inlay")
    expect(settings.call).not_to include("of its own, as")
    here.update(school: "film-wrap")
    expect(say(school: "weld").at_css("#f-school option[selected]")["value"]).to eq "covered-inlay"
  end

  it "is not said back by a form that was opened before somebody else said otherwise" do
    seen = stock.reload.plan.version
    say(school: "covered-inlay", version: seen)
    page = say(school: "", version: seen)
    expect([page.css(".error").map(&:text), stock.reload.plan.school])
      .to match [[a_string_including("covered-inlay")], "covered-inlay"]
    say(school: "", version: page.at_css("form[action$='/purpose'] input[name=version]")["value"])
    expect(stock.reload.plan.school).to be_nil
  end

  def say(**fields)
    get "/o/#{here.slug}/plan/trees/#{stock.id}"
    post "/o/#{here.slug}/plan/trees/#{stock.id}/purpose", { purpose: "", school: "waxed-rind" }.merge(fields)
      .merge(authenticity_token: token)
    get "/o/#{here.slug}/plan/trees/#{stock.id}" if last_response.redirect?
    Nokogiri::HTML(last_response.body)
  end

  it "keeps reasons and worths, and compares leaving, regrafting and replanting by them" do
    expect(say.at_css("#worth-h")).to be_nil
    page = say(reasons: %w[taste frost nonsense], old_worth: "0.2", new_worth: "0.9")
    expect(stock.plan.known_reasons).to eq %w[frost taste]
    expect(page.text.squeeze(" \n")).to include("Why it is changed: frost takes its bloom and taste.",
                                                "Regrafting it is worth most over 15 years: 3.0 full crops left")
    expect(page.css("svg.fifteen path.way").size).to eq 3
    again = say(reasons: [], old_worth: "", new_worth: "0.9")
    expect([stock.reload.plan.old_worth, again.at_css("#worth-h")]).to eq [nil, nil]
  end

  it "names a worth that is no share, and keeps nothing" do
    say(reasons: %w[taste], old_worth: "3", new_worth: "0.9")
    expect(last_response.status).to eq 422
    expect(last_response.body).to include("is a number from 0 (worthless) to 1", 'value="3"')
    expect([stock.plan.known_reasons, stock.plan.new_worth]).to eq [[], nil]
  end
end
