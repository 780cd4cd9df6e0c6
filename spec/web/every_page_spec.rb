# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# Every page of both orchards, by following every link; and every page asked for what nobody should ask.
RSpec.describe "Every page" do
  include Rack::Test::Methods
  include EveryRoute

  let(:app) { Vestry::Web::Stack.build }
  let(:north) { demo }
  let(:south) { Vestry::Records::Archive.read(File.join(Vestry::ROOT, "demo/tern-flat")) }

  # What a page is, whichever tree, day or limb it is about: one of each is opened.
  def shape(address)
    path, query = address.split("?", 2)
    asked = query.to_s.scan(/(?:\A|&)([a-z_\[\]]+)=/).flatten.sort
    [path.gsub(%r{/\d+}, "/N").gsub(%r{/rows/[^/]+}, "/rows/R").sub(%r{(/rulebook/entry/[a-z]+\.?[a-z-]*).*}, '\1'),
     # Paper is the same of whatever is asked, and a page's drawing is looked at on the page.
     path.end_with?(".pdf") ? [] : asked.include?("drawing") ? ["drawing"] : asked]
  end

  # Links that only show the same page otherwise, and multiply with each other, say so.
  def links(html) = html.css("a[href]:not([rel=nofollow])").map { |each| each["href"] }

  # What was answered, where it is a page.
  def html = last_response.media_type == "text/html" ? Nokogiri::HTML(last_response.body) : nil

  def walk(from)
    waiting, seen, counts, wrong = [from], {}, Hash.new(0), []
    while (address = waiting.shift)
      next if seen[address] || (counts[shape(address)] += 1) > 1

      seen[address] = true
      opened = yield address, wrong
      next unless last_response.status == 200 && opened.is_a?(Nokogiri::XML::Node)

      links(opened).each do |href|
        target = href.start_with?("?") ? "#{address[/\A[^?]+/]}#{href}" : href.sub(/#.*/, "")
        waiting << target if target.start_with?("/o/", "/you", "/begin", "/bring")
      end
    end
    [seen.keys, wrong]
  end

  # What a program says and a grower does not.
  NO_WORDS = /must be an?\b|invalid format|"=>|\bdd\b|\bby yes\b|\bNaN\b|\bInfinity\b|\bnil\b|#<|answered \d{3}/

  def programs_words(html) = html.css("main").text.scan(NO_WORDS).uniq

  # What an orchard of inches says in other units; the rulebook's own figures apart.
  METRIC = /\d ?(?:mm|cm|m|km|°C|m\/s)\b/

  def foreign_units(html, address, here)
    return [] if here.units != "imperial" || !address.start_with?("/o/") ||
                 address.match?(%r{/(?:rulebook|history|files)\b})

    # A number may stand in bold, and its unit beside it.
    told = html.css("main").xpath(".//text()[not(ancestor::script or ancestor::style or ancestor::option)]").map(&:text)
    [told.join.gsub(/\s+/, " "), *html.css("main").xpath(".//@placeholder|.//@aria-label").map(&:text)]
      .flat_map { |text| text.scan(/.{0,60}(?:#{METRIC})/) }.uniq.first(3)
  end

  # Names that stand twice on a page, so that a label leads to the wrong field, and links that lead nowhere.
  def astray(html)
    ids = html.css("[id]").map { |each| each["id"] }
    [*ids.tally.select { |_, times| times > 1 }.keys.map { |id| "twice: #{id}" },
     *html.css("label[for]").map { |each| each["for"] }.reject { |id| ids.include?(id) }.map { |id| "no field: #{id}" },
     *html.css("a[href='']").map { |each| "no address: #{each['aria-label'] || each.text}" }].first(3)
  end

  { "the north" => :north, "the south" => :south }.each do |words, which|
    it "opens, wherever a link in #{words} leads" do
      here = public_send(which)
      enter person("Hanna Sorrel", steward: here)
      seen, wrong = walk("/o/#{here.slug}/survey") do |address, found|
        get address
        found << [address, last_response.status] unless [200, 302].include?(last_response.status)
        html&.tap do |opened|
          amiss = programs_words(opened) + foreign_units(opened, address, here) + astray(opened)
          found << [address, *amiss] if amiss.any?
        end
      rescue StandardError => e
        found << [address, e.class.name, e.message[0, 120],
                  e.backtrace.find { |line| line.include?("/vestry") || line.include?(Vestry::ROOT) }]
      end
      expect(wrong).to eq []
      expect(seen.size).to be > 60
      expect(seen.map { |address| address[%r{\A/o/[^/]+/([a-z]+)}, 1] }.compact.uniq)
        .to include("survey", "plan", "wood", "slip", "graft", "tend", "tally", "repair", "rulebook", "settings",
                    "history", "files", "people", "varieties")
    end
  end

  HOSTILE = ["page[]=1", "page[x]=1", "kind[a]=b", "row[]=A&row[]=B", "page=-1", "page=99999999999999999999",
             "page=1e9", "limb=%27%3B--", "at=2200", "at=NaN", "at=-1e400", "season=2147483648", "from=abc", "from=-90",
             "year=99999", "on=2026-02-30",
             "on=now", "on=infinity", "q=%25%5F%5C", "row=%3Cscript%3E", "row=#{'A' * 3000}", "before=x", "cap=-5",
             "stub=1e999", "scion=0", "technique=weld", "drawing=999", "x=NaN&y=Infinity&w=0", "x[]=1&y=&w=-3",
             "after=zz", "paper[]=a4", "by=;drop", "limb=9999999999"].freeze

  it "answers hostile questions, whatever is asked of it" do
    here = north
    enter person("Hanna Sorrel", steward: here)
    Vestry::Deeds::Overrule.call(here, "reckoning.cut.taper", "0.6", why: "measured", by: "Hanna Sorrel",
                                 today: World::TODAY)
    pages = every_route(here).select { |method, path, _| method == "GET" && !path.end_with?(".pdf", ".zip", ".csv") }
      .map { |_, path, _| path } - ["/o/#{here.slug}/graft/pocket"]
    expect(pages.size).to be > 40
    wrong = pages.each_with_index.flat_map do |path, place|
      # Those that read most of what is asked are asked more; hostile_params_spec asks all of them for other things.
      every = path.end_with?("/cut", "/window", "/history", "/plan") ? 3 : HOSTILE.size
      HOSTILE.select.with_index { |_, i| ((i + place) % every).zero? }.filter_map do |query|
        get "#{path}?#{query}"
        ["#{path}?#{query}", last_response.status] if last_response.status >= 500
      rescue StandardError => e
        ["#{path}?#{query[0, 60]}", e.class.name, e.message[0, 120],
         e.backtrace.find { |line| line.start_with?("#{Vestry::ROOT}/web", "#{Vestry::ROOT}/records",
                                                    "#{Vestry::ROOT}/core", "#{Vestry::ROOT}/drawings") }]
      end
    end
    expect(wrong.uniq { |each| each.drop(1) }).to eq []
  end
end
