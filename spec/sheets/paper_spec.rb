# frozen_string_literal: true

require "pdf/reader"
require "rack/test"

RSpec.describe "Sheets on paper", :database do
  include Rack::Test::Methods
  include World

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  before { enter person(grafter: here) }

  def pdf(path)
    get "/o/maunder-hill/#{path}"
    expect([last_response.status, last_response.content_type]).to eq [200, "application/pdf"]
    PDF::Reader.new(StringIO.new(last_response.body))
  end

  # Its words run together: what stands apart on paper is not always apart in the file.
  def text(reader) = reader.pages.map(&:text).join.gsub(/\s+/, "")
  def words(*all) = include(*all.map { |each| each.delete(" ") })

  it "carries the day's cards: what to carry, each stub's place, method and sticks" do
    read = text(pdf("graft/sheet.pdf?on=#{World::TODAY}"))
    expect(read).to words("Maunder Hill: 18 May 2026", "To carry", "stretch tape", "Wood 2 Tollgate Amber")
    expect(read).to words("A6 A Tollgate Amber", "Rind graft, 2 sticks:", "439 mm from the fork",
                          "bark: clean / reluctant / none")
    expect(read.scan("Done[]").size).to eq 14
  end

  it "fits A4 and Letter, and breaks no card over two pages" do
    a4, letter = pdf("graft/sheet.pdf?on=#{World::TODAY}"), pdf("graft/sheet.pdf?on=#{World::TODAY}&paper=letter")
    expect(a4.pages.first.attributes[:MediaBox].map(&:round)).to eq [0, 0, 595, 842]
    expect(letter.pages.first.attributes[:MediaBox].map(&:round)).to eq [0, 0, 612, 792]
    expect([a4.page_count, letter.page_count]).to all be_between(2, 4)
    a4.pages.each { |page| expect(page.text.scan(/Done/).size).to eq page.text.scan(/sticks?:/).size }
  end

  it "says so when there is nothing to do, and knows no day that is none" do
    expect(text(pdf("graft/sheet.pdf?on=2026-12-24"))).to words("Nothing is to be grafted on this day.")
    get "/o/maunder-hill/graft/sheet.pdf?on=someday"
    expect(last_response.status).to eq 404
  end

  it "has a label for each stub, with what to scratch into a tag" do
    reader = pdf("graft/labels.pdf?on=#{World::TODAY}")
    expect(reader.page_count).to eq 1
    expect(text(reader)).to words("Skylark Russet", "A6 A 18 May 2026", "A6A TOLLGA 18.5.26")
    many = Array.new(25) do |i|
      Vestry::Sheets::Labels::Label.new(tag: "A#{i} B", variety: "Evensong", method: "Rind graft", day: World::TODAY,
                                        address: "http://orchard.example/#{i}", scratch: "A#{i}B")
    end
    expect(PDF::Reader.new(StringIO.new(Vestry::Sheets::Labels.new(many).pdf)).page_count).to eq 2
  end

  it "prints names from anywhere" do
    here.varieties.find { |each| each.name == "Tollgate Amber" }.update(name: "Čáslavka œuf")
    expect(text(pdf("graft/sheet.pdf?on=#{World::TODAY}"))).to words("Čáslavka œuf")
  end
end
