# frozen_string_literal: true

RSpec.describe "Practising" do
  let!(:here) { orchard }
  let(:tam) { person("Tam Reed", grafter: here) }
  let(:mouse) { page.driver.browser.mouse }

  before do
    sign_in tam
    page.current_window.resize_to(1280, 800)
  end

  def open_exercise(name, level: 1, seed: 7)
    visit "/o/#{here.slug}/practice/#{name}?level=#{level}&seed=#{seed}"
    @exercise = Vestry::Deeds::Practise::EXERCISES.fetch(name).reckon({ seed: seed, level: level })[:exercise]
  end

  def middle(css) = box(css).then { |b| [b["left"] + b["width"] / 2, b["top"] + b["height"] / 2] }

  def pull(css, by_x, by_y)
    x, y = middle(css)
    mouse.move(x: x, y: y)
    mouse.down
    mouse.move(x: x + by_x, y: y + by_y, steps: 5)
    mouse.up
  end

  def last_try = Vestry::Records::PracticeTry.where(account_id: tam.id).order(:id).last

  it "is reached by the person's name, and shaves a stick by pulling its faces" do
    visit "/o/#{here.slug}/today"
    find("summary", text: "Tam Reed").click
    click_link "Practise"
    expect(page).to have_css("h1", text: "exercises for today")
    open_exercise("to-wood")
    across = box(".to-wood .bark").then { |b| b["width"] / @exercise[:scion_mm] }
    # Down by what its bark can be at most and a little more, each towards the middle of the stick.
    deep = @exercise[:bark_mm].last + 0.15 - 0.5
    centre = middle(".to-wood .bark")
    (1..@exercise[:flaps]).each do |n|
      css = ".grip-of[data-face='#{n}'] .grip"
      x, y = middle(css)
      far = Math.hypot(centre[0] - x, centre[1] - y)
      # The first sets itself by how far it is from the middle; turned back to even places.
      pull(css, (centre[0] - x) / far * deep * across, (centre[1] - y) / far * deep * across)
    end
    find("summary", text: "In words").click
    (1..@exercise[:flaps]).each do |n|
      expect(find_field("depth_#{n}").value.to_f).to be_within(0.08).of(deep + 0.5)
    end
    click_button "Look at the faces"
    expect(page).to have_css(".to-wood.judged")
    expect(page).to have_no_text("lies on bark")
    expect(last_try).to have_attributes(exercise: "to-wood", nth: 1)
  end

  it "has letters that can be read in its drawings, on a phone and at a desk" do
    paths = ["", "cuts", *Vestry::Deeds::Practise::EXERCISES.keys.map { |name| "#{name}?level=4&seed=7" }]
    found = [[390, 844], [1280, 800]].to_h do |width, height|
      page.current_window.resize_to(width, height)
      poor = paths.to_h do |path|
        visit "/o/#{here.slug}/practice/#{path}"
        [path, poor_letters(least: 12)]
      end
      [width, poor.reject { |_, letters| letters.empty? }]
    end
    expect(found).to eq(390 => {}, 1280 => {})
  end

  it "turns and deepens a face by keys alone" do
    open_exercise("to-wood")
    now("document.querySelector('.grip').focus()")
    keys = page.driver.browser.keyboard
    4.times { keys.type(:Down) }
    3.times { keys.type(:Right) }
    find("summary", text: "In words").click
    expect([find_field("depth_1").value, find_field("at_1").value]).to eq %w[0.70 3]
  end

  it "pulls and turns in inches where the orchard has them" do
    here.update(units: "imperial")
    open_exercise("to-wood")
    now("document.querySelector('.grip').focus()")
    2.times { page.driver.browser.keyboard.type(:PageDown) }
    expect(find(".grip", match: :first)["aria-valuetext"]).to include("0.06 inches deep")
    find("summary", text: "In words").click
    # Half a millimetre, as it lies at first, and two times as much.
    expect(find_field("depth_1").value).to eq "0.06"
    open_exercise("where-to-cut")
    before = find_field("at").value.to_f * 25.4
    now("document.querySelector('.slide').focus()")
    4.times { page.driver.browser.keyboard.type(:Right) }
    expect(find_field("at").value.to_f * 25.4).to be_within(0.1).of(before + 20)
    fill_in "at", with: "12 1/2"
    choose "from below, a third through"
    choose "pare it off with the rim"
    click_button "Saw it so"
    expect(page).to have_css(".where-to-cut.judged")
    expect(last_try.answer["at_mm"]).to eq 317.5
  end

  it "turns, waxes and slides the others, each answer kept" do
    open_exercise("right-way")
    wrong = @exercise[:sticks].select { |stick| stick[:buds].sum { |bud| bud[:lean_deg] }.negative? }
    wrong.each { |stick| mouse.click(**%i[x y].zip(middle(".practice [data-value='#{stick[:id]}'] .stick")).to_h) }
    click_button "Turn these"
    expect(page).to have_css(".feedback", text: "all the right way up")
    expect(last_try.answer["seconds"]).to be_between(0.1, 120)

    open_exercise("seal")
    bare = @exercise[:places].select { |place| %w[tip slit rim shoulder split].include?(place[:is]) }
    bare.each { |place| mouse.click(**%i[x y].zip(middle(".practice [data-value='#{place[:id]}'] .number")).to_h) }
    click_button "Wax these"
    expect(page).to have_css(".feedback", text: "Every opening is closed, and nothing else.")

    open_exercise("seat")
    per = box(".seat .window, .seat .rim")["width"] / 150
    pull(".seat .slide .face", 0, (@exercise[:face_mm] - 6) * 4 * per)
    click_button "Leave it so"
    expect(page).to have_css(".feedback", text: "it sits as it should")

    open_exercise("which-face")
    radius = box(".which-face .stub").then { |b| b["width"] / 2 }
    before = find(".which-face .round")["aria-valuenow"].to_f
    pull(".which-face .round .stick", 0, radius)
    expect(find(".which-face .round")["aria-valuenow"].to_f).to be > before + 20
    click_button "Set them there"
    expect(page).to have_css(".which-face.judged")

    open_exercise("face")
    stick = box(".long-face .stick")
    mm, deep = stick["width"] / 150, stick["height"]
    up = @exercise[:buds].first[:side] == "down"
    base = @exercise[:buds].first[:at_mm] - 25
    pull(".long-face .slide circle", base * mm, 0)
    edge = ->(share) { up ? stick["top"] + deep * share : stick["top"] + deep * (1 - share) }
    mouse.move(x: stick["left"] + base * mm, y: edge[0.5])
    mouse.down
    (1..30).each { |n| mouse.move(x: stick["left"] + (base + 2 * n) * mm, y: edge[0.5 - n / 60.0]) }
    mouse.up
    click_button "Look along it"
    expect(page).to have_css(".feedback", text: "Flat from end to end, and a bud opposite.")

    open_exercise("bridge")
    per = box(".bridging .bark")["width"] / 360
    before = find_field("at_1").value.to_f
    pull(".bridging .slide .scion", 30 * per, 0)
    expect(find_field("at_1").value.to_f).to be_within(2).of(before + 30)
    (1..@exercise[:count]).each { |n| fill_in "long_#{n}", with: "350" }
    click_button "Set them so"
    expect(page).to have_css(".bridging.judged")

    open_exercise("hands")
    stick = @exercise[:stick_deg] * Math::PI / 180
    blade = @exercise[:blade_deg] * Math::PI / 180
    far = Math.cos(stick - blade).positive? ? -115 : 115
    per = box(".hands .placed circle")["width"] / (2 * @exercise[:hand_mm])
    pull(".hands .placed circle", (far * Math.cos(stick) - 150) * per, (150 - far * Math.sin(stick)) * per)
    click_button "Hold it so"
    expect(page).to have_css(".feedback", text: "The blade can slip, and meets nobody.")

    open_exercise("where-to-cut")
    mm = box(".where-to-cut .limb")["width"] / @exercise[:length_mm]
    pull(".where-to-cut .slide circle", 400 * mm, 0)
    expect(find_field("at").value.to_f).to be_within(8).of(500)
    choose "from below, a third through"
    choose "pare it off with the rim"
    click_button "Saw it so"
    expect(page).to have_css(".where-to-cut.judged")

    open_exercise("order")
    right = Vestry::Deeds::Practise::EXERCISES["order"]
      .reckon({ seed: 7, level: 1, answer: { order: @exercise[:steps].map { |step| step[:id] } } })[:best][:order]
    best = Vestry::Deeds::Practise::EXERCISES["order"]
      .reckon({ seed: 7, level: 1, answer: { order: right } })[:best]
    @exercise[:asks_clock].each { |which| find(".slips li[data-step='#{best[which]}'] [data-clock='#{which}']").click }
    right.each_with_index do |id, place|
      slips = all(".slips li").map { |slip| slip["data-step"].to_i }
      (slips.index(id) - place).times { find(".slips li[data-step='#{id}'] button[data-move='-1']").click }
    end
    click_button "Do it so"
    expect(page).to have_css(".feedback", text: "That is their order.")

    open_exercise("read-graft")
    choose "leave it alone"
    click_button "Do that"
    expect(page).to have_css(".feedback", text: "lives with a likelihood of")

    open_exercise("line-up")
    now("document.querySelector('.line-up .slide').focus()")
    stock, stick = @exercise.values_at(:stock_bark_mm, :stick_bark_mm).map { |told| told.sum / 2 }
    ((stock - stick + 2) * 10).round.times { page.driver.browser.keyboard.type(:Right) }
    click_button "Bind it so"
    expect(page).to have_css(".feedback", text: "Cambium lies on cambium along the face.")
  end

  it "plans a tree by pressing its limbs, and lets ten years go by" do
    open_exercise("ten-years")
    press = ->(css) { mouse.click(**%i[x y].zip(middle(css)).to_h) }
    # The thinnest in the second spring, each with two sticks where it takes them, all tied; the nurse to year eight.
    thin = @exercise[:limbs].min_by { |limb| limb[:stub_mm] }[:id]
    press[".in-spring[data-field='spring_#{thin}'] circle"]
    @exercise[:limbs].each do |limb|
      press["[data-field='sticks_#{limb[:id]}'] .hit"] if limb[:most] > 1
      press["[data-field='braced_#{limb[:id]}'] .band"]
    end
    now("document.querySelector('.nurse.cycle').focus()")
    5.times { page.driver.browser.keyboard.type(:Up) }
    expect(page).to have_css(".nurse .chosen-now", text: "8")
    click_button "Let ten years go by"
    expect(page).to have_css(".ten-years.judged .years .mine")
    limbs = @exercise[:limbs].map do |limb|
      { "id" => limb[:id], "spring" => limb[:id] == thin ? 2 : 1, "sticks" => [limb[:most], 2].min, "braced" => true }
    end
    expect(last_try.answer).to eq("nurse_off" => 8, "limbs" => limbs)
  end

  it "cuts what grows from the stock by pressing it, and a year's shoot to sticks" do
    open_exercise("which-shoot")
    stock = @exercise[:shoots].select { |shoot| shoot[:points].first[1].negative? }
    stock.each { |shoot| mouse.click(**%i[x y].zip(middle("[data-shoot='#{shoot[:id]}'] circle")).to_h) }
    # Pressed again it stands.
    once = @exercise[:shoots].first[:id]
    2.times { mouse.click(**%i[x y].zip(middle("[data-shoot='#{once}'] circle")).to_h) }
    click_button "Cut these"
    expect(page).to have_css(".feedback", text: "All that grew from the stock is gone, and nothing else.")
    expect(last_try).to have_attributes(exercise: "which-shoot", passed: true, score: 1.0)

    open_exercise("shoot")
    scale = box(".shoot-wood .wood")["width"] / @exercise[:length_mm]
    pull("[data-end='from']", @exercise[:thick_to_mm] * scale, 0)
    pull("[data-end='to']", (@exercise[:green_from_mm] - @exercise[:length_mm]) * scale, 0)
    growing = @exercise[:nodes].select do |node|
      node[:is] == "leaf" && node[:at_mm].between?(@exercise[:thick_to_mm], @exercise[:green_from_mm])
    end
    growing.each { |node| mouse.click(**%i[x y].zip(middle("[data-node='#{node[:id]}'] .hit")).to_h) }
    left, middle = box(".shoot-wood .wood")["left"], middle(".shoot-wood .wood").last
    growing.each_slice(3).each_cons(2) do |one, other|
      mm = (one.last[:at_mm] + other.first[:at_mm]) / 2
      mouse.click(x: left + mm * scale, y: middle)
    end
    click_button "Cut it so"
    expect(page).to have_css(".feedback", text: "of ripe wood with buds that grow")
    expect(last_try).to have_attributes(exercise: "shoot", passed: true)
    # On a phone it is worked as well, and nothing is wider than the page.
    page.current_window.resize_to(390, 844)
    open_exercise("which-shoot", seed: 8)
    expect(now("document.documentElement.scrollWidth")).to eq 390
    first = @exercise[:shoots].first[:id]
    page.driver.browser.mouse.click(**%i[x y].zip(middle("[data-shoot='#{first}'] circle")).to_h)
    expect(page).to have_css("[data-shoot='#{first}'][aria-pressed='true']")
  end
end
