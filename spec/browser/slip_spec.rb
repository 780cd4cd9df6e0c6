# frozen_string_literal: true

require_relative "../../standins/weather/seeded"

RSpec.describe "Slip" do
  let!(:here) { demo }

  before do
    feed = Standins::Weather::Seeded.new("maunder-hill")
    Vestry::Deeds::KeepWeather.keep(here, (0..10).map { |i| { day: World::TODAY + i, forecast: true,
                                                              **feed.forecast(World::TODAY + i, World::TODAY)
                                                                .except(:date) } })
    sign_in person(steward: here)
  end

  it "walks a row on the phone, one tap a tree, and the list of whom to come back to follows" do
    page.current_window.resize_to(390, 844)
    visit "/o/maunder-hill/slip"
    expect(page).to have_css("h1.now", text: "should slip by now and were not seen to: test the bark")
    within("section[aria-labelledby='back-h']") { expect(page).to have_link("B5").and have_link("B6") }
    visit "/o/maunder-hill/slip/walk?row=B"
    expect(page).to have_content("The school's sign is in blossom")
    within("section[aria-labelledby='back-h']") { expect(page).to have_link("B5").and have_link("B6") }
    find("button[aria-label='B5: bark slips']").click
    expect(page).to have_content("slips, seen 18 May")
    within("section[aria-labelledby='back-h']") { expect(page).to have_no_link("B5").and have_link("B6") }
    find("button[aria-label='B6: not yet']").click
    expect(page).to have_content("bark does not slip")
    within("section[aria-labelledby='back-h']") { expect(find("li", text: "B6").text).not_to start_with("now") }
    expect(Vestry::Records::PhenologySeen.order(:id).select_map(:slipping)).to eq [true, false]
  end

  it "plans the crew's days, reckons again round what is settled by hand, and says what will not fit" do
    visit "/o/maunder-hill/slip"
    click_link "Plan the crew's days"
    first_day = all(".crew-day").find { |day| day.has_css?(".token", wait: 0) }
    expect(first_day).not_to be_nil
    stub = first_day.first(".token").text[/\A\w+ \w+/]
    first_day.first(".token button").click
    expect(page).to have_button("let go")
    within(".crew") { expect(find(".token", text: stub)).to have_content("settled") }
    find(".token", text: stub).click_button("let go")
    expect(page).to have_no_button("let go")

    # All but two of the days have nobody.
    (3..13).each do |i|
      Vestry::Deeds::SettleCrew.day(here, World::TODAY + i, hours: 0.0, grafters: 2.0, by: "Somebody")
    end
    visit current_path
    expect(page).to have_no_content("Will not fit")
    3.times do |i|
      day = find_all(".crew-day")[i]
      day.find("summary").click
      day.find("input[name='hours']").set("0")
      day.click_button("Keep")
    end
    expect(page).to have_content("Will not fit")
    expect(page).to have_content("more hours, or more hands")
    find_all(".crew-day").first.find("summary").click
    find_all(".crew-day").first.find("input[name='hours']").set("thirty")
    find_all(".crew-day").first.click_button("Keep")
    expect(page).to have_content("Hours are from 0 to 24")
  end

  it "stays of use while the weather service is out, and says so" do
    here.update(weather_trouble: "The weather service does not answer.", weather_answered_at: Time.utc(2026, 5, 16, 7))
    visit "/o/maunder-hill/slip"
    expect(page).to have_content("The weather service does not answer. It is asked again every ten minutes; what is " \
                                 "known stands.")
    expect(page).to have_content("last answered on 16 May at 07:00")
    expect(page).to have_css("svg.spring").and have_css("svg.fan", minimum: 2, visible: :all)
    expect(page).to have_css("table.days td", minimum: 11)
    click_link "Weather"
    file = Tempfile.new(["station", ".csv"]).tap { |log| log.write("day,min_c,max_c\n2026-05-18,1\n") && log.close }
    attach_file "File", file.path
    click_button "Read it"
    expect(page).to have_css(".reads .bad", text: "line 2, 2026-05-18: column “max_c”: no figure stands there")
    expect(page).to have_no_button("Bring in")
  end
end
