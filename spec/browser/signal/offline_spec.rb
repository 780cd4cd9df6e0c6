# frozen_string_literal: true

require "tmpdir"
require "vips"

RSpec.describe "Grafting without signal", :keeps_pages do
  include OwnLine

  let!(:here) { demo }
  let(:gus) { person("Gus Grafter", grafter: here) }

  # All the day's pages in one answer keep a server busy for seconds: they are given where they are asked about.
  def without_pocket(app)
    ->(env) { env["PATH_INFO"].end_with?("/graft/pocket") ? [503, {}, []] : app.call(env) }
  end

  # The application on a port of its own, to be stopped and started as signal comes and goes.
  def serve(app = Vestry::Web::Stack.build)
    app = without_pocket(app) unless RSpec.current_example.metadata[:pocket]
    serve_line app
  end

  # A short sheet, so that little has to be kept before signal goes.
  def leave_for_next_year
    later = Vestry::Records::DaySheet.new(here, World::TODAY, World::TODAY).cards.drop(6).map { |card| card.limb.id }
    Vestry::Records::PlanLimb.where(limb_id: later).update(season: 2027)
  end

  before do
    leave_for_next_year
    page.current_window.resize_to(390, 844)
    serve
    sign_in gus
  end

  def sheet = visit("/o/maunder-hill/graft/sheet")

  # Opens the sheet and waits until it and what it leads to are kept.
  def open_sheet
    sheet
    expect(page).to have_css("html[data-kept='yes']", wait: 60)
    wanted = all("a[data-keep]").size + 1
    kept = nil
    1200.times do
      kept = page.evaluate_async_script("const done = arguments[0]; caches.open('vestry-pages-2').then((store) => " \
                                        "store.keys()).then((keys) => done(keys.length));")
      break if kept >= wanted

      page.evaluate_async_script("setTimeout(arguments[0], 50)")
    end
    expect(kept).to be >= wanted
  end

  def log(limb, stub: "50")
    visit "/o/maunder-hill/graft/limbs/#{limb.id}"
    fill_in "Stub across", with: stub
    find("button", text: "Log this graft").click
  end

  def stubs = @stubs ||= Vestry::Records::DaySheet.new(here, World::TODAY, World::TODAY).cards.map(&:limb)
  def grafts = Vestry::Records::Graft.where(grafted_on: World::TODAY)

  it "logs five grafts without signal, closes the page, and finds each once when signal is back" do
    open_sheet
    cut_line
    sheet
    expect(page).to have_content("To carry")
    stubs.first(5).each_with_index do |limb, i|
      log(limb)
      expect(page).to have_content("#{i + 1} #{i.zero? ? 'entry is' : 'entries are'} kept on this phone")
    end
    expect(grafts.count).to eq 0

    other = page.open_new_window
    page.current_window.close
    page.switch_to_window(other)
    sheet
    expect(page).to have_content("5 entries are kept on this phone")

    serve
    click_button "Send now"
    expect(page).to have_no_css("#outbox")
    expect(grafts.select_map(:limb_id)).to match_array stubs.first(5).map(&:id)
    visit "/o/maunder-hill/graft"
    expect(page).to have_content(stubs.first.label)
  end

  it "keeps the page that is looked at, though a file of the application does not come three times over" do
    cut_line
    refused = 0
    inner = Vestry::Web::Stack.build
    serve(lambda do |env|
      # The worker asks for it as it is; a page asks with a digest.
      next inner.call(env) unless env.values_at("PATH_INFO", "QUERY_STRING") == ["/measure.js", ""] && refused < 3

      refused += 1
      [503, {}, []]
    end)
    sheet
    expect(page).to have_css("html[data-kept='yes']", wait: 60)
    expect(refused).to eq 3
    cut_line
    sheet
    expect(page).to have_content("To carry")
  end

  it "keeps the answer to an exercise that was opened, and has it judged when signal is back" do
    visit "/o/maunder-hill/practice/seat?level=1&seed=7"
    cut_line
    find("summary", text: "In words").click
    fill_in "in", with: "41"
    click_button "Leave it so"
    expect(page).to have_css("#outbox", text: "How far in, level 1")
    tries = -> { Vestry::Records::PracticeTry.where(account_id: gus.id).all }
    expect(tries.call).to eq []
    serve
    click_button "Send now"
    expect(page).to have_no_css("#outbox")
    expect(tries.call.map { |try| [try.exercise, try.answer["in_mm"]] }).to eq [["seat", 41.0]]
  end

  it "doubles nothing when the server dies between writing and answering" do
    open_sheet
    cut_line
    stubs.first(3).each_with_index do |limb, i|
      log(limb)
      expect(page).to have_content(/#{i + 1} (entry is|entries are) kept/)
    end

    # Writes the second deed, and dies before it can say so.
    inner = Vestry::Web::Stack.build
    deeds = 0
    serve(lambda do |env|
      answer = inner.call(env)
      env["REQUEST_METHOD"] == "POST" && (deeds += 1) == 2 ? [502, {}, []] : answer
    end)
    click_button "Send now"
    expect(page).to have_content("2 entries are kept")
    expect(grafts.count).to eq 2
    cut_line
    serve
    click_button "Send now"
    expect(page).to have_no_css("#outbox")
    expect(grafts.select_map(:limb_id)).to match_array stubs.first(3).map(&:id)
  end

  it "loses nothing that is refused: it says why, and keeps it until it is thrown away" do
    open_sheet
    cut_line
    log(stubs.first, stub: "3 mm")
    log(stubs[1])
    expect(page).to have_content("2 entries are kept")
    serve
    click_button "Send now"
    expect(page).to have_content("Graft on #{stubs.first.label} was not taken: Rind graft works from 25 mm")
    expect(grafts.select_map(:limb_id)).to eq [stubs[1].id]
    click_button "Throw away Graft on #{stubs.first.label}"
    expect(page).to have_no_css("#outbox")
  end

  it "goes past what the desk took away meanwhile, and says so" do
    open_sheet
    cut_line
    stubs.first(2).each { |limb| log(limb) }
    expect(page).to have_content("2 entries are kept")
    Vestry::Deeds::Hide.call(stubs.first, by: "Orla", why: "measured twice")
    serve
    click_button "Send now"
    expect(page).to have_content("Graft on #{stubs.first.label} was not taken: There is no such thing in this " \
                                 "orchard any more.")
    expect(grafts.select_map(:limb_id)).to eq [stubs[1].id]
  end

  it "sends straight away with signal, and shows at its field what is wrong" do
    log(stubs.first, stub: "3 mm")
    expect(page).to have_content("It can be kept with a reason")
    fill_in "Stub across", with: "50 mm"
    find("button", text: "Log this graft").click
    expect(page).to have_content("Aftercare")
    expect(grafts.count).to eq 1
    visit "/o/maunder-hill/slip/walk?row=B"
    find("button[aria-label='B5: bark slips']").click
    expect(page).to have_content("slips, seen 18 May")
  end

  it "opens every station, stub and graft that is due from the pocket, none of which was opened before",
     :pocket do
    visit "/o/maunder-hill/today"
    expect(page).to have_css("html[data-pocket]", wait: 60)
    cut_line
    due = Vestry::Records::Agenda.new(here, World::TODAY).due.reject(&:wound?).first.of
    { "survey" => "B12", "plan" => "Wood wanted", "wood" => "Wood 1", "slip" => "Apple", "slip/walk" => "A1",
      "graft/sheet" => "To carry", "tend" => "A2", "tend/grafts/#{due.id}" => due.limb.label, "tally" => "Row A",
      "repair" => "C10", "graft/limbs/#{stubs[2].id}/different" => "The stub is really",
      "graft/limbs/#{stubs[2].id}/cuts" => "What goes wrong" }.each do |path, words|
      visit "/o/maunder-hill/#{path}"
      expect(page).to have_content(words)
      expect(page).to have_css("h1.now")
    end
    visit "/t/#{stubs[1].code}"
    expect(page).to have_current_path("/o/maunder-hill/graft/limbs/#{stubs[1].id}")
    expect(page).to have_css("h1.now", text: stubs[1].label)
    visit "/o/maunder-hill/graft/sheet"
    click_link "Go stub by stub"
    expect(page).to have_css("article.stop h2", text: stubs.first.label)
  end

  it "surveys limbs without signal on a tree that was never opened, each kept once", :pocket do
    last = here.trees_dataset.order(:row, :number).last
    visit "/o/maunder-hill/today"
    expect(page).to have_css("html[data-pocket]", wait: 60)
    cut_line
    visit "/o/maunder-hill/survey/trees/#{last.id}/limb"
    known = last.limbs.size
    2.times do |n|
      fill_in "Limb", with: "Z#{n + 1}"
      fill_in "Girth, mm", with: "2#{n}0"
      click_button "Keep it, next limb"
      expect(page).to have_css("[data-outbox-line]", text: "#{n + 1} waiting")
    end
    serve
    page.execute_script("window.dispatchEvent(new Event('online'))")
    expect(page).to have_css("[data-outbox-line]", text: "2 sent")
    limbs = Vestry::Records::Limb.where(tree_id: last.id).order(:id).all
    expect([limbs.size - known, limbs.last(2).map { |limb| [limb.tag, limb.girth_mm] }])
      .to eq [2, [["Z1", 200], ["Z2", 210]]]
  end

  # A picture that says when and where it was taken.
  def picture(latitude:, longitude:, at: nil)
    facts = { "exif-ifd3-GPSLatitudeRef" => "N", "exif-ifd3-GPSLatitude" => latitude,
              "exif-ifd3-GPSLongitudeRef" => "W", "exif-ifd3-GPSLongitude" => longitude,
              "exif-ifd2-DateTimeOriginal" => at }.compact
    image = Vips::Image.black(400, 300).copy(interpretation: :srgb)
    image = image.mutate { |drawn| facts.each { |name, value| drawn.set_type!(GObject::GSTR_TYPE, name, value) } }
    File.join(Dir.mktmpdir, "limb.jpg").tap { |path| image.write_to_file(path) }
  end

  it "offers a picture's own place for a tree that has none, keeps its day, and asks of one taken far off" do
    limb = stubs.first
    limb.tree.update(latitude: nil, longitude: nil)
    day = World::TODAY - 6
    visit "/o/maunder-hill/survey/trees/#{limb.tree_id}?limb=#{limb.id}"
    expect(page).to have_no_button("Keep it as its place")
    attach_file "A photo of limb #{limb.tag}", picture(latitude: "50/1 36/1 9/1", longitude: "2/1 54/1 18/1",
                                                       at: day.strftime("%Y:%m:%d 09:30:00"))
    expect(page).to have_content("This picture was taken at 50.602500, -2.905000. Does #{limb.tree.label} stand there?")
    click_button "Keep this photo"
    expect(page).to have_css("figure img[alt*='#{day.day}']")
    expect(Vestry::Records::Photo.where(limb_id: limb.id).get(:taken_on)).to eq day
    visit "/o/maunder-hill/graft/stubs"
    expect(page).to have_css("html[data-kept='yes']", wait: 60)
    cut_line
    find("article.stop:not([hidden]) input[type=file]", visible: :all)
      .attach_file(picture(latitude: "50/1 36/1 9/1", longitude: "2/1 54/1 18/1"))
    expect(page).to have_content("Does #{limb.tree.label} stand there?")
    click_button "Keep it as its place"
    expect(page).to have_css("[data-outbox-line]", text: "2 waiting")
    serve
    page.execute_script("window.dispatchEvent(new Event('online'))")
    expect(page).to have_css("[data-outbox-line]", text: "2 sent")
    expect(limb.tree.refresh).to have_attributes(latitude: be_within(1e-6).of(50.6025),
                                                longitude: be_within(1e-6).of(-2.905))
    # Over a slow line the page that is kept comes first: it is opened again until it knows the place.
    placed = "article.stop:not([hidden]) form[data-picture-place][data-latitude]"
    opened = 6.times.any? do
      visit "/o/maunder-hill/graft/stubs"
      page.has_css?(placed, visible: :all, wait: 5)
    end
    expect(opened).to be true
    find("article.stop:not([hidden]) input[type=file]", visible: :all)
      .attach_file(picture(latitude: "50/1 36/1 12/1", longitude: "2/1 54/1 18/1"))
    expect(page).to have_content("This picture was taken 93 m from where #{limb.tree.label} stands.")
    expect(page).to have_no_button("Keep it as its place")
  end

  it "keeps a photo taken without signal, made small, and sends it once" do
    path = File.join(Dir.mktmpdir, "limb.jpg")
    Vips::Image.gaussnoise(3000, 2000, mean: 128, sigma: 40).cast("uchar").write_to_file(path)
    limb = stubs.first
    visit "/o/maunder-hill/graft/stubs"
    expect(page).to have_css("html[data-kept='yes']", wait: 60)
    cut_line
    find("article.stop:not([hidden]) input[type=file]", visible: :all).attach_file(path)
    expect(page).to have_css("[data-outbox-line]", text: "1 waiting")
    kept = page.evaluate_async_script(<<~JS)
      const done = arguments[0];
      indexedDB.open("vestry", 1).onsuccess = ({ target }) => {
        target.result.transaction("outbox").objectStore("outbox").getAll().onsuccess = async (found) => {
          const picture = await createImageBitmap(found.target.result[0].photo);
          done([picture.width, picture.height]);
        };
      };
    JS
    expect(kept).to eq [1600, 1067]
    serve
    page.execute_script("window.dispatchEvent(new Event('online'))")
    expect(page).to have_css("[data-outbox-line]", text: "1 sent")
    photos = Vestry::Records::Photo.where(limb_id: limb.id).all
    expect(photos.size).to eq 1
  end

  it "measures a stub in a picture without signal, and sends the picture with its marks when signal is back" do
    limb = stubs.first
    visit "/o/maunder-hill/graft/limbs/#{limb.id}"
    expect(page).to have_css("html[data-kept='yes']", wait: 60)
    cut_line
    visit "/o/maunder-hill/graft/limbs/#{limb.id}"
    path = File.join(Dir.mktmpdir, "stub.jpg")
    grey = Vips::Image.black(900, 700) + 150
    grey.bandjoin([grey, grey]).cast("uchar").copy(interpretation: :srgb).mutate do |image|
      image.draw_rect!([20.0, 20.0, 20.0], 300, 450, 240, 160, fill: true)
      image.draw_rect!([240.0, 240.0, 240.0], 316, 466, 208, 128, fill: true)
    end.write_to_file(path)
    find("[data-pictured='stub'] input[type=file]", visible: :all).attach_file(path)
    expect(page).to have_css("dialog.measuring", text: "The card was found")
    # Nothing is measured by marks that nobody has set.
    expect(page).to have_css(".told", text: "Still to set: 4 on the edge.")
    expect(page).to have_button("Take this", disabled: true)
    4.times { |n| middle(".marking .points[data-n='#{n}'] .ring").then { |at| pull(at, at) } }
    said = find("dialog.measuring .told").text[/\d+ mm/]
    click_button "Take this"
    expect(page).to have_field("Stub across", with: said)
    expect(page).to have_css("#outbox", text: "Picture of stub across")
    expect(Vestry::Records::PictureMeasure.where(what: "stub").count).to eq 0
    serve
    click_button "Send now"
    expect(page).to have_no_css("#outbox")
    kept = Vestry::Records::PictureMeasure.order(:id).last
    expect([kept.what, kept.photo.limb_id, "#{kept.mean_mm.round} mm"]).to eq ["stub", limb.id, said]
  end

  it "keeps what waits when the session has ended, says so at the door, and sends it after signing in" do
    open_sheet
    cut_line
    log(stubs.first)
    expect(page).to have_content("1 entry is kept on this phone")
    Vestry::DB[:account_active_session_keys].delete
    serve
    visit "/o/maunder-hill/today"
    expect(page).to have_css("#waiting-here", text: "1 entry waits on this phone")
    expect(grafts.count).to eq 0
    fill_in "Email", with: gus.email
    fill_in "Password", with: World::PASSWORD
    click_button "Sign in"
    expect(page).to have_css("h1.now")
    expect(page).to have_no_css("#outbox")
    expect(grafts.select_map(:limb_id)).to eq [stubs.first.id]
  end

  it "forgets the pages it kept when the person signs out" do
    open_sheet
    find(".menu.person summary").click
    click_button "Sign out"
    expect(page).to have_current_path("/sign-in").or have_content("Sign in")
    left = page.evaluate_async_script("const done = arguments[0]; setTimeout(() => " \
                                      "caches.has('vestry-pages-2').then(done), 500);")
    expect(left).to be false
  end


  it "keeps no word that was for once, and no way to undo what was done long ago" do
    open_sheet
    limb = stubs.first
    deed = SecureRandom.uuid
    Vestry::Records::HistoryLog.as_one(deed) do
      Vestry::Deeds::MeasureLimb.call(limb.reload, { bark_mm: 4 }, by: "Gus Grafter")
    end
    { "notice" => "Said once.", "undo" => deed }.each { |name, value| page.driver.set_cookie(name, value) }
    visit "/o/maunder-hill/graft/limbs/#{limb.id}/cuts"
    expect(page).to have_content("Said once.").and have_button("Undo")
    cut_line
    visit "/o/maunder-hill/graft/limbs/#{limb.id}/cuts"
    expect(page).to have_css("h1", text: limb.label)
    expect(page).to have_no_content("Said once.").and have_no_button("Undo")
  end
end
