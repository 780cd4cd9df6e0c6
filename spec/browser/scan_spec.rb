# frozen_string_literal: true

require "chunky_png"
require "rqrcode"
require "vips"

RSpec.describe "Scanning a label" do
  let!(:here) { demo }
  let(:limb) { here.planned(:waiting, 2026).rows.find(&:complete?).limb }

  before do
    sign_in person(grafter: here)
    page.current_window.resize_to(390, 844)
  end

  # A photo of a label: a square code a little to one side of a grey ground.
  def photo(text)
    code = RQRCode::QRCode.new(text, level: :m).as_png(size: 260, border_modules: 4)
    ground = ChunkyPNG::Image.new(640, 480, ChunkyPNG::Color.grayscale(180))
    ground.replace!(code, 210, 90)
    path = File.join(Dir.mktmpdir, "label.png")
    ground.save(path)
    path
  end

  it "reads the code from a photo, here on the phone, and goes to what the limb wants" do
    visit "/o/maunder-hill/today"
    find("summary", text: "More").click
    click_link "Scan a label"
    attach_file "Or a photo of the label", photo("https://elsewhere.example/t/#{limb.code}")
    expect(page).to have_current_path("/o/maunder-hill/graft/limbs/#{limb.id}")
  end

  # A browser whose camera looks at a picture.
  def with_camera_on(path)
    film = File.join(Dir.mktmpdir, "label.mjpeg")
    File.binwrite(film, Vips::Image.new_from_file(path).flatten.write_to_buffer(".jpg", Q: 95) * 4)
    Capybara.register_driver(:camera) do |app|
      flags = { "no-sandbox" => nil, "disable-gpu" => nil, "use-fake-ui-for-media-stream" => nil,
                "use-fake-device-for-media-stream" => nil, "use-file-for-fake-video-capture" => film }
      browser = %w[chromium-headless-shell chromium].map { |name| "/usr/bin/#{name}" }
        .find { |each| File.executable?(each) }
      Capybara::Cuprite::Driver.new(app, window_size: [390, 844], process_timeout: 30, timeout: 60,
                                         browser_path: browser, browser_options: flags)
    end
    Capybara.using_driver(:camera) { yield }
  end

  it "reads the code from the camera while it is held before it" do
    with_camera_on(photo("https://elsewhere.example/t/#{limb.code}")) do
      sign_in person("Cam Holder", grafter: here)
      visit "/scan"
      click_button "Open the camera"
      expect(page).to have_current_path("/o/maunder-hill/graft/limbs/#{limb.id}", wait: 20)
    end
  end

  it "says what a code is that leads nowhere here, and finds none in a picture without one" do
    visit "/scan"
    attach_file "Or a photo of the label", photo("https://elsewhere.example/shop")
    expect(page).to have_css("#scan-said", text: "no label of an orchard")
    blank = File.join(Dir.mktmpdir, "blank.png").tap { |path| ChunkyPNG::Image.new(80, 80, :white).save(path) }
    attach_file "Or a photo of the label", blank
    expect(page).to have_css("#scan-said", text: "No code was found")
  end

  it "takes a code that is typed, and says when the camera is not there" do
    visit "/scan"
    click_button "Open the camera"
    expect(page).to have_css("#scan-said", text: "take a photo of the label, or type its code")
    fill_in "Or its code, as it stands on the label", with: limb.code.downcase
    click_button "Go there"
    expect(page).to have_current_path("/o/maunder-hill/graft/limbs/#{limb.id}")
  end
end
