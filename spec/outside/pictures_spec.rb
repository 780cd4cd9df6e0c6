# frozen_string_literal: true

require "tmpdir"

RSpec.describe Vestry::Outside::PhotoStore do
  around { |example| Dir.mktmpdir { |folder| @var = folder; example.run } }
  before { allow(Vestry::Settings).to receive(:var).and_return(@var) }

  def picture(width, height, suffix = ".png", **more)
    Vips::Image.black(width, height, bands: 3).write_to_buffer(suffix, **more)
  end
  def refusal(bytes) = described_class.keep(StringIO.new(bytes)) && nil
  def said(bytes) = refusal(bytes) rescue $!.message

  # A JPEG that says where it was taken and what with.
  def telling
    image = Vips::Image.black(60, 40, bands: 3).mutate do |each|
      each.set_type!(GObject::GSTR_TYPE, "exif-ifd0-Model", "a camera")
    end
    image.write_to_buffer(".jpg").tap { |bytes| expect(bytes).to include("Exif") }
  end

  it "keeps two sizes of what is sent, without what it carries beside the picture" do
    kept = described_class.keep(StringIO.new(telling))
    expect(kept.keys).to eq %w[large small]
    kept.each_value { |data| expect(described_class.read(data)).not_to include("Exif") }
    sizes = described_class.keep(StringIO.new(picture(3000, 1500))).transform_values do |data|
      Vips::Image.new_from_buffer(described_class.read(data), "").size
    end
    expect(sizes).to eq("large" => [2000, 1000], "small" => [480, 240])
  end

  it "refuses what has too many points before it is decoded, what is cut short, and what is no picture" do
    expect(said(picture(8900, 8900))).to include("more than 30 million points")
    whole = Vips::Image.gaussnoise(400, 400).cast("uchar").write_to_buffer(".jpg")
    expect(said(whole[0, whole.bytesize / 2])).to include("is not a whole photo")
    ["", "GIF89a", "<svg xmlns='http://www.w3.org/2000/svg'/>", "%PDF-1.4"].each do |bytes|
      expect(said(bytes)).to include("is not a whole photo")
    end
    expect(Dir[File.join(@var, "photos", "*")]).to eq []
  end

  it "ends a picture that takes too long, and takes the next" do
    stub_const("Vestry::Outside::PictureShrinker::MOST_SECONDS", 0)
    expect(said(picture(900, 900))).to include("within the room and time there is")
    stub_const("Vestry::Outside::PictureShrinker::MOST_SECONDS", 20)
    expect(refusal(picture(90, 90))).to be_nil
  end

  it "shrinks one at a time" do
    under_way = most = 0
    gate = Mutex.new
    allow(Vestry::Outside::PictureShrinker).to receive(:run).and_wrap_original do |run, *args|
      gate.synchronize { most = [most, under_way += 1].max }
      run.call(*args)
    ensure
      gate.synchronize { under_way -= 1 }
    end
    Array.new(4) { Thread.new { described_class.keep(StringIO.new(picture(50, 50))) } }.each(&:join)
    expect(most).to eq 1
  end

  describe "brought in with an orchard" do
    def back(large, small = picture(40, 20, ".jpg")) = described_class.take_back("large" => large, "small" => small)

    it "is byte for byte what it was, but for what it carries beside the picture" do
      plain = picture(60, 40, ".jpg", strip: true)
      expect(described_class.read(back(plain)["large"])).to eq plain
      kept = described_class.read(back(telling)["large"])
      expect(kept).not_to include("Exif")
      expect(Vips::Image.new_from_buffer(kept, "").size).to eq [60, 40]
    end

    it "is a whole JPEG of a size that is kept here, or none is kept" do
      whole = Vips::Image.gaussnoise(300, 300).cast("uchar").write_to_buffer(".jpg")
      [whole[0, whole.bytesize / 2], picture(60, 40, ".png"), picture(2100, 20, ".jpg"), "", "\xFF\xD8\xFF\xD9".b]
        .each do |bytes|
        expect { back(bytes) }.to raise_error(described_class::NotAPicture)
      end
      expect { back(picture(60, 40, ".jpg"), picture(600, 20, ".jpg")) }
        .to raise_error(described_class::NotAPicture, /480 is the longest/)
      expect(Dir[File.join(@var, "photos", "*")]).to eq []
    end
  end
end
