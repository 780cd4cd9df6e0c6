# frozen_string_literal: true

require "csv"
require "nokogiri"
require "pdf/reader"
require "rack/test"
require "tempfile"
require "vips"

RSpec.describe "Measured in a picture" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let(:stub) { limb(tree(here)) }
  let(:orla) { person("Orla Finch", steward: here) }
  # A card seen straight on, five pixels a millimetre, and a square of 50 by 50 mm beside it.
  let(:marks) do
    { kind: "outline", points: [[400, 100], [650, 100], [650, 350], [400, 350]],
      corners: [[100, 400], [400, 400], [400, 600], [100, 600]], width_mm: 60, height_mm: 40, mark_px: 2 }
  end
  let(:picture) do
    Tempfile.new(["stub", ".jpg"]).tap do |file|
      # White but for the square.
      white = Vips::Image.black(800, 700).invert.copy(interpretation: :srgb)
      white.bandjoin([white, white]).mutate do |image|
        image.draw_rect!([200.0, 40.0, 40.0], 400, 100, 250, 250, fill: true)
      end.write_to_file(file.path)
    end
  end

  before { enter orla }

  def text = Nokogiri::HTML(last_response.body).text.squeeze(" \n")
  def measures = Vestry::Records::PictureMeasure.order(:id).all

  def send_picture(told, **more)
    get "/o/#{here.slug}/survey/trees/#{stub.tree_id}?limb=#{stub.id}"
    post "/o/#{here.slug}/survey/trees/#{stub.tree_id}/photos",
         { "photo" => Rack::Test::UploadedFile.new(picture.path, "image/jpeg"), "limb" => stub.id.to_s,
           "client_key" => SecureRandom.uuid, "authenticity_token" => token,
           "measures" => told.is_a?(String) ? told : JSON.generate(told) }.merge(more.transform_keys(&:to_s))
  end

  it "is kept with its picture and marks, reckoned here, and shown with how far off it may be" do
    send_picture([{ what: "opening", **marks }])
    expect(last_response.status).to eq 302
    measure = measures.first
    expect(measure).to have_attributes(what: "opening", by: "Orla Finch", a_mm: be_within(1e-6).of(50 * Math.sqrt(2)),
                                       area_mm2: be_within(1e-6).of(2500), error_mm: be_between(0.2, 3))
    expect(measure.photo).to have_attributes(limb_id: stub.id, taken_on: World::TODAY)
    follow_redirect!
    expect(text).to include("open 71 mm ±")
    get "/o/#{here.slug}/survey/measures/#{measure.id}"
    expect(text).to include("Longest", "71 mm ±", "25.0 cm²", "Across it")
    expect(JSON.parse(Nokogiri::HTML(last_response.body).at("[data-marks]")["data-marks"])["points"].size).to eq 4
  end

  it "takes as many measures of one picture as are made on it, up to five" do
    send_picture([{ what: "opening", **marks }] * 5)
    expect([last_response.status, measures.size]).to eq [302, 5]
    send_picture([{ what: "opening", **marks }] * 6)
    expect([last_response.status, measures.size]).to eq [422, 5]
    expect(text).to include "The marks cannot be read."
  end

  it "corrects the marks of the version that was seen, and of no other" do
    send_picture([{ what: "stub", **marks }])
    measure = measures.first
    wide = { **marks, points: [[400, 100], [700, 100], [700, 350], [400, 350]] }
    send = lambda do |version|
      get "/o/#{here.slug}/survey/measures/#{measure.id}"
      post "/o/#{here.slug}/survey/measures/#{measure.id}", "marks" => JSON.generate(wide), "version" => version.to_s,
                                                            "authenticity_token" => token
    end
    same = { marks: JSON.generate(measure.marks), version: "1" }
    get "/o/#{here.slug}/survey/measures/#{measure.id}"
    post "/o/#{here.slug}/survey/measures/#{measure.id}", same.merge(authenticity_token: token)
    expect([last_response.status, measure.refresh.version]).to eq [302, 1]
    send[1]
    expect([last_response.status, measure.refresh.area_mm2, measure.version])
      .to match [302, be_within(1e-6).of(3000), 2]
    wide[:points][1][0] = wide[:points][2][0] = 720
    send[1]
    expect([last_response.status, measure.refresh.version]).to eq [409, 2]
    get "/o/#{here.slug}/history"
    expect(text).to include("measure in a picture")
  end

  it "keeps nothing of what measures nothing, is not marks, or measures what nobody measures" do
    crossed = [{ what: "girth", **marks, corners: marks[:corners].values_at(0, 2, 1, 3) }]
    { crossed => "none crossing", [{ what: "weight", **marks }] => "nothing that is measured",
      [{ what: "girth", **marks, points: [] }] => "3 to 60 points", "not json" => "cannot be read",
      "[1]" => "cannot be read", [{ what: "girth", **marks, points: [["x", 1], [2, 3], [4, 5]] }] => "points[0][0]" }
      .each do |told, words|
      send_picture(told)
      expect([told, last_response.status, text]).to match [told, 422, include(words)]
    end
    expect([measures.size, Vestry::Records::Photo.count]).to eq [0, 0]
  end

  it "is one photo and one measure however often a phone sends it" do
    key = SecureRandom.uuid
    2.times { send_picture([{ what: "stub", **marks }], client_key: key) }
    expect([measures.size, Vestry::Records::Photo.count]).to eq [1, 1]
  end

  it "is one photo and one measure of two that a phone sends at once" do
    key, told = SecureRandom.uuid, [{ what: "stub", **marks }]
    Array.new(3) do
      Thread.new do
        Vestry::Deeds::KeepPhoto.call(Vestry::Records::Tree[stub.tree_id], File.open(picture.path, "rb"), by: "Orla",
                                      today: World::TODAY, client_key: key, measures: told)
      end
    end.each(&:join)
    expect([measures.size, Vestry::Records::Photo.count]).to eq [1, 1]
  end

  it "lays a stub's pictures flat to one scale, the opening drawn over, and moves with neither its camera" do
    kind = variety(here)
    grafted = graft(stub, variety_id: kind.id, grafted_on: Date.new(2024, 4, 20))
    askew = { **marks, corners: [[100, 400], [390, 420], [380, 610], [110, 590]] }
    [marks, askew].each_with_index do |told, i|
      send_picture([{ what: "opening", **told }], taken_on: (World::TODAY - 100 * i).iso8601)
    end
    get "/o/#{here.slug}/tally/grafts/#{grafted.id}"
    page = Nokogiri::HTML(last_response.body)
    expect(page.css(".openings figure").size).to eq 2
    flat = page.css(".openings image").map { |image| image["href"] }
    expect(flat.map { |address| address[/mm=(\d+)/, 1] }.uniq.size).to eq 1
    get flat.last
    expect(last_response.media_type).to eq "image/jpeg"
    image = Vips::Image.new_from_buffer(last_response.body, "")
    side = flat.last[/mm=(\d+)/, 1].to_i
    expect(image.width).to eq side * 4
    # The square is 50 mm: 200 pixels, about the middle.
    middle = image.width / 2
    inside, outside = [95, 106].map { |off| image.getpoint(middle + off, middle)[1] }
    expect([inside, outside]).to match [be < 100, be > 180]
  end

  it "takes a measure away and brings it back, and comes out and in with the orchard" do
    send_picture([{ what: "stub", **marks }])
    measure = measures.first
    get "/o/#{here.slug}/history/picture_measures/#{measure.id}/hide"
    post "/o/#{here.slug}/history/picture_measures/#{measure.id}/hide", "authenticity_token" => token
    get "/o/#{here.slug}/survey/measures/#{measure.id}"
    expect(last_response.status).to eq 404
    post "/o/#{here.slug}/history/picture_measures/#{measure.id}/restore", "authenticity_token" => token
    expect(measure.refresh.hidden_at).to be_nil
    Dir.mktmpdir do |folder|
      Vestry::Records::Archive.write(here, folder)
      rows = CSV.read(File.join(folder, "picture_measures.csv"), headers: true)
      expect(rows.map { |row| [row["photo"], row["what"], JSON.parse(row["marks"])["kind"]] })
        .to eq [["P1", "stub", "outline"]]
    end
  end

  it "prints a card of the size that the rulebook has, on both papers" do
    { "a4" => [595, 841], "letter" => [612, 792] }.each do |paper, size|
      get "/o/#{here.slug}/survey/card.pdf?paper=#{paper}"
      page = PDF::Reader.new(StringIO.new(last_response.body)).pages.first
      expect(page.text).to include("60 × 40 mm", "this side up", "at its own size")
      expect(page.attributes[:MediaBox].last(2).map(&:to_i)).to eq size
      # 60 mm and 40 mm in points.
      expect(page.raw_content).to match(/170\.07\d* 113\.38\d* re/)
    end
  end

  it "is reached by nobody of another orchard" do
    send_picture([{ what: "stub", **marks }])
    id = measures.first.id
    clear_cookies
    enter person("Other Steward", steward: orchard)
    %W[measures/#{id} measures/#{id}/flat].each do |path|
      get "/o/#{here.slug}/survey/#{path}"
      expect(last_response.status).to eq 404
      get "/o/trial-2/survey/#{path}"
      expect(last_response.status).to eq 404
    end
  end
end
