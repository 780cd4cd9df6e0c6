# frozen_string_literal: true

require "rack/test"

# The trunk itself above its last limb, grafted like a limb.
RSpec.describe "A leader as the stock itself" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(school: "bark") }
  let(:owner) { tree(here, form: "central-leader", height_mm: 4200, trunk_girth_mm: 400) }

  def send_form(path, **fields)
    get "/o/#{here.slug}/survey"
    post "/o/#{here.slug}/survey/#{path}", fields.merge(authenticity_token: token)
    @said = Nokogiri::HTML(last_response.body).text.squeeze(" \n")
  end

  def lines(text) = send_form("trees/#{owner.id}/lines", lines: text, what: "keep")
  def leader = Vestry::Records::Limb.first(tree_id: owner.id, leader: true)

  before { enter person(steward: here) }

  it "may begin at the soil, as a stump does, and is drawn" do
    lines("S leader girth 70 long 150 from 0")
    get "/o/#{here.slug}/survey/trees/#{owner.id}"
    expect([last_response.status, last_response.body]).to match [200, include("Limb S: 70 mm round, the leader")]
  end

  it "may begin anew where the leader that stood is gone" do
    lines("S leader girth 120 long 1 m from 2 m")
    lines("T leader girth 120 long 1 m from 1.5 m")
    expect(@said).to include("the trunk").and include("S")
    expect(Vestry::Records::Limb.where(tree_id: owner.id, tag: "T").count).to eq 0
    leader.update(gone_on: World::TODAY - 1)
    lines("T leader girth 120 long 1 m from 1.5 m")
    expect(Vestry::Records::Limb.where(tree_id: owner.id, tag: "T").count).to eq 1
  end

  it "is read from a line, stands upright on the trunk, and is as long as the tree is high above it" do
    lines("A ne girth 180 from 1200\nL leader girth 236 from 1800")
    expect([leader.rise_deg, leader.fork_height_mm, leader.length_mm, leader.tip_height_mm, leader.unmeasured])
      .to eq [90, 1800, 2400, 4200, [:length_mm]]
    figure = Vestry::Records::CoreInputs.figure_facts(owner, owner.limbs)
    expect(figure[:trunk]).to include(height_mm: 1800, top_mm: be_within(0.1).of(75.1))
    get "/o/#{here.slug}/survey/trees/#{owner.id}?limb=#{leader.id}"
    expect(last_response.body).to include("the trunk itself above there")
  end

  it "is sawn at a height up the trunk, and not so far from a fork" do
    lines("A ne girth 180 from 1200\nL leader girth 260 from 1200")
    Vestry::Deeds::DecideLimb.call(leader, { role: "work", technique: "rind", cut: 500.0, practice: "single",
                                             variety: variety(here).id, against_reason: "it stands so" },
                                   by: "Orla", season: 2026)
    get "/o/#{here.slug}/graft/stubs"
    expect(Nokogiri::HTML(last_response.body).at_css("p.saw").text.gsub(/\s+/, " ")).to eq "saw at 1.70 m up the trunk"
  end

  it "neither draws the head to a side nor is a nurse, and is cut like a limb above its nurses" do
    lines("A ne girth 180 from 800\nL leader girth 236 from 900\nL1 on L across 30 from 900\nL2 on L across 30 " \
          "from 1100")
    low = owner.limbs.select { |limb| limb.tag.match?(/L\d/) }
    head = Vestry::Records::CoreInputs.head(owner.refresh)
    expect(head[:candidates].fetch(leader.id)[:role]).to eq "work"
    sides = [{ share: 0.7, bearing_deg: nil }, { share: 0.3, bearing_deg: 45 }]
    expect(Vestry::Core::Survey::Head.balance(sides)).to include(lean: be_within(1e-9).of(0.3), upright: 0.7)
    low.each { |limb| Vestry::Deeds::DecideLimb.call(limb, { role: "nurse" }, by: "Orla", season: 2026) }
    expect(Vestry::Records::CoreInputs.cut_point(leader.refresh, "bark")[:from_mm]).to eq 1400
  end

  it "is one, on the trunk, with nothing of the trunk above where it begins" do
    lines("A ne girth 180 from 1200\nL leader girth 236 from 1100")
    expect(leader).to be_nil
    lines("L leader girth 236 from 1800\nM leader girth 200 from 1900\nB s girth 180 from 2000\nN ne leader girth 90")
    expect(owner.refresh.limbs.map(&:tag)).to eq %w[A L]
    expect(@said).to include("has a leader already: L", "say that it grows on L",
                                 "is the trunk itself, and neither points anywhere")
    send_form("limbs/#{owner.limbs.first.id}", girth: "180", fork: "1900", leader: "false", version: "1")
    expect(@said).to include("say that it grows on L")
    send_form("limbs/#{owner.limbs.first.id}", girth: "180", fork: "1200", leader: "true", version: "1")
    expect(@said).to include("has a leader already: L")
  end

  it "may begin where a limb leaves the trunk, and not below it" do
    lines("A ne girth 180 from 1800\nL leader girth 236 from 1799")
    expect(leader).to be_nil
    lines("L leader girth 236 from 1800")
    expect(leader.fork_height_mm).to eq 1800
  end

  it "is one too where two people add it at once" do
    two = Array.new(2) do |n|
      Thread.new do
        Vestry::Deeds::SurveyLimbs.call(owner, [{ tag: "L#{n}", girth_mm: 236, fork_mm: 1800, leader: true }],
                                        by: "Orla", today: World::TODAY)
      rescue Vestry::Deeds::Refused => e
        e.errors
      end
    end.map(&:value)
    expect(two.grep(Hash).size).to eq 1
  end

  it "comes in from a table, which says the line of what cannot be" do
    owner
    table = ->(rows) { "tree,tag,parent,fork_mm,girth_mm,leader\n#{rows}" }
    read = ->(rows) { Vestry::Records::TreeFile.new(here, "limbs", table[rows], today: World::TODAY) }
    expect(read["A1,L,,1800,236,yes\nA1,M,,1900,200,yes\nA1,B,,2000,180,no\nA1,C,L,300,90,maybe\n"].faults
      .map { |fate| [fate.line, fate.fault] })
      .to eq [[3, "column leader: A1 has a leader already, A1 L"],
              [4, "column fork_mm: the trunk is the leader L there; its parent is L"],
              [5, "column leader: “maybe” is not yes or no"]]
    # What was wrong before stays what is wrong; what names its parent, and the leader itself, are where they may be.
    expect(read["A1,L,,1800,236,yes\nA1,D,,2100,wide,no\nA1,E,L,2200,90,no\n"].faults
      .map { |fate| [fate.line, fate.fault] }).to match [[3, /\Acolumn girth_mm/]]
    read["A1,L,,1800,236,yes\nA1,A,,1200,180,\n"].write
    expect(owner.refresh.limbs.map { |limb| [limb.tag, limb.leader] }).to eq [["A", false], ["L", true]]
  end
end
