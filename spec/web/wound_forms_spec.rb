# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "Forms of a stripped trunk" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  it "keep whether the blossom was stripped: not, where nothing is said" do
    form = Vestry::Web::Contracts::VisitWoundForm
    seen = { seen_on: World::TODAY }
    expect([{ blossom_stripped: true }, { blossom_stripped: false }, {}]
      .map { |more| form.to_row(seen.merge(more))[:blossom_stripped] }).to eq [true, false, false]
  end

  it "begin with pins or a binding, as the school fixes scions" do
    fixed = %w[covered-inlay waxed-rind].map do |school|
      here = orchard(school: school)
      wound = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: tree(here).id, girth_mm: 300, cause: "teeth",
                                            found_on: World::TODAY)
      clear_cookies
      enter person("Orla #{school}", steward: here)
      get "/o/#{here.slug}/repair/#{wound.id}/log"
      Nokogiri::HTML(last_response.body).at_css("[name=fixing][checked]")&.[]("value")
    end
    expect(fixed).to eq %w[pins bound]
  end

  context "with a trunk that is bare all round" do
    let(:here) { orchard }
    let(:stem) { tree(here, trunk_girth_mm: 90) }
    let(:wound) do
      bare = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: stem.id, girth_mm: 90, cause: "teeth",
                                           found_on: World::TODAY - 40)
      [0, 90, 180, 270].each do |bearing|
        Vestry::DB[:wound_margins].insert(orchard_id: here.id, wound_id: bare.id, bearing_deg: bearing, low_mm: 150,
                                          high_mm: 250)
      end
      bare
    end

    def said(path = "repair/#{wound.id}")
      get "/o/#{here.slug}/#{path}"
      @page = Nokogiri::HTML(last_response.body)
      @page.css("script, style, option").remove
      @page.text.gsub(/\s+/, " ")
    end

    def log(**fields)
      said("repair/#{wound.id}/log")
      post "/o/#{here.slug}/repair/#{wound.id}/log",
           { authenticity_token: token, repaired_on: (World::TODAY - 30).iso8601 }.merge(fields)
    end

    before { enter person("Orla", steward: here) }

    it "are told of scions where it is bridged, of stocks where they are inarched, of neither else" do
      said
      words = { "dress" => [false, false], "bridge" => [true, false], "inarch" => [false, true],
                "cut-back" => [false, false], "stump-graft" => [false, false] }.to_h do |course, _|
        wound.update(course: course)
        text = said
        [course, [text.include?("The scions, in order round the trunk"), text.include?("How a stock is inarched")]]
      end
      expect(words).to eq("dress" => [false, false], "bridge" => [true, false], "inarch" => [false, true],
                          "cut-back" => [false, false], "stump-graft" => [false, false])
    end

    it "tell, with what is advised, what was decided otherwise, on its page and in the list" do
      lines = %w[dress cut-back].to_h do |course|
        wound.update(course: course)
        [course, [said[/It was decided otherwise: [^.]+/], said("repair")[/start again; decided: clean and cover it/]]]
      end
      expect(lines).to eq("dress" => ["It was decided otherwise: clean and cover it",
                                      "start again; decided: clean and cover it"], "cut-back" => [nil, nil])
    end

    it "say that nobody has looked at stocks that should have knit, and list them" do
      wound.update(course: "inarch")
      log(course: "inarch", bearings: "20 140")
      text = said
      expect(text).to include("its stocks should have knit by", "nobody has looked at them since",
                              "The stocks, in order round the trunk", "Stock 1 at 20 degrees, set, not looked at yet.")
      expect(text).not_to match(/A1 holds|to be set|Log another scion/)
      expect(@page.css("table.scions tbody tr").size).to eq 2
    end

    it "ask for whole shoots where scions are cut of them, and for none where rooted stocks are set" do
      Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: variety(here).id, source: "its own top",
                                     cut_on: World::TODAY - 100, length_mm: 900, whole_shoots: true)
                             .then do |bundle|
        Vestry::DB[:sticks].insert(orchard_id: here.id, bundle_id: bundle.id, number: 1, diameter_mm: 9)
      end
      asked = %w[bridge inarch].map do |course|
        wound.update(course: course)
        said("repair/#{wound.id}/log")
        %w[bundle shoots].map { |name| @page.css("[name=#{name}]").size }
      end
      expect(asked).to eq [[1, 1], [0, 0]]
    end

    it "name the shoot of each scion, and begin with their bundle and how many go" do
      bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: variety(here).id, source: "its own top",
                                              cut_on: World::TODAY - 100, length_mm: 900, whole_shoots: true)
      [3, 9, 9, 9, 9].each_with_index do |mm, i|
        Vestry::DB[:sticks].insert(orchard_id: here.id, bundle_id: bundle.id, number: i + 1, diameter_mm: mm)
      end
      wound.update(course: "bridge")
      get "/o/#{here.slug}/repair/#{wound.id}/log"
      form = Nokogiri::HTML(last_response.body)
      named = form.css(".given .choice").map { |each| each.text.squeeze(" \n")[/from\s+(Wood 1·\d)/, 1] }
      expect(named).to all(match(/·[2-5]/))
      expect([form.at_css("[name=bundle] [selected]")["value"], form.at_css("[name=shoots]")["value"]])
        .to eq [bundle.id.to_s, named.uniq.size.to_s]
      log(course: "bridge", "scions[]": %w[1], bundle: bundle.id, shoots: 1)
      gone = bundle.sticks.find(&:wound_id)
      expect(gone.number).to eq named.first[/\d\z/].to_i
      expect(said("wood/bundles/#{bundle.id}")).to include("#{gone.number} 9 mm in the bridge of #{stem.label}")
    end

    it "lead to the bundle that is wanted: whole shoots of the tree's own, cut from it" do
      stem.update(variety_id: variety(here, "Amber").id)
      get "/o/#{here.slug}/wood/bundles/new?bridge=#{wound.id}"
      form = Nokogiri::HTML(last_response.body)
      fields = %w[whole_shoots tree variety].map { |name| form.at_css("[name=#{name}]") }
      expect([fields[0]["checked"].nil?, fields[1]["value"], fields[2].at_css("[selected]").text])
        .to eq [false, stem.label, "Amber"]
    end

    it "ask for margins until it is repaired, and not of a stem that is gone" do
      Vestry::DB[:wound_margins].where(wound_id: wound.id).delete
      wound.update(course: "cut-back")
      expect(said).to include "Its margins are not measured yet. Call them out round the trunk"
      log(course: "cut-back", left: "0")
      expect(said).to include("Its margins were not measured.").and(satisfy { |text| !text.include?("Call them out") })
    end

    it "lead from a stem that was cut to the log of the graft on its stump, which is followed there" do
      own = variety(here, "Amber")
      stem.update(variety_id: own.id)
      limb(stem, "A", fork_mm: 600)
      wound.update(course: "stump-graft")
      log(course: "stump-graft", left: "0")
      expect(Nokogiri::HTML(last_response.body).text).to include "a stick is set on a stump that stands above the soil"
      log(course: "stump-graft", left: "140")
      expect(said).to include "log its graft on S, that it is followed."
      link = @page.at_xpath("//a[normalize-space()='Log the graft on the stump']")["href"]
      stump = Vestry::Records::Limb.first(tree_id: stem.id, tag: "S")
      page = "graft/limbs/#{stump.id}"
      # As thick where it was cut as at the wound, or hardly less: 90 mm round, 28 mm across.
      expect([link[/\A[^?]+/], stump.length_mm.to_i, stump.outer_at_mm.to_i, stump.outer_mm.to_f])
        .to match ["/o/#{here.slug}/#{page}", 140, 140, be_within(0.06).of(90 / Math::PI * 0.97)]
      get link
      asked = Nokogiri::HTML(last_response.body)
      shown = asked.at_css("[name=variety] option[selected]").text
      expect([*%w[grafted_on cut stub].map { |name| asked.at_css("[name=#{name}]")["value"] }, shown])
        .to match [(World::TODAY - 30).iso8601, "140 mm", "28 mm", /Amber/]
      expect(asked.at_css("[name=sticks]")["value"].to_i).to be >= 1
      get "/o/#{here.slug}/survey/trees/#{stem.id}"
      expect(last_response.body).to include "What stands is the leader alone."
      expect(Nokogiri::HTML(last_response.body).css("svg.elevation .leaf")).to be_empty
      get "/o/#{here.slug}/#{page}?grafted_on=never&variety=999999999999999999999x"
      expect(last_response.status).to eq 200
      said(page)
      post "/o/#{here.slug}/#{page}", authenticity_token: token, grafted_on: (World::TODAY - 30).iso8601,
                 variety: own.id, technique: "bark", cut: "140", stub: "29", sticks: "2", grafter: "Orla",
                 wrap: "stretch-tape", seal: "wax", cover: "tape-only", client_key: SecureRandom.uuid
      expect(Vestry::Records::Graft.where(limb_id: stump.id).count).to eq 1
      expect(said).to include("its graft is followed on S.", "its stem is cut")
      set = Vestry::Records::Graft.first(limb_id: stump.id)
      seen = lambda do |verdict, days|
        Vestry::Records::Visit.create(orchard_id: here.id, graft_id: set.id, seen_on: World::TODAY - days,
                                      verdict: verdict, seen_by: "Orla")
        said
      end
      expect(seen["took", 1]).to include "its graft on S took."
      expect(seen["failed", 0]).to include "its graft on S was lost."
      expect(said("survey/trees/#{stem.id}")).to include "Limb S"
    end

    # A trunk of 191 mm is too thick for a bark graft, and one whose graft stands has nothing left to plan.
    it "log the graft on a thick stump as the form begins, and speak of it on its tree's pages before and after" do
      wound.update(course: "stump-graft", girth_mm: 600)
      stem.update(variety_id: variety(here, "Amber").id)
      log(course: "stump-graft", left: "300")
      asked = "A1 was grafted on the stump: log its graft on S, that it is followed."
      stump = Vestry::Records::Limb.first(tree_id: stem.id, tag: "S")
      pages = ["survey/trees/#{stem.id}", "plan/trees/#{stem.id}", "graft/limbs/#{stump.id}", "repair/#{wound.id}"]
      expect(pages.map { |page| said(page)[asked] }).to eq [asked] * 4
      get @page.at_xpath("//a[normalize-space()='Log the graft on the stump']")["href"]
      form = Nokogiri::HTML(last_response.body).css("form").find { |each| each.at_css("[name=technique]") }
      fields = FormFields.fields(form)
      post form["action"], fields
      made = Vestry::Records::Graft.first(limb_id: stump.id)
      expect(made).to have_attributes(stub_mm: be_within(1).of(185), technique: "inlay")
      expect(said(pages.first)).to include "A1: 1 limb grafted."
      limb(stem, "T", fork_mm: 100)
      expect(said(pages.first)).to include "A1: 1 limb grafted; of 1 limb nothing is decided."
    end

    it "ask for no plan of a tree on whose every limb a graft was made" do
      expect([stem.label, said("survey")[/A1 has no limbs surveyed yet/]]).to eq ["A1", "A1 has no limbs surveyed yet"]
      set = graft(limb(stem, "S"))
      expect(said("survey")).to include "No tree is left to be planned; the year's work is at Tend."
      limb(stem, "T", fork_mm: 100)
      expect(said("survey")).to include "A1 has no plan yet"
      Vestry::Deeds::Hide.call(set, by: "Orla")
      expect(said("survey/trees/#{stem.id}")).to include "A1 has no plan: choose a limb to be worked."
    end
  end

  it "take bearings in degrees from 0 to 360 and as points of the compass" do
    form = Vestry::Web::Contracts::LogRepairForm
    expect(form.bearings("0, NE;90° 360")).to eq [0.0, 45.0, 90.0, 0.0]
    %w[360.5 -1 north-ish].each do |word|
      expect { form.bearings("10 #{word}") }.to raise_error(Vestry::Deeds::Refused, /“#{word}” is no bearing/)
    end
  end
end
