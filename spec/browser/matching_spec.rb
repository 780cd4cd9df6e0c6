# frozen_string_literal: true

require "tmpdir"

RSpec.describe "A table from elsewhere" do
  let!(:here) { orchard }

  before { sign_in person(steward: here) }

  def file(name, text)
    @folder ||= Dir.mktmpdir
    File.join(@folder, name).tap { |path| File.binwrite(path, text) }
  end

  after { FileUtils.rm_rf(@folder) if @folder }

  it "is matched column by column, its words and units told, looked over, brought in, and taken back" do
    visit "/o/#{here.slug}/files"
    table = "Standort;Obstart;Stammumfang;Bemerkung\nH1;Apfel;88;am Weg\nH 2;Holzapfel;0,7 m;\n"
    attach_file "File", file("wiese.csv", table)
    choose "trees"
    click_button "Read it"
    expect(page).to have_content "wiese.csv is not laid out as ours"
    expect(page).to have_select("holds-0", selected: "tree, as B1")
    click_button "Read it so"
    expect(page).to have_css "[role=alert]", text: "Say in what unit its trunk girth is."
    expect(page).to have_css "[role=alert]", text: "Say what “Holzapfel” is among species."
    select "cm", from: "unit-2"
    select "apple", from: "“Holzapfel” is"
    expect(page).to have_css("#unit-2").and have_no_css("#unit-1")
    click_button "Read it so"
    expect(page).to have_content "Both lines of wiese.csv can be read; nothing is written yet."
    expect(page).to have_css "td", text: "species apple · trunk girth 880 mm · “am Weg”"
    click_button "Match its columns anew"
    expect(page).to have_select("unit-2", selected: "cm")
    select "nothing of use", from: "holds-3"
    click_button "Read it so"
    click_button "Bring in 2 lines"
    expect(page).to have_content "Both lines of wiese.csv are in."
    expect(here.trees_dataset.order(:number).select_map(%i[row number species trunk_girth_mm notes]))
      .to eq [["H", 1, "apple", 880, nil], ["H", 2, "apple", 700, nil]]
    click_button "Take it back"
    expect(page).to have_content "was taken back"
    expect(Vestry::Records::Tree.in_sight.where(orchard_id: here.id).count).to eq 0
  end

  it "asks which way round days are written, and reads a logger's hours" do
    hours = (0..23).map { |hour| "03/04/2026 #{hour}:00,#{hour}" }
    visit "/o/#{here.slug}/slip/weather"
    attach_file "File", file("logger.csv", "Field logger\nDate Time,Temp (C)\n#{hours.join("\n")}\n")
    click_button "Read it"
    click_button "Read it so"
    expect(page).to have_css "[role=alert]", text: "03/04/2026 can be two days"
    choose "day, month, year (31.12.2026)"
    click_button "Read it so"
    expect(page).to have_css "th", text: "2026-04-03"
    expect(page).to have_css "td", text: "least temperature 0.0 °C · greatest temperature 23.0 °C"
    click_button "Bring in 1 line"
    expect(page).to have_content "is in."
    expect(Vestry::DB[:weather_days].select_map(%i[day min_c max_c])).to eq [[Date.new(2026, 4, 3), 0.0, 23.0]]
  end
end
