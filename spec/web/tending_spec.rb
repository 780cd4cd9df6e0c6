# frozen_string_literal: true

require "icalendar"
require "rack/test"

RSpec.describe "The agenda" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let!(:orla) { person(steward: here) }

  before { enter orla }

  def page = last_response.body
  def settle(**fields)
    get "/o/maunder-hill/tend"
    post "/o/maunder-hill/tend/tasks", fields.merge(authenticity_token: token)
    last_response.status
  end

  def ticks = get("/o/maunder-hill/tend").body.scan(/name="tasks\[\]" value="([^"]+)"/).flatten

  def page_options(name)
    get("/o/maunder-hill/tend").body[/<select id="#{name}".*?<\/select>/m].scan(/value="([^"]+)"/).flatten
  end

  it "says of a graft that is left to knit when it is looked at first, and of an old one that nobody knows" do
    stock = tree(here, row: "Z", number: 1, species: "walnut")
    made = graft(limb(stock), variety_id: variety(here, "Late Shell", species: "walnut").id,
                              grafted_on: World::TODAY - 27)
    head = lambda do |day|
      allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
      get("/o/maunder-hill/tend/grafts/#{made.id}").body[%r{<h1[^>]*>(.*?)</h1>}m, 1].squeeze(" \n").tr("\n", " ")
    end
    expect(head[World::TODAY]).to match(/\AZ1 A, grafted with Late Shell on 21 April, is left to knit: first look f/)
    expect(head[World::TODAY + 300]).to end_with "has not been seen to take: look as you pass."
  end

  it "asks for nothing at a graft that went with its limb, or was cut off for another" do
    stock = tree(here, row: "Z", number: 1)
    made = graft(limb(stock), grafted_on: Date.new(2026, 4, 21), cut_mm: 1200)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 5, 16),
                                  verdict: "took", buds: "leafing", seen_by: "Orla")
    told = lambda do
      text = get("/o/maunder-hill/tend/grafts/#{made.id}").body
      { head: text[%r{<h1[^>]*>(.*?)</h1>}m, 1].split.join(" "), wants: text.match?(/<li class="(?:late|open|ahead)"/),
        visit: text.include?("Record this visit"), growing: text.include?("From now on wind") }
    end
    name = made.variety.name
    expect(told.call).to include(wants: true, visit: true, growing: true)
    settled = { wants: false, visit: false, growing: false }
    Vestry::DB.transaction(rollback: :always, savepoint: true) do
      made.limb.update(gone_on: World::TODAY)
      expect(told.call).to eq(head: "Z1 A, #{name} since 21 April, came off on 18 May.", **settled)
      expect(get("/o/maunder-hill/tend/grafts/#{made.id}/tidy")).to be_redirect
    end
    graft(Vestry::Records::Limb[made.limb_id], grafted_on: World::TODAY, cut_mm: 600)
    expect(told.call).to eq(head: "Z1 A, #{name} since 21 April, was cut off on 18 May, and grafted anew.", **settled)
  end

  it "leads to where a dead graft is planned again instead of asking whether that was done" do
    hill = orchard(name: "Barrow", slug: "barrow")
    made = graft(limb(tree(hill)), grafted_on: World::TODAY - 30)
    Vestry::Records::Visit.create(orchard_id: hill.id, graft_id: made.id, seen_on: World::TODAY - 2, buds: "dead",
                                  verdict: "failed")
    clear_cookies
    enter person("Hanna Sorrel", steward: hill)
    acts = lambda do |path, where|
      get "/o/#{hill.slug}/#{path}"
      Nokogiri::HTML(page).css("#{where} a, #{where} button").map { |each| [each.text.strip, each["href"]] }
    end
    way = ["Plan it again", "/o/#{hill.slug}/tend/grafts/#{made.id}#again"]
    expect([acts["tend", ".walk-acts"], acts["tend/stops", "article.stop .thumb"], acts["tend", "td.settle"]])
      .to eq [[way, ["Not today", nil]], [["Not today", nil], way], [way]]
    get way[1]
    expect(Nokogiri::HTML(page).at_css("#again button").text).to eq "Plan it again: plan, wood and day"
  end

  it "says of what is planned again whether there is wood for it" do
    hill = orchard(name: "Barrow", slug: "barrow")
    kind = variety(hill, "Amber")
    clear_cookies
    enter person("Hanna Sorrel", steward: hill)
    said = %w[A B].map do |tag|
      if tag == "B"
        Vestry::Deeds::MakeBundle.call(hill, { variety: kind.id, source: "a neighbour", diameters: [7.0] * 20,
                                               cut_on: World::TODAY - 90,
                                               checked: Vestry::Deeds::MakeBundle::CHECKS.keys },
                                       by: "Hanna", today: World::TODAY)
      end
      made = graft(limb(tree(hill)), grafted_on: World::TODAY - 30, variety_id: kind.id)
      Vestry::Records::Visit.create(orchard_id: hill.id, graft_id: made.id, seen_on: World::TODAY - 2,
                                    verdict: "failed")
      get "/o/#{hill.slug}/tend/grafts/#{made.id}"
      post "/o/#{hill.slug}/tend/grafts/#{made.id}/regraft", authenticity_token: token
      follow_redirect!
      page[/is to be worked again in 2026, [^<]+/][/There is [^.]+[.]/]
    end
    expect(said).to eq ["There is too little wood of it: see Wood.", "There is wood for it."]
  end

  it "leads from each graft that is due to the one after it, and from the last to none" do
    due = Vestry::Records::Agenda.new(here, World::TODAY).due.map(&:of).grep(Vestry::Records::Graft).uniq(&:id)
    leads = lambda do |graft|
      get("/o/maunder-hill/tend/grafts/#{graft.id}").body[/Record, and on to\s+([^<]+?)</, 1]&.split&.join(" ")
    end
    expect([due[0], due[1], due.last].map(&leads)).to eq [due[1].limb.label, due[2].limb.label, nil]
  end

  it "settles many at once, or none of them" do
    three = ticks.first(3)
    expect(settle(tasks: [*three.first(2), "graft:999999:first-look"], what: "done")).to eq 404
    expect(settle(tasks: three, what: "burnt")).to eq 422
    expect(settle(what: "done")).to eq 422
    expect(page).to include("Tick at least one task.")
    expect(settle(tasks: three, what: "put-off", until_on: "2026-06-01")).to eq 422
    expect(page).to include("Say why it is put off.")
    expect(ticks).to include(*three)
    expect(settle(tasks: three, what: "put-off", until_on: "2026-06-01", why: "mud")).to be_between(302, 303)
    expect(ticks & three).to eq []
    expect(settle(one: ticks.first, what: "done")).to be_between(302, 303)
    expect(Vestry::Records::TaskDone.in_sight.where(done_by: "Orla Finch",
                                                    done_on: World::TODAY).select_order_map(:what))
                                                      .to eq %w[done put-off put-off put-off]
  end

  it "says what was done on the next page, whatever is asked beside it" do
    get "/token"
    before = rack_mock_session.cookie_jar["vestry"]
    settle(tasks: ticks.first(2), what: "done")
    # The answer to a request made before arrives after: its session is the older one.
    set_cookie "vestry=#{Rack::Utils.escape(before)}"
    get "/o/maunder-hill/tend"
    expect(page).to include("2 tasks done.")
    get "/o/maunder-hill/tend"
    expect(page).not_to include("2 tasks done.")
  end

  it "asks for clean blades where something that is due is cut, in summer too" do
    cutting = ["Shorten the shoots", "Choose the strongest shoot", "Slit the tape", "Regraft or rescue",
               "Open its wrap if no bud moves"]
    said = ["", *page_options("row")].product(%w[season today]).map do |row, span|
      get "/o/maunder-hill/tend", row: row, span: span
      due = page[/id="due-h".*?<\/section>/m].scan(/<summary>([^<]+)/).flatten
      [page.include?("sap on a blade"), cutting.intersect?(due)]
    end
    expect(said.uniq).to contain_exactly [false, false], [true, true]
  end

  it "shows one person's, one row's, and says so in the address" do
    get "/o/maunder-hill/tend?who=Tam+Reddaway&row=B&span=week"
    expect(page.scan(/value="(graft:\d+)/).size).to be_positive
    expect(page).to include('<option value="Tam Reddaway" selected', '<option value="B" selected')
    get "/o/maunder-hill/tend?who=%3Cscript%3E&page=99999999999999999999"
    expect(last_response.status).to eq 200
  end

  it "gives a calendar a secret address that can be revoked" do
    get "/o/maunder-hill/tend/calendar"
    post "/o/maunder-hill/tend/calendar", authenticity_token: token
    address = page[%r{/calendar/[\w-]+\.ics}]
    expect(Vestry::DB[:calendar_keys].get(:digest)).not_to include address[%r{calendar/(.*)\.ics}, 1]
    clear_cookies
    get address
    events = Icalendar::Calendar.parse(page).first.events
    expect(last_response.headers["content-type"]).to start_with "text/calendar"
    expect(events.map { |event| event.summary.to_s }).to include("C10: Rub the buds off the scions",
        a_string_matching(/\AA\d+ [A-Z]: First look\z/))
    expect(events.map { |event| event.uid.to_s }.uniq.size).to eq events.size
    expect(events.map { |event| event.transp.to_s }.uniq).to eq ["TRANSPARENT"]
    same, tag = page, last_response.headers["etag"]
    get address
    expect(page).to eq same
    get address, {}, "HTTP_IF_NONE_MATCH" => tag
    expect(last_response.status).to eq 304
    told = events.find { |event| event.uid.to_s.start_with?("graft-") }
    graft = Vestry::Records::Graft[told.uid.to_s[/graft-(\d+)/, 1].to_i]
    Vestry::Records::Visit.create(orchard_id: graft.orchard_id, graft_id: graft.id, seen_on: World::TODAY,
                                  buds: "asleep")
    get address
    events = Icalendar::Calendar.parse(page).first.events
    after = events.find { |event| event.uid.to_s.start_with?("graft-#{graft.id}-") }
    expect(after.sequence.to_i).to be > told.sequence.to_i
    get "/calendar/#{'x' * 32}.ics"
    expect(last_response.status).to eq 404
    enter orla
    get "/o/maunder-hill/tend/calendar"
    post "/o/maunder-hill/tend/calendar/revoke", authenticity_token: token
    get address
    expect(last_response.status).to eq 404
  end

  it "no longer opens a calendar to someone who has left" do
    token = Vestry::Deeds::ShareCalendar.call(here, person("Tam Reddaway", grafter: here))
    get "/calendar/#{token}.ics"
    expect([last_response.status, page.include?("BEGIN:VEVENT")]).to eq [200, true]
    Vestry::Records::Membership.where(role: "grafter").update(hidden_at: Time.now)
    get "/calendar/#{token}.ics"
    expect(last_response.status).to eq 404
  end

  it "keeps a loss with its cause, and names what can be" do
    graft = here.grafts_dataset.first(grafted_on: Date.new(2026, 4, 21))
    send_loss = lambda do |**fields|
      get "/o/maunder-hill/tend/grafts/#{graft.id}"
      post "/o/maunder-hill/tend/grafts/#{graft.id}/loss", fields.merge(authenticity_token: token)
      last_response.status
    end
    expect(send_loss.call(lost_on: "soon", lost_cause: "pest")).to eq 422
    expect(page).to include("is a day, such as 2026-05-18")
    expect(send_loss.call(lost_on: "2026-05-10", lost_cause: "bored")).to eq 422
    expect(send_loss.call(lost_on: "2026-05-10", lost_cause: "browsed", lost_note: "<b>deer</b>"))
      .to be_between(302, 303)
    get "/o/maunder-hill/tend/grafts/#{graft.id}"
    expect(page).to include("Lost on 10 May: browsed.", "&lt;b&gt;deer")
  end


  it "shows what falls due on the last day of a span, and nothing after it" do
    agenda = lambda do |within|
      Vestry::Records::Agenda.new(here, World::TODAY, within: within).due.map { |each| each.task[:due_on] }
    end
    last = agenda[7].max
    days = (last - World::TODAY).to_i
    expect(days).to be_between(1, 7)
    expect([agenda[days].max, agenda[days - 1].max < last]).to eq [last, true]
  end

  it "shows a trunk's tasks that fall due on the last day of a span" do
    trunks = lambda do |within|
      Vestry::Records::Agenda.new(here, World::TODAY, within: within).due.select(&:wound?)
        .map { |each| each.task[:due_on] }
    end
    coming = trunks[nil].select { |day| day > World::TODAY }.min
    days = (coming - World::TODAY).to_i
    expect([trunks[days].include?(coming), trunks[days - 1].include?(coming)]).to eq [true, false]
  end

  it "leads from a bud that is asked for to its log, as a bud in a young shoot" do
    day = Date.new(2026, 8, 20)
    allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
    made = graft(limb(tree(orchard)))
    Vestry::Records::Visit.create(orchard_id: made.orchard_id, graft_id: made.id, seen_on: Date.new(2026, 8, 10),
                                  verdict: "failed", seen_by: "Orla")
    clear_cookies
    enter person("Greta", steward: made.orchard)
    address = "/o/#{made.orchard.slug}/graft/limbs/#{made.limb_id}?technique=chip-bud&sticks=1&stub=9+mm"
    told = ["tend", "tend/stops", "tend/grafts/#{made.id}"].map do |page|
      get "/o/#{made.orchard.slug}/#{page}"
      Nokogiri::HTML5(last_response.body).css("main a").select { |link| link.text.strip == "Log it" }
        .map { |link| link["href"] }.uniq
    end
    expect(told).to eq [[address]] * 3
    get address
    form = Nokogiri::HTML5(last_response.body)
    expect([form.at_css("[name=technique] option[selected]")["value"], form.at_css("[name=stub]")["value"]])
      .to eq ["chip-bud", "9 mm"]
  end
end
