# frozen_string_literal: true

require "rack/test"
require "nokogiri"

RSpec.describe Vestry::Web::PlannedGraft do
  include Rack::Test::Methods
  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  before { enter person(grafter: here) }

  # What a form would send, but for its own key and token.
  def filled(form)
    fields = form.css("input[name]").reject { |each| %w[radio checkbox].include?(each["type"]) && !each["checked"] }
      .to_h { |each| [each["name"], each["value"].to_s] }
    chosen = form.css("select[name]").to_h { |each| [each["name"], each.at_css("option[selected]")&.[]("value").to_s] }
    fields.merge(chosen).except("authenticity_token", "client_key", "minutes", "then").reject { |_, value| value == "" }
  end

  it "draws the bench of a stub whose size cannot be read as thick as it was planned" do
    row = Vestry::Records::PlanQueries.stubs_of(here, 2026).all.find(&:complete?)
    reading = Vestry::Web::Contracts::FormResult.new(values: {}, errors: {}, form: {},
                                                     typed: { "stub" => "thick", "technique" => row.technique })
    planned = Vestry::Records::CoreInputs.diameter_at(row.limb, row.cut_mm)
    expect(Vestry::Web::Bench.new(row.limb, reading).stub_mm).to be_within(1e-6).of(planned)
  end

  it "fills the log of every stub of the day alike at the bench and on the walk" do
    get "/o/maunder-hill/graft/stubs"
    walk = Nokogiri::HTML(last_response.body)
    cards = Vestry::Records::DaySheet.new(here, World::TODAY, World::TODAY).cards
    differing = cards.reject do |card|
      get "/o/maunder-hill/graft/limbs/#{card.limb.id}"
      bench = filled(Nokogiri::HTML(last_response.body).at_css("#log-form"))
      filled(walk.at_css("#stub-#{card.limb.id} form[data-panel=set]")) == bench
    end
    expect([cards.size, differing.map { |card| card.limb.label }]).to eq [14, []]
  end
end
