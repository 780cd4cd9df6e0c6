# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# Every form that shows what stands, opened and sent back as it was: nothing may change, however the values were
# rounded for showing, in either unit.
RSpec.describe "A form sent back unchanged" do
  include Rack::Test::Methods
  include FormFields

  let(:app) { Vestry::Web::Stack.build }

  TABLES = %i[orchards trees limbs varieties plans plan_limbs plan_sites sites grafts tallies observations bundles
              stores wounds wound_margins bridge_scions history crew_days].freeze

  def facts
    TABLES.to_h do |table|
      [table, Vestry::DB[table].order(Sequel.lit("1, 2")).all.map { |row| row.transform_values(&:to_s) }]
    end
  end

  def resend(page, action)
    get page
    expect([page, last_response.status]).to eq [page, 200]
    form = Nokogiri::HTML(last_response.body).css("form[method=post]").find do |each|
      each["action"] == action || (each["action"].nil? && page == action)
    end
    expect([page, form.nil?]).to eq [page, false]
    before = facts
    post action, fields(form)
    expect([page, last_response.status, last_response.status == 302 ? "" :
            Nokogiri::HTML(last_response.body).css(".error, .notice").text]).to eq [page, 302, ""]
    expect([page, facts.reject { |table, rows| rows == before[table] }]).to eq [page, {}]
  end

  %w[metric imperial].each do |units|
    it "changes nothing in #{units} units" do
      here = orchard(units: units, reach_mm: 2404, latitude: 50.123456)
      stock = tree(here, trunk_girth_mm: 503.7, height_mm: 4013.2)
      kind = variety(here, bloom_from: "04-20", bloom_to: "05-01", notes: "two\nlines")
      first = limb(stock, "A", girth_mm: 600, thickness_typed: "60", length_mm: 2404, length_typed: nil, fork_mm: 913.3,
                   bearing_deg: 22.5, rise_deg: 41.25, flat_deg: 33.3, bark_mm: 2.5, bark: "rough")
      oval = limb(stock, "B", girth_mm: nil, wide_mm: 81.3, narrow_mm: 70.7, thickness_typed: "81 x 70",
                  bearing_deg: 181.5)
      plain = limb(stock, "C", girth_mm: 231.7, bearing_deg: 271)
      plan = Vestry::Records::Plan.create(orchard_id: here.id, tree_id: stock.id, school: "waxed-rind")
      [[plain, 1234.5, nil], [oval, 1001.3, 1402.7]].each do |each, cut, long|
        Vestry::Records::PlanLimb.create(orchard_id: here.id, plan_id: plan.id, limb_id: each.id, role: "work",
                                         season: 2027, technique: "bark", variety_id: kind.id, cut_mm: cut,
                                         long_cut_mm: long, stock_mm: 60.4, sticks: 2,
                                         faces: Sequel.pg_array([-45, 45], :numeric), against_reason: "so")
      end
      made = graft(first, grafted_on: Date.new(2026, 4, 21), stub_mm: 57.3, stub_typed: "57.3", scion_mm: 8.7,
                          cut_mm: 601.7, faces: Sequel.pg_array([-45.5, 45], :numeric), minutes: 17.4, perch: true,
                          bark_slip: "clean", conditions: "dry")
      Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2026, tallied_on: World::TODAY,
                                    alive: true, growth_mm: 1237, above_mm: 12.7, below_mm: 14.3, open_a_mm: 41.3,
                                    open_b_mm: 33.9, angle_deg: 22.5, crop_kg: 3.456, tallied_by: "Tam Reddaway")
      wound = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: stock.id, girth_mm: 303.7, girth_typed: nil,
                                            cause: "teeth", found_on: World::TODAY, bark_left: 0.125)
      [[0, 101.4, 322.7], [120, 63.2, 181.9], [240.55, 40.6, 262.2]].each do |bearing, low, high|
        Vestry::DB[:wound_margins].insert(orchard_id: here.id, wound_id: wound.id, bearing_deg: bearing, low_mm: low,
                                          high_mm: high)
      end
      enter person("Orla Finch", steward: here)
      base = "/o/#{here.slug}"
      [first, oval, plain].each do |each|
        resend("#{base}/survey/trees/#{stock.id}?limb=#{each.id}", "#{base}/survey/limbs/#{each.id}")
      end
      [plain, oval].each do |each|
        resend("#{base}/plan/trees/#{stock.id}?limb=#{each.id}", "#{base}/plan/limbs/#{each.id}")
      end
      resend("#{base}/survey/trees/#{stock.id}", "#{base}/survey/trees/#{stock.id}")
      resend("#{base}/settings", "#{base}/settings")
      resend("#{base}/varieties/#{kind.id}", "#{base}/varieties/#{kind.id}")
      resend("#{base}/tally/grafts/#{made.id}", "#{base}/tally/grafts/#{made.id}")
      resend("#{base}/graft/grafts/#{made.id}", "#{base}/graft/grafts/#{made.id}")
      resend("#{base}/repair/#{wound.id}", "#{base}/repair/#{wound.id}")
      resend("#{base}/repair/#{wound.id}", "#{base}/repair/#{wound.id}/places")
      resend("#{base}/slip/crew", "#{base}/slip/crew/day")
      store = Vestry::Deeds::KeepStore.open(here, "Cold  cellar", thermometer: "cellar-1", by: "Orla Finch")
      resend("#{base}/wood/stores/#{store.id}", "#{base}/wood/stores/#{store.id}/called")
    end
  end

  it "corrects a tree's kind, sizes, name and place, keeps what it corrected, and refuses a name that is taken" do
    here = orchard
    stock, other = tree(here), tree(here)
    enter person("Orla Finch", steward: here)
    page = "/o/#{here.slug}/survey/trees/#{stock.id}"
    send = lambda do |more|
      get page
      form = Nokogiri::HTML(last_response.body).css("form[method=post]").find { |each| each["action"] == page }
      post page, fields(form).merge(more)
      last_response.status
    end
    expect(send.call("species" => "pear", "height" => "3 m", "row" => "q", "number" => "7", "latitude" => "52 06 N",
                     "longitude" => "2 54 W")).to eq 302
    expect(stock.refresh.values.slice(:species, :height_mm, :row,
                                      :number).transform_values { |value| value.is_a?(BigDecimal) ? value.to_i :
                                                                  value }).to eq(species: "pear", height_mm: 3000,
                                                                    row: "Q", number: 7)
    expect([stock.latitude, stock.longitude].map { |value| value.round(4) }).to eq [52.1, -2.9]
    expect(stock.map_y).to be_within(1).of((52.1 - here.latitude) * 111_320)
    expect(Vestry::DB[:history].where(table_name: "trees", row_id: stock.id).get(:before)["species"]).to eq "apple"
    expect(send.call("row" => other.row, "number" => other.number.to_s)).to eq 422
    expect(last_response.body).to include("A2 is another tree already")
    expect(send.call("latitude" => "95", "height" => "400 m")).to eq 422
    expect(last_response.body).to include("is in degrees from -90 to 90", "is not likely here")
  end

  it "reads compass points in fields, and says what is allowed there" do
    here = orchard
    stock = tree(here)
    enter person("Orla Finch", steward: here)
    page = "/o/#{here.slug}/survey/trees/#{stock.id}"
    get page
    post "#{page}/limbs", { tag: "A", girth: "200", bearing: "SW", authenticity_token: token }
    expect(Vestry::Records::Limb.first(tree_id: stock.id).bearing_deg).to eq 225
    get page
    post "#{page}/limbs", { tag: "B", girth: "200", bearing: "sideways", authenticity_token: token }
    expect([last_response.status, last_response.body])
      .to match [422, /is a compass point such as NE, or degrees from 0 to 360/]
    get page
    post "#{page}/limbs", { tag: "C", girth: "200", bearing: "", rise: "", authenticity_token: token }
    expect(Vestry::Records::Limb.first(tree_id: stock.id, tag: "C").values.slice(:bearing_deg, :rise_deg))
      .to eq(bearing_deg: nil, rise_deg: nil)
  end

  it "changes the field that was changed, and no other" do
    here = orchard
    stock = tree(here)
    one = limb(stock, "A", girth_mm: 231.7, length_mm: 2404, bearing_deg: 22.5, bark_mm: 2.5)
    enter person("Orla Finch", steward: here)
    get "/o/#{here.slug}/survey/trees/#{stock.id}?limb=#{one.id}"
    form = Nokogiri::HTML(last_response.body).css("form[method=post]").find do |each|
      each["action"] == "/o/#{here.slug}/survey/limbs/#{one.id}"
    end
    post "/o/#{here.slug}/survey/limbs/#{one.id}", fields(form).merge("length" => "2.5 m")
    expect(one.refresh.values.slice(:girth_mm, :length_mm, :bearing_deg, :bark_mm).transform_values(&:to_f))
      .to eq(girth_mm: 231.7, length_mm: 2500, bearing_deg: 22.5, bark_mm: 2.5)
    expect(Vestry::DB[:history].where(table_name: "limbs").order(:id).last[:after].keys.sort)
      .to eq %w[length_mm length_typed]
  end
end
