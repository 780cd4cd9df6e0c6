# frozen_string_literal: true

require "rack/test"

# The long lists of a page, as each who may see them does.
RSpec.describe "A list on a page" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let(:kind) { variety(here) }
  let(:heavy) { limb(tree(here), girth_mm: 420) }
  let!(:row) do
    Vestry::Deeds::DecideLimb.call(heavy, { role: "work", technique: "rind", cut: 700.0, practice: "pair",
                                          variety: kind.id, against_reason: "for trial" }, by: "Orla", season: 2026)
  end
  let!(:orla) { person("Orla Finch", steward: here) }
  let!(:bram) { person("Bram Hale", steward: here) }
  let!(:tam) { person("Tam Reddaway", grafter: here) }
  let!(:vera) { person("Vera Wood", viewer: here) }

  before { row.update(long_cut_mm: 1400) }

  # A page as someone sees it, by a browser of their own.
  def page(account, path) = browser(account).get("/o/#{here.slug}/#{path}").body

  def browser(account)
    (@browsers ||= {})[account.id] ||= Rack::Test::Session.new(app).tap do |own|
      own.post("/sign-in", login: account.email, password: World::PASSWORD,
               authenticity_token: tokens(own.get("/sign-in").body).first)
    end
  end

  def list(account, path = "plan/cuts") = page(account, path)[/<table.*<\/table>/m]
  def tokens(html) = html.scan(/name="authenticity_token" value="([^"]*)"/).flatten

  it "says that there are more trees to plan only where there are" do
    more = [1, 2, 3].map do |page|
      stub_const("Vestry::Web::PlanView::PAGE", page)
      Vestry::Web::PlanView.new(Vestry::Records::Orchard[here.id], World::TODAY, {}).more?
    end
    tree(here)
    stub_const("Vestry::Web::PlanView::PAGE", 1)
    expect([more, Vestry::Web::PlanView.new(Vestry::Records::Orchard[here.id], World::TODAY, {}).more?])
      .to eq [[false, false, false], true]
  end

  it "carries the token of whoever looks, which their own session takes" do
    first = list(orla)
    second = list(bram)
    expect([tokens(first).size, tokens(second).size]).to eq [1, 1]
    expect(tokens(first)).not_to eq tokens(second)
    theirs = browser(bram).post("/o/#{here.slug}/plan/limbs/#{heavy.id}/headed",
                                authenticity_token: tokens(first).first)
    expect([theirs.status, row.reload.headed_on]).to eq [403, nil]
    own = browser(bram).post("/o/#{here.slug}/plan/limbs/#{heavy.id}/headed", authenticity_token: tokens(second).first)
    expect([own.status, row.reload.headed_by]).to eq [302, "Bram Hale"]
    expect(list(orla)).to include("by Bram Hale")
  end

  it "offers each only what they may do, whoever looked first" do
    expect(list(orla)).to include("Done today")
    expect(list(vera)).not_to include("Done today")
    expect(list(bram)).to include("Done today")
    Vestry::Records::Membership.first(account_id: orla.id).update(role: "viewer")
    expect(list(orla)).not_to include("Done today")
  end

  it "lets whoever has the saw say that a limb is cut long, and that it is not" do
    press = lambda do |**what|
      browser(tam).post("/o/#{here.slug}/plan/limbs/#{heavy.id}/headed",
                        authenticity_token: tokens(list(tam)).first, **what)
      row.reload.headed_by
    end
    expect([press.call, list(tam).include?("Take back"), press.call(what: "undo"), list(tam).include?("Done today")])
      .to eq ["Tam Reddaway", true, nil, true]
  end

  it "shows at once what was changed, in the orchard's units, and escapes what was typed" do
    list(orla)
    Vestry::DB[:limbs].where(id: heavy.id).update(damage: "<script>alert(1)</script>")
    expect(list(orla)).to include("&lt;script&gt;alert(1)")
    expect(list(orla)).not_to include("<script>")
    expect(list(orla)).to include("1.40 m")
    here.update(units: "imperial")
    expect(list(orla)).to include("4 ft 7 1/8 in")
    row.update(role: "nurse")
    expect(list(orla)).to be_nil
    expect(list(orla, "graft").to_s).not_to include(heavy.label)
  end

  it "says that a list is not the whole of it" do
    expect([page(orla, "plan/cuts"), page(orla, "graft")].join).not_to include("the rest come in")
    stub_const("Vestry::Records::PlannedRows::KINDS", { stubs: 1, waiting: 1, cuts: 1 })
    expect([page(orla, "plan/cuts"), page(orla, "graft")]).to all(include("These are the first 1; the rest come in"))
  end

  it "writes each grafter's own mark on the day's cards" do
    Vestry::Deeds::SettleCrew.fix(row, World::TODAY, by: "Orla Finch", today: World::TODAY)
    expect(page(orla, "graft/sheet")).to match(/your\s+mark OF/).and include(heavy.label)
    expect(page(tam, "graft/sheet")).to match(/your\s+mark TR/)
  end

  it "keeps a stick for a stub from the match, and lets it go again" do
    bundle = Vestry::Deeds::MakeBundle.call(here, { variety: kind.id, source: "row S", cut_on: Date.new(2026, 1, 16),
                                                    diameters: [9.0, 9.0, 9.0],
                                                    checked: Vestry::Deeds::MakeBundle::CHECKS.keys }, by: "Orla",
                                                    today: World::TODAY)
    stick = bundle.sticks.first
    html = page(tam, "wood/match")
    expect(html).to include(">hold for it</button>")
    press = ->(what) { browser(tam).post("/o/#{here.slug}/wood/match/#{what}",
                                         authenticity_token: tokens(page(tam, "wood/match")).first, plan_limb: row.id,
                                         stick: stick.id, page: 1).status }
    expect(press.call("keep")).to eq 302
    expect(page(tam, "wood/match")).to include(">let go</button>")
    expect(press.call("free")).to eq 302
    expect(page(tam, "wood/match")).not_to include(">let go</button>")
  end
end
