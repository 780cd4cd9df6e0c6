# frozen_string_literal: true

require_relative "../support/object_store"
require "tmpdir"

RSpec.describe Vestry::Outside::PhotoPlace do
  let(:store) { ObjectStore.new }
  let(:photos) { Vestry::Outside::PhotoStore }
  let(:picture) { Vips::Image.black(60, 40, bands: 3).write_to_buffer(".jpg") }

  before { allow(Vestry::Settings).to receive(:photos).and_return(store.address) }
  after { store.close }

  it "keeps pictures in a bucket, reads them, and takes them away" do
    kept = photos.keep(StringIO.new(picture))
    expect(store.objects.keys).to match_array(kept.values.map { |data| "orchards/#{data['id']}" })
    expect(Vips::Image.new_from_buffer(photos.read(kept["large"]), "").size).to eq [60, 40]
    expect(photos.kept).to match(kept.values.to_h { |data| [data["id"], be_within(60).of(Time.now)] })
    photos.delete(kept)
    expect(store.objects).to eq({})
    expect { photos.read(kept["large"]) }.to raise_error(Vestry::Records::Missing)
  end

  it "takes none while the store is away, and says so; what is kept is not lost" do
    kept = photos.keep(StringIO.new(picture))
    store.mood = :away
    expect { photos.keep(StringIO.new(picture)) }
      .to raise_error(Vestry::Outside::PhotoStore::NotAPicture, "cannot be kept here just now")
    expect { photos.read(kept["large"]) }.to raise_error(Vestry::Outside::PhotoStore::Away)
    store.mood = nil
    expect(photos.read(kept["small"])).to start_with("\xFF\xD8".b)
    expect(store.objects.size).to eq 2
  end

  it "throws away what no photo points at, as in a folder" do
    kept = photos.keep(StringIO.new(picture))
    store.objects.transform_values! { |bytes, at| [bytes, at - 8 * 86_400] }
    photos.keep(StringIO.new(picture))
    Vestry::Deeds::Purge.photos
    expect(store.objects.keys & kept.values.map { |data| "orchards/#{data['id']}" }).to eq []
    expect(store.objects.size).to eq 2
  end

  it "writes every picture into a folder, and keeps them again from it" do
    photos.keep(StringIO.new(picture))
    before = store.objects.transform_values(&:first)
    Dir.mktmpdir do |folder|
      photos.copy_out(folder)
      store.objects.clear
      photos.copy_in(folder)
    end
    expect(store.objects.transform_values(&:first)).to eq before
  end

  it "is looked at by the check of the installation: who knows no key, what is away" do
    found = -> { Vestry::Outside::SelfCheck.all.find { |finding| finding.what == "photos" } }
    expect(found.call).to have_attributes(ok: true)
    allow(Vestry::Settings).to receive(:photos).and_return(store.address.sub("orchard-key", "another"))
    expect(found.call).to have_attributes(ok: false)
    allow(Vestry::Settings).to receive(:photos).and_return(nil)
    expect(found.call).to be_nil
  end
end
