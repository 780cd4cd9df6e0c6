# frozen_string_literal: true

require "tempfile"
require "vips"

# A figure from a picture: the card is found, the marks are pulled, and what they come to is taken.
RSpec.describe "Measuring in a picture" do
  let!(:here) { orchard }
  let(:stub) { limb(tree(here)) }
  let(:grafted) { graft(stub, grafted_on: Date.new(2025, 4, 21), stub_mm: 90) }
  let(:mouse) { page.driver.browser.mouse }

  # A stub with an open wound of so many millimetres, a card below it, four pixels a millimetre, on bark.
  def picture(open_mm)
    bark = Vips::Image.gaussnoise(1000, 800, mean: 120, sigma: 8)
    drawn = bark.bandjoin([bark * 0.9, bark * 0.7]).cast("uchar").copy(interpretation: :srgb).mutate do |image|
      image.draw_circle!([150.0, 140.0, 90.0], 500, 300, 200, fill: true)
      image.draw_circle!([214.0, 180.0, 120.0], 500, 300, open_mm * 2, fill: true)
      image.draw_rect!([240.0, 240.0, 235.0], 356, 536, 288, 208, fill: true)
      image.draw_rect!([20.0, 20.0, 20.0], 380, 560, 240, 160, fill: true)
      image.draw_rect!([240.0, 240.0, 235.0], 396, 576, 208, 128, fill: true)
    end
    Tempfile.new(["stub", ".jpg"]).tap { |file| drawn.write_to_file(file.path, Q: 92) }.path
  end

  # Where a place in the picture stands on the screen.
  def seen(x, y) = box(".marking").then { |b| [b["left"] + x * b["width"] / 1000, b["top"] + y * b["height"] / 800] }

  def put(n, at)
    from = middle(".marking .points[data-n='#{n}'] .ring")
    pull(from, seen(*at))
  end

  def put_ruler(*ends)
    ends.each_with_index { |at, n| pull(middle(".marking .ruler[data-n='#{n}'] .ring"), seen(*at)) }
  end

  def measure(open_mm)
    find("[data-pictured='opening'] input[type=file]", visible: :all).attach_file(picture(open_mm))
    expect(page).to have_css("dialog.measuring", text: "The card was found")
    8.times do |n|
      way = n * Math::PI / 4
      put(n, [500 + 2 * open_mm * Math.cos(way), 300 + 2 * open_mm * Math.sin(way)])
    end
  end

  before do
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: grafted.id, season: 2025,
                                  tallied_on: Date.new(2025, 10, 4),
                                  alive: true, growth_mm: 500, open_a_mm: 84, open_b_mm: 80, tallied_by: "Orla Finch")
    sign_in person(steward: here)
  end

  it "finds the card, follows the marks, fills the count, and moves the season in which the stub closes" do
    page.current_window.resize_to(1280, 800)
    visit "/o/#{here.slug}/tally/limbs/#{stub.id}"
    # By 3 mm a season from each side, 42 mm take fourteen more.
    expect(page).to have_content("Shut, and safe from being blown out\n2039")
    visit "/o/#{here.slug}/tally/grafts/#{grafted.id}"
    fill_in "Open wound, longest", with: "80"
    measure(50)
    told = find("dialog.measuring .told").text
    long, across, off = told.scan(/[\d.]+/).map(&:to_f)
    expect([long, across, off]).to match [be_within(1.5).of(50), be_within(2.5).of(50), be_between(0.1, 6)]
    # By keys: a mark thirty pixels out is a wider wound.
    now("document.querySelector('.marking .points[data-n=\"0\"]').focus()")
    30.times { page.driver.browser.keyboard.type(:Right) }
    wider = find("dialog.measuring .told").text[/[\d.]+/].to_f
    expect(wider).to be_between(long + 5, long + 9)
    30.times { page.driver.browser.keyboard.type(:Left) }
    click_button "Take this"
    expect(page).to have_no_css("dialog.measuring")
    expect(page).to have_field("open_a", with: "#{long.round} mm")
    expect(find_field("open_b").value).to match(/\A\d\d mm\z/)
    expect(page).to have_css(".from-picture[data-kept]")
    fill_in "Longest shoot this season", with: "62 cm"
    expect(page).to have_content("= 620 mm")
    find("button", text: "Keep this tally").click
    # Lost of its half width: 3 mm by the first autumn and 20 by the second, which is a rate of (3 + 40) / 5 = 8.6 a
    # season; what is open is shut in three more.
    expect(page).to have_content("Closed\n69 %").and have_content("8.6 mm from each side")
    expect(page).to have_content("Shut, and safe from being blown out\n2029")
    tally = Vestry::Records::Tally.where(graft_id: grafted.id).order(:tallied_on).last
    expect(tally.open_a_mm).to be_within(2).of(50)
    kept = Vestry::Records::PictureMeasure.first
    expect(kept).to have_attributes(what: "opening", a_mm: be_within(1.5).of(50))
    expect(kept.photo.limb_id).to eq stub.id
    # Beside another year's, to one scale.
    kept.photo.update(taken_on: World::TODAY - 365)
    visit "/o/#{here.slug}/tally/grafts/#{grafted.id}"
    measure(30)
    click_button "Take this"
    expect(page).to have_css(".from-picture[data-kept]")
    visit "/o/#{here.slug}/tally/grafts/#{grafted.id}"
    expect(page).to have_css(".openings figure", count: 2)
    widths = now("[...document.querySelectorAll('.openings image')].map((each) => each.getBoundingClientRect().width)")
    expect(widths.map(&:round).uniq.size).to eq 1
  end

  it "says the same as is reckoned on the server, by card and by ruler" do
    visit "/o/#{here.slug}/tally/grafts/#{grafted.id}"
    random = Random.new(4)
    30.times do
      at = ->(x, y) { [x + random.rand(40) - 20, y + random.rand(40) - 20] }
      round = (0...7).map { |i| at[450 + 220 * Math.cos(i * 0.9), 320 + 220 * Math.sin(i * 0.9)] }
      kind, points = [["length", [at[200, 200], at[700, 260]]], ["outline", round],
                      ["oval", [at[200, 300], at[700, 300], at[450, 100], at[450, 500]]]].sample(random: random)
      scale = random.rand < 0.3 ? { ruler: [at[100, 700], at[600, 700]], ruler_mm: 100 } :
        { corners: [at[300, 560], at[600, 560], at[600, 760], at[300, 760]], width_mm: 60, height_mm: 40 }
      marks = { kind: kind, points: points, mark_px: 2.5, **scale }
      here_told = now("pictured.measure(#{JSON.generate(marks)})")
      there = Vestry::Core::Survey::Pictured.reckon(marks)
      error = kind == "length" ? there[:error_mm] : there[:mean_error_mm]
      wanted = [there[:a_mm], there[:mean_mm], error].map { |mm| be_within(1e-6 * mm).of(mm) }
      expect(here_told.values_at("a", "mean", "error")).to match wanted
    end
  end

  # A circle of 51 mm is two inches across.
  it "says inches as the pages do, and asks for a known length in them" do
    here.update(units: "imperial")
    visit "/o/#{here.slug}/tally/grafts/#{grafted.id}"
    measure(50.8)
    expect(find("dialog.measuring .told").text).to match(%r{\A(1 7/8|2|2 1/8) in by (1 7/8|2|2 1/8) in ± \d/\d+ in\z})
    select "a known length lies in it"
    known = find("[aria-label='How long it is']")
    expect(known.value).to eq "4 in"
    put_ruler([380, 568], [620, 568])
    known.set("2 3/8 in")
    expect(find("dialog.measuring .told").text).to match(%r{\A(1 7/8|2|2 1/8) in by})
    click_button "Take this"
    expect(find_field("open_a").value).to match(%r{\A(1 7/8|2|2 1/8) in\z})
  end

  it "reads and says every length as the server does" do
    visit "/o/#{here.slug}/tally/grafts/#{grafted.id}"
    said = { 0 => "0 in", 1.5 => "1/16 in", 12.7 => "1/2 in", 25.4 => "1 in", 30.2 => "1 1/4 in", 914.4 => "3 ft",
             942.975 => "3 ft 1 1/8 in", -38.1 => "-1 1/2 in" }
    expect(said.keys.map { |mm| now("vestrySteps.say(#{mm}, 'imperial')") }).to eq said.values
    expect(said.keys.map { |mm| Vestry::Core::Measure.say(mm, "imperial") }).to eq said.values
    typed = ["3 ft 1 1/8 in", "5 1/2", "2 ft", "3'4\"", "x"].map(&:to_json)
    expect(typed.map { |text| now("vestrySteps.read(#{text}, 'imperial')") })
      .to match [be_within(0.01).of(942.98), be_within(0.01).of(139.7), be_within(0.01).of(609.6),
                 be_within(0.01).of(1016), nil]
  end

  it "says so where a file is no picture, and not any more once one is" do
    visit "/o/#{here.slug}/tally/grafts/#{grafted.id}"
    words = Tempfile.new(["list", ".jpg"]).tap { |file| File.write(file.path, "no picture") }
    find("[data-pictured='opening'] input[type=file]", visible: :all).attach_file(words.path)
    expect(page).to have_css("[data-pictured='opening'] .error[role=alert]", text: "is no picture")
    find("[data-pictured='opening'] input[type=file]", visible: :all).attach_file(picture(20))
    expect(page).to have_css("dialog.measuring")
    expect(page).to have_no_css(".no-picture")
  end

  it "is moved by a thumb on a phone, and leaves all as it was where it is left" do
    page.current_window.resize_to(390, 844)
    visit "/o/#{here.slug}/tally/grafts/#{grafted.id}"
    measure(40)
    expect(find("dialog.measuring .told").text[/[\d.]+/].to_f).to be_within(2.5).of(40)
    expect(now("document.querySelector('dialog.measuring').scrollWidth")).to be <= 390
    click_button "Leave it"
    expect(page).to have_field("open_a", with: "")
    expect([Vestry::Records::PictureMeasure.count, Vestry::Records::Photo.count]).to eq [0, 0]
  end
end
