# frozen_string_literal: true

RSpec.describe "A limb by holding the phone along it" do
  let!(:here) { demo }
  let(:tree) { Vestry::Records::Tree.create(orchard_id: here.id, row: "Z", number: 1, species: "apple", form: "bush") }

  before do
    sign_in person(grafter: here)
    page.current_window.resize_to(390, 844)
  end

  # As a phone's own sensors would say it: turned by alpha about the vertical, raised by beta.
  def hold(alpha:, beta:)
    z, x = [alpha, beta].map { |degrees| degrees * Math::PI / 360 }
    turned = { x: Math.sin(x) * Math.cos(z), y: Math.sin(x) * Math.sin(z), z: Math.cos(x) * Math.sin(z),
               w: Math.cos(x) * Math.cos(z) }
    sensor = { type: "absolute-orientation" }
    page.driver.browser.page.then do |here|
      unless @sensor
        here.command("Emulation.setSensorOverrideEnabled", enabled: true, metadata: { available: true }, **sensor)
        @sensor = true
      end
      here.command("Emulation.setSensorOverrideReadings", reading: { quaternion: turned }, **sensor)
    end
  end

  def limbs = tree.limbs_dataset.order(:tag).select_map(%i[tag girth_mm bearing_deg rise_deg])

  it "surveys four limbs with twelve typed characters, each in one page without scrolling" do
    here.update(declination_deg: 2)
    permit "sensors"
    visit "/o/maunder-hill/survey/trees/#{tree.id}"
    click_link "Limb by limb, with the phone"
    # Turned against the clock by alpha, raised by beta; on its back the other way.
    [[0, 40, "220"], [270, 30, "185"], [135, 0, "150"], [90, 120, "205"]].each_with_index do |(alpha, beta, girth), i|
      expect(page).to have_field("Limb", with: "ABCD"[i])
      expect(now("[window.scrollY, document.documentElement.scrollHeight > window.innerHeight]")).to eq [0, false]
      hold(alpha: alpha, beta: beta)
      click_button "Hold the phone along it, and press"
      expect(page).to have_css("#aim-said", text: "A declination of 2")
      find("#h-girth").set(girth)
      click_button "Keep it, next limb"
    end
    expect(page).to have_field("Limb", with: "E")
    expect(limbs).to eq [["A", 220, 2, 40], ["B", 185, 92, 30], ["C", 150, 227, 0], ["D", 205, 92, 60]]
  end

  it "stores nothing for a dial that nobody turned, and says what is wrong at its field" do
    visit "/o/maunder-hill/survey/trees/#{tree.id}/limb"
    click_button "Keep it, next limb"
    expect(page).to have_css(".field.wrong", text: "Girth")
    find("#h-girth").set("140")
    click_button "Keep it, next limb"
    expect(page).to have_field("Limb", with: "B")
    expect(limbs).to eq [["A", 140, nil, nil]]
  end

  it "steps the girth in the orchard's units, from a limb's common one" do
    girth = -> { find("#h-girth").value }
    step = ->(way) { find("button[aria-label='Girth #{way}']").click }
    visit "/o/maunder-hill/survey/trees/#{tree.id}/limb"
    step.call("larger")
    expect(girth.call).to eq "101"
    find("#h-girth").set("38 cm")
    step.call("smaller")
    expect(girth.call).to eq "379"
    Vestry::Deeds::SettleOrchard.call(here, { units: "imperial" }, by: "Orla")
    visit current_path
    step.call("larger")
    step.call("larger")
    expect(girth.call).to eq "4 1/8"
  end

  it "keeps the limb once, however often its answer was lost" do
    visit "/o/maunder-hill/survey/trees/#{tree.id}/limb"
    find("#h-girth").set("140")
    twice = page.evaluate_async_script(<<~JS)
      const done = arguments[0];
      const form = document.getElementById("limb-form");
      const send = () => fetch(form.action, { method: "POST", headers: { accept: "application/json" }, body: new URLSearchParams(new FormData(form)) }).then((answer) => answer.json());
      send().then(send).then((told) => done(told));
    JS
    expect(twice).to include("location" => "/o/maunder-hill/survey/trees/#{tree.id}/limb")
    expect(limbs.map(&:first)).to eq ["A"]
  end
end
