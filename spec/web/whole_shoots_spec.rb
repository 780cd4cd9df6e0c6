# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# Shoots that are kept whole for a bridge are no stub's wood until they are cut up.
RSpec.describe "Whole shoots" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:kind) { variety(here) }
  let!(:bundle) do
    Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: kind.id, source: "its own top",
                                   cut_on: Date.new(2026, 2, 10), whole_shoots: true)
  end

  before do
    3.times { |n| Vestry::DB[:sticks].insert(orchard_id: here.id, bundle_id: bundle.id, number: n + 1, diameter_mm: 9) }
    Vestry::Deeds::DecideLimb.call(limb(tree(here), "A", girth_mm: 250, length_mm: 2400),
                                   { role: "work", season: 2026, technique: "rind", cut: 900.0, variety: kind.id,
                                     practice: "single" }, by: "Orla", season: 2026)
    enter person("Orla", steward: here)
  end

  def said(path)
    get "/o/#{here.slug}/#{path}"
    @page = Nokogiri::HTML(last_response.body)
    @page.css("script, style, option").remove
    @page.text.gsub(/\s+/, " ")
  end

  def correct(what)
    said("wood/bundles/#{bundle.id}")
    post "/o/#{here.slug}/wood/bundles/#{bundle.id}/shoots", authenticity_token: token, shoots: what
    last_response.status
  end

  it "are said to be, on their bundle's page, beside what is wanted, and where sticks are matched" do
    expect(said("wood/bundles/#{bundle.id}"))
      .to include("Wood 1: 3 whole shoots of Skylark Russet left", "Left3 of 3 whole shoots", "no stub is given them")
    expect(said("wood")).to include("0; and 3 whole shoots")
    expect(said("wood/match")).to include("Only whole shoots of 2026 lie in store, and no stub is given those")
  end

  it "are sticks once they are corrected, and shoots again; sent back unchanged it changes nothing" do
    expect(correct("sticks")).to eq 302
    expect(said("wood/bundles/#{bundle.id}"))
      .to include("Wood 1 holds sticks.", "Wood 1: 3 sticks of Skylark Russet left")
    expect(said("wood")).not_to include("whole shoot")
    expect(said("wood/match")).to include("Every stub of 2026 has its sticks.")
    said("wood/bundles/#{bundle.id}")
    correct("sticks")
    expect(bundle.reload.version).to eq 2
    correct("shoots")
    expect(bundle.reload.whole_shoots).to be true
  end

  it "let go of what was kept for a stub, and are nothing else than the two" do
    bundle.update(whole_shoots: false)
    row = Vestry::Records::PlanLimb.first(limb_id: Vestry::Records::Limb.first(tag: "A").id)
    Vestry::Deeds::KeepBundle.lock(row, bundle.sticks.first, by: "Orla")
    expect { correct("shoots") }.to change { Vestry::Records::StickLocks.for_stub(row).size }.from(1).to(0)
    expect(correct("twigs")).to eq 422
    expect(bundle.reload.whole_shoots).to be true
    expect { Vestry::Deeds::KeepBundle.lock(row, bundle.sticks.first, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /Wood 1·1 is a whole shoot, kept for a bridge/)
  end

  it "are kept for no stub by who presses while they are corrected" do
    bundle.update(whole_shoots: false)
    row = Vestry::Records::PlanLimb.first(limb_id: Vestry::Records::Limb.first(tag: "A").id)
    other = nil
    Vestry::DB.transaction do
      Vestry::Deeds::KeepBundle.shoots(Vestry::Records::Bundle[bundle.id], true, by: "Orla")
      other = Thread.new do
        Vestry::Deeds::KeepBundle.lock(row, Vestry::Records::Stick.first(bundle_id: bundle.id), by: "Gus")
      rescue Vestry::Deeds::Refused => e
        e.words
      end
      until_waiting
    end
    expect(other.value).to match(/is a whole shoot/)
    expect(Vestry::Records::StickLocks.for_stub(row)).to be_empty
  end
end
