# frozen_string_literal: true

require "open3"
require "rack/test"
require "tmpdir"

RSpec.describe "Labels as a phone reads them", :database do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  # What the codes of a sheet say, each cut out where its label lies.
  def read(pdf, sheet, many)
    across, down = Vestry::Sheets::Labels::SHEETS.fetch(sheet)
    picture = Vips::Image.pdfload_buffer(pdf, dpi: 220).flatten.cast("uchar")
    wide, high = [picture.width, picture.height].zip([across, down]).map { |all, some| (all - 2 * edge) / some.to_f }
    Dir.mktmpdir do |folder|
      files = Array.new(many) do |i|
        left, top = edge + i % across * wide, edge + i / across * high
        cut = picture.crop(left.round, top.round, wide.floor, high.floor).bandjoin(255)
        path = File.join(folder, i.to_s)
        File.binwrite(path, cut.write_to_memory)
        "#{cut.width}x#{cut.height}:#{path}"
      end
      Open3.capture2("node", File.join(__dir__, "../support/read_codes.mjs"), *files).first.lines.map(&:chomp)
    end
  end

  def edge = (20 * 220 / 72.0).round

  def labels(path)
    get path
    last_response.body
  end

  it "say an address that opens the same limb, on every sheet and paper, also after the orchard moved house" do
    enter person(steward: here)
    limbs = Vestry::Records::GraftQueries.grafts(here, on: Date.new(2026, 4, 21)).map(&:limb)
    known = Vestry::DB[:limbs].select_map(:code).map { |code| "#{Vestry::Settings.address}/t/#{code}" }
    # Every kind of sheet, on one paper or the other.
    Vestry::Sheets::Labels::SHEETS.keys.zip(%w[a4 letter].cycle).each do |sheet, paper|
      pdf = labels("/o/maunder-hill/graft/labels.pdf?on=2026-04-21&labels=#{sheet}&paper=#{paper}")
      said = read(pdf, sheet, 3)
      expect([sheet, paper, said.uniq.size, said - known]).to eq [sheet, paper, 3, []]
    end
    opens = limbs.map { |limb| [limb.code, limb.label] }

    Dir.mktmpdir do |folder|
      Vestry::Records::Archive.pack(here, "#{folder}/o.zip")
      Slate.wipe
      moved = Vestry::Records::Archive.read("#{folder}/o.zip", slug: "elsewhere")
      clear_cookies
      enter person(steward: moved)
      opens.each do |code, label|
        get "/t/#{code}"
        follow_redirect!
        expect([label, last_response.body.include?(label)]).to eq [label, true]
      end
    end
  end
end
