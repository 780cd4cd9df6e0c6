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

  it "carries a bare stretch with the stubs of its tree, and what it takes, on the page as on paper" do
    tree = here.trees_dataset.first(row: "A", number: 6)
    sheet = -> { Vestry::Records::DaySheet.new(Vestry::Records::Orchard[here.id], World::TODAY, World::TODAY) }
    tape = -> { sheet.call.materials.find { |each| each[:item] == "stretch-tape" }[:amount] }
    without = tape.call
    [[tree, "N"], [here.trees_dataset.first(row: "B", number: 1), "M"]].each do |where, tag|
      site = Vestry::Deeds::MarkSite.call(where, { tag: tag, at_mm: 700.0, bearing_deg: 90.0, diameter_mm: 120 },
                                          by: "Orla")
      Vestry::Deeds::DecideSite.call(site, { role: "work", technique: "side-bark" }, by: "Orla", season: 2026)
    end
    read = text(pdf("graft/sheet.pdf?on=#{World::TODAY}"))
    expect(read).to words("A6 N", "A bare stretch 700 mm up the trunk, facing E (90°): side bark graft, 1 stick.")
    expect(read).not_to words("B1 M")
    get "/o/maunder-hill/graft/sheet?on=#{World::TODAY}"
    expect(last_response.body).to include("A6 N: no variety yet", "No head is cut off.")
    expect(tape.call).to be > without
  end

  it "says how the day can hurt as the page does: of what is carried, too" do
    said = lambda do
      get "/o/maunder-hill/graft/sheet?on=#{World::TODAY}"
      page = Nokogiri::HTML5(last_response.body).css(".fold-caution .caution b").map { |each| each.text.delete(". ") }
      read = text(pdf("graft/sheet.pdf?on=#{World::TODAY}"))
      [page, %w[Knife. Ladder. Saw. Hotwax. Pinsandnails.].select { |title| read.include?(title) }]
    end
    expect(said.call).to eq [%w[Knife Ladder Saw Hotwax], %w[Knife. Ladder. Saw. Hotwax.]]
    here.update(school: "covered-inlay")
    Vestry::Records::Plan.where(orchard_id: here.id).update(school: "covered-inlay")
    expect(said.call).to eq [%w[Knife Ladder Saw Pinsandnails], %w[Knife. Ladder. Saw. Pinsandnails.]]
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

  it "says on the next page whose the rest of a tree's stubs are" do
    pages = pdf("graft/sheet.pdf?on=#{World::TODAY}&paper=letter").pages.map { |page| page.text.squeeze(" ") }
    broken = pages.each_cons(2).filter_map do |before, after|
      last, first = before.scan(/^\s*([A-W]\d+) [A-Z]\d? /).flatten.last, after[/^\s*([A-W]\d+) [A-Z]\d? /, 1]
      [last, after] if last && last == first
    end
    expect(broken).not_to be_empty
    expect(broken.reject { |label, after| after.match?(/#{label}\s*,\s*continued/) }).to eq []
  end

  it "has names in other letters than ours, Chinese and Korean ones among them" do
    Vestry::Records::Variety.where(orchard_id: here.id).all.each { |kind| kind.update(name: "红玉 사과 Дул #{kind.id}") }
    expect(text(pdf("graft/labels.pdf?on=#{World::TODAY}"))).to match(/红玉사과Дул\d/)
    expect(text(pdf("graft/sheet.pdf?on=#{World::TODAY}"))).to match(/红玉사과Дул\d/)
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

  # Where each letter of a page stands, in points from its lower left corner.
  def letters(pdf)
    PDF::Reader.new(StringIO.new(pdf)).pages.flat_map { |page| page.runs(merge: false) }
  end

  it "keeps each label within its own lines, however long its words and however many to a sheet" do
    facts = { tag: "AAAAAAAA100000 ABCDEFGHIJKL", variety: "Äußerst langer Sortenname " * 4, code: "ABCDEFGH",
              method: "Bark graft under a flap that is bound", day: World::TODAY, scratch: "A100000ABCDEFGHIJKL" }
    long = Vestry::Sheets::Labels::Label.new(address: "https://orchard.example/t/ABCDEFGH", **facts)
    # Reading each square of each code takes its time: where there are many, they are codes of few squares.
    many = Vestry::Sheets::Labels::Label.new(address: "A", **facts)
    Vestry::Sheets::Labels::SHEETS.each do |sheet, (across, down)|
      # A row on one paper, and down to the foot on the other.
      { "a4" => [long] + [many] * (across - 1), "letter" => [many] * (across * down) }.each do |size, labels|
        wide, high = { "a4" => [595.28, 841.89], "letter" => [612, 792] }[size].map { |side| side - 40 }
        runs = letters(Vestry::Sheets::Labels.new(labels, size: size, sheet: sheet).pdf)
        crossing = runs.select do |run|
          column = ((run.x - 20) / (wide / across)).floor
          run.x - 20 + run.width > (column + 1) * wide / across || run.x < 20 || run.y < 20 || run.y > 20 + high
        end
        expect([sheet, size, crossing.map(&:text)]).to eq [sheet, size, []]
      end
    end
  end

  it "has a card of one page for a tree, on both papers, with a drawing of its own and what each limb carries" do
    tree = here.trees_dataset.first(row: "A", number: 1)
    %w[a4 letter].each do |size|
      reader = pdf("share/trees/#{tree.id}/card.pdf?paper=#{size}")
      expect([reader.page_count, reader.pages.first.attributes[:MediaBox].last(2).map(&:round)])
        .to eq [1, size == "a4" ? [595, 842] : [612, 792]]
      expect(text(reader)).to words(tree.label, tree.code, "grafted 21 April 2025")
    end
    many = tree(here, row: "Q", number: 1)
    70.times { |i| limb(many, "L#{i}") }
    expect(pdf("share/trees/#{many.id}/card.pdf").page_count).to eq 1
  end

  it "prints names from anywhere" do
    here.varieties.find { |each| each.name == "Tollgate Amber" }.update(name: "Čáslavka œuf")
    expect(text(pdf("graft/sheet.pdf?on=#{World::TODAY}"))).to words("Čáslavka œuf")
    here.varieties.find { |each| each.name == "Čáslavka œuf" }.update(name: "Антоновка Αχλάδι")
    expect(text(pdf("graft/sheet.pdf?on=#{World::TODAY}"))).to words("Антоновка Αχλάδι")
  end
end
