# frozen_string_literal: true

# A phone whose session has ended, whose line is slow or hangs, whose pages are of another day.
RSpec.describe "A phone and its line", :keeps_pages do
  include OwnLine

  let!(:here) { demo }
  let(:gus) { person("Gus Grafter", grafter: here) }
  let(:stack) { Vestry::Web::Stack.build }
  let(:stub) { Vestry::Records::DaySheet.new(here, World::TODAY, World::TODAY).cards.first.limb }
  # What is done with a request before it is answered.
  let(:line) { {} }

  before do
    page.current_window.resize_to(390, 844)
    @held = Queue.new
    serve_line method(:carried), threads: 8
    sign_in gus
    visit "/o/maunder-hill/graft/limbs/#{stub.id}"
    expect(page).to have_css("html[data-kept='yes']", wait: 60)
  end

  after { @held&.close }

  attr_reader :held

  # A request over the line, as its mood has it. All the day's pages in one answer would keep the server busy.
  def carried(env)
    return [503, {}, []] if env["PATH_INFO"].end_with?("/graft/pocket")

    line[:before]&.call(env)
    instead = line[:instead]&.call(env)
    return instead if instead

    stack.call(env).tap { line[:after]&.call(env) }
  end

  def kept
    page.evaluate_async_script("const done = arguments[0]; caches.open('vestry-pages-2').then((store) => " \
                               "store.keys()).then((keys) => done(keys.map((key) => new URL(key.url).pathname + new " \
                               "URL(key.url).search)));")
  end

  def until_kept(path)
    page.document.synchronize(20) { kept.include?(path) || raise(Capybara::ElementNotFound, "#{path} is not kept") }
  end

  def log
    fill_in "Stub across", with: "50"
    find("button", text: "Log this graft").click
  end

  it "leads to sign-in where the session has ended, from pages that are kept" do
    until_kept "/o/maunder-hill/graft/limbs/#{stub.id}"
    Vestry::DB[:account_active_session_keys].delete
    ["/graft/sheet", "/slip/walk?row=B", "/graft/limbs/#{stub.id}"].each do |path|
      visit "/o/maunder-hill#{path}"
      expect(page).to have_button("Sign in")
    end
  end

  it "says at once that a deed is kept where the line hangs, and keeps it once however often it is pressed" do
    line[:before] = ->(env) { @held.pop if env["PATH_INFO"] == "/token" }
    log
    expect(page).to have_css("#outbox", text: "1 entry is kept on this phone", wait: 2)
    find("button", text: "Log this graft").click
    line[:before] = nil
    4.times { @held << true }
    expect(page).to have_content("Aftercare")
    expect(Vestry::Records::Graft.where(grafted_on: World::TODAY, limb_id: stub.id).count).to eq 1
  end

  # So many bytes a second each way, each answer after a while; -1 is as many as there are.
  def slow_line(bytes, latency: 500)
    page.driver.browser.page.command("Network.emulateNetworkConditions", offline: false, latency: latency,
                                                                         downloadThroughput: bytes,
                                                                         uploadThroughput: bytes)
  end

  # How long after each press of a flap the next stub stood there, in ms.
  def time_presses
    page.execute_script(<<~JS)
      window.took = [];
      let pressed = null;
      document.addEventListener("click", (event) => { if (event.target.closest(".lifts button")) pressed = performance.now(); }, true);
      new MutationObserver(() => { if (pressed !== null) { window.took.push(performance.now() - pressed); pressed = null; } })
        .observe(document.querySelector(".hand-walk"), { attributes: true, attributeFilter: ["hidden"], subtree: true });
      document.querySelectorAll("[data-hold]").forEach((form) => { form.dataset.hold = "0.1"; });
    JS
  end

  { "hangs" => ->(spec) { spec.line[:before] = ->(env) { spec.held.pop if env["PATH_INFO"] == "/token" } },
    "refuses" => ->(spec) { spec.line[:before] = ->(env) { raise Errno::ECONNRESET if env["PATH_INFO"] == "/token" } },
    "carries 15 kB a second" => ->(spec) { spec.slow_line(15_000) },
    "loses its answers" => lambda do |spec|
      lost = 0
      spec.line[:after] = ->(env) { raise Errno::ECONNRESET if env["REQUEST_METHOD"] == "POST" && (lost += 1) < 3 }
    end }.each do |mood, make|
    it "answers a press without waiting for a line that #{mood}, and doubles and loses nothing" do
      cards = Vestry::Records::DaySheet.new(here, World::TODAY, World::TODAY).cards.first(3)
      visit "/o/maunder-hill/graft/stubs"
      expect(page).to have_css("article.stop", count: 1)
      time_presses
      make.call(self)
      cards.each do |card|
        find("button[aria-label='Set: #{card.limb.label}']").click
        click_button "cleanly"
        expect(page).to have_no_css("article.stop h2", text: /\A#{card.limb.label} /)
      end
      expect(now("window.took").size).to eq 3
      # Half of what the outbox waits for a line, however busy the machine is.
      expect(now("window.took").max).to be < 4000
      line.clear
      8.times { @held << true }
      3.times { page.execute_script("window.dispatchEvent(new Event('online'))") }
      expect(page).to have_no_css("[data-outbox-line]", text: "waiting")
      slow_line(-1, latency: 0)
      expect(Vestry::Records::Graft.where(grafted_on: World::TODAY).select_order_map(:limb_id))
        .to eq cards.map { |card| card.limb.id }.sort
    end
  end

  it "goes past a deed that breaks or is too large, keeps it, and sends the others" do
    other = Vestry::Records::DaySheet.new(here, World::TODAY, World::TODAY).cards[1].limb
    line[:before] = ->(env) { raise Errno::ECONNRESET if env["PATH_INFO"] == "/token" }
    log
    visit "/o/maunder-hill/graft/limbs/#{other.id}"
    log
    expect(page).to have_css("#outbox", text: "2 entries are kept")
    status = 500
    line[:before] = nil
    line[:instead] = lambda do |env|
      [status, { "content-type" => "text/html" }, ["broken"]] if env["REQUEST_METHOD"] == "POST" &&
        env["PATH_INFO"].end_with?("/limbs/#{stub.id}")
    end
    click_button "Send now"
    expect(page).to have_css("#outbox", text: "1 entry is kept")
    expect(Vestry::Records::Graft.where(grafted_on: World::TODAY).select_map(:limb_id)).to eq [other.id]
    status = 413
    click_button "Send now"
    expect(page).to have_content("was not taken: it is more than can be taken.")
  end

  it "sends by itself what waits, once a line that refused carries again" do
    line[:before] = ->(env) { raise Errno::ECONNRESET if env["PATH_INFO"] == "/token" }
    log
    expect(page).to have_css("#outbox", text: "1 entry is kept on this phone")
    line.clear
    expect(page).to have_no_css("#outbox")
    expect(Vestry::Records::Graft.where(grafted_on: World::TODAY).select_map(:limb_id)).to eq [stub.id]
  end

  it "shows under an address the row that was asked for, and no other" do
    visit "/o/maunder-hill/slip/walk?row=A"
    until_kept "/o/maunder-hill/slip/walk?row=A"
    cut_line
    visit "/o/maunder-hill/slip/walk?row=B"
    expect(page).to have_content("There is no signal, and this page is not among those that are kept here")
    visit "/o/maunder-hill/slip/walk?row=A"
    expect(page).to have_content("A1")
  end

  it "says where a stub's page is of the plan and not of what was asked, and writes that into its form" do
    page_of = "/o/maunder-hill/graft/limbs/#{stub.id}"
    ["", "/cuts", "/different"].each do |each|
      visit "#{page_of}#{each}"
      until_kept "#{page_of}#{each}"
    end
    cut_line
    visit "#{page_of}/cuts?technique=cleft&stub=33mm"
    expect(page).to have_css("#not-as-asked", text: "This page is of what was planned")
    visit "#{page_of}/cuts"
    expect(page).to have_css("h1.now").and have_no_css("#not-as-asked")
    visit "#{page_of}?technique=cleft&stub=33+mm&sticks=1"
    expect(page).to have_css("#not-as-asked", text: "What you asked for is written into the form")
    expect(%w[technique stub sticks].map { |name| now("document.querySelector('#log-form [name=#{name}]').value") })
      .to eq ["cleft", "33 mm", "1"]
  end

  it "dims what it cannot work out any more, and keeps what was typed" do
    visit "/o/maunder-hill/graft/limbs/#{stub.id}/different"
    until_kept "/o/maunder-hill/graft/limbs/#{stub.id}/different"
    fill_in "It tore, so far below the cut", with: "90 mm"
    expect(page).to have_css("#what-now .answer").and have_no_css(".stale")
    line[:before] = ->(env) { raise Errno::ECONNRESET if env["PATH_INFO"].end_with?("/different") }
    # By the form that is in the hand: a press may have brought it into sight.
    stands = lambda do
      answer = box("#what-now .answer")
      [answer["top"] - box("form[data-draws]")["top"], answer["height"]]
    end
    before = stands.call
    choose "will not lift"
    expect(page).to have_css("#what-now.stale")
    # Nothing moves under the hand.
    expect(stands.call).to eq before
    click_button "What now?"
    expect(page).to have_css("#what-now.stale .stale-words", text: "this is of what stood here before")
    expect(page).to have_field("It tore, so far below the cut", with: "90 mm").and have_checked_field("will not lift")
    line.clear
    click_button "What now?"
    expect(page).to have_css("#what-now .answer").and have_no_css(".stale")
    expect(page).to have_current_path(/lifts=no/)
  end

  it "writes the day it is, and not the day on which the page was kept" do
    visit "/o/maunder-hill/graft/limbs/#{stub.id}"
    made = page.evaluate_script("document.documentElement.dataset.made")
    expect(Time.iso8601(made)).to be_within(300).of(Time.now)
    yesterday = page.evaluate_async_script(<<~JS)
      const done = arguments[0];
      fetch(location.href).then((answer) => answer.text()).then(async (html) => {
        const old = html.replace(/data-made="[^"]+"/, `data-made="${new Date(Date.now() - 86400000).toISOString()}"`);
        const store = await caches.open("vestry-pages-2");
        await store.put(location.href, new Response(old, { headers: { "content-type": "text/html; charset=utf-8" } }));
        done(true);
      });
    JS
    expect(yesterday).to be true
    cut_line
    visit "/o/maunder-hill/graft/limbs/#{stub.id}"
    expect(page).to have_field("Day", with: (World::TODAY + 1).iso8601)
  end

  # The line carries again: what waited is sent, is refused, and its form is opened as it was typed.
  def open_refused(why, form)
    expect(page).to have_css("#outbox", text: "1 entry is kept")
    line[:before] = nil
    click_button "Send now"
    expect(page).to have_content("was not taken: #{why}")
    click_link "Open its form, as it was typed"
    expect(page).to have_css("#{form} .error[role=alert]", text: "It was not taken")
  end

  it "opens a deed that was refused with everything that was typed, and why" do
    line[:before] = ->(env) { raise Errno::ECONNRESET if env["PATH_INFO"] == "/token" }
    fill_in "Weather", with: "still, 14 degrees"
    fill_in "Stub across", with: "3 mm"
    find("button", text: "Log this graft").click
    open_refused "Rind graft works from 25 mm", "form"
    expect([find_field("Weather").value, find_field("Stub across").value]).to eq ["still, 14 degrees", "3 mm"]
    fill_in "Stub across", with: "50 mm"
    find("button", text: "Log this graft").click
    expect(page).to have_content("Aftercare")
    expect(page).to have_no_css("#outbox")
    expect(Vestry::Records::Graft.where(limb_id: stub.id, grafted_on: World::TODAY).select_map(:conditions))
      .to eq ["still, 14 degrees"]
  end

  it "has what was pressed on a drawing again, too, when a visit was refused" do
    graft = Vestry::Records::Agenda.new(here, World::TODAY).due.map(&:of)
      .find { |each| each.is_a?(Vestry::Records::Graft) && each.kind == "stub" && each.sticks == 2 }
    visit "/o/maunder-hill/tend/grafts/#{graft.id}"
    line[:before] = ->(env) { raise Errno::ECONNRESET if env["PATH_INFO"] == "/token" }
    find("#union .stick-of[data-stick='2']").click
    find("summary", text: "In words").click if page.has_no_field?("Longest shoot", wait: 0)
    fill_in "Longest shoot", with: "90 m"
    find("#visit-form .keep-bar button:last-child").click
    open_refused "longest shoot", "#visit-form"
    expect(page).to have_css("#union .stick-of.is-dead", count: 1)
    fill_in "Longest shoot", with: "90 mm"
    find("#visit-form .keep-bar button:last-child").click
    expect(page).to have_css("#answer", text: "What the visit of 18 May means")
    expect(Vestry::Records::Visit.where(graft_id: graft.id).order(:id).last)
      .to have_attributes(sticks_alive: 1, longest_shoot_mm: 90)
  end
end
