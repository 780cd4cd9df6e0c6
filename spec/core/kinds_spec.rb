# frozen_string_literal: true

RSpec.describe "The kinds of stock", :core do
  let(:book) { Vestry::Core::Rulebook.shipped }
  let(:evergreens) { %w[citrus avocado mango] }

  it "are all that are grafted here, each with every figure and on its own kind good" do
    expect(book.species_names).to include("sour-cherry", "asian-plum", "almond", "mulberry", "hazel", "hickory",
                                          "hawthorn", "serviceberry", "lotus-persimmon", "american-persimmon",
                                          *evergreens)
    expect(book.faults).to eq []
    expect(book.species_names.map { |name| book.compatibility(name, name)["value"] }.uniq).to eq ["good"]
    later = book.species_names - %w[apple pear quince medlar plum cherry apricot peach fig chestnut pecan persimmon
                                    walnut]
    expect(later.map { |name| book.book("species").dig("names", name, "from") }).to all(match(/\w+ \w+/))
  end

  it "say of a pair what holds each way round" do
    pair = ->(stock, scion) { book.compatibility(stock, scion)["value"] }
    expect([pair["cherry", "sour-cherry"], pair["sour-cherry", "cherry"]]).to eq %w[good workable]
    expect([pair["hawthorn", "medlar"], pair["medlar", "hawthorn"]]).to eq %w[good refused]
    expect([pair["serviceberry", "pear"], pair["pear", "serviceberry"]]).to eq %w[workable refused]
    expect([pair["lotus-persimmon", "persimmon"], pair["persimmon", "lotus-persimmon"]]).to eq %w[workable refused]
    expect([pair["asian-plum", "plum"], pair["plum", "asian-plum"]]).to eq %w[workable workable]
    expect(pair["walnut", "apple"]).to eq "refused"
  end

  it "lose to frost what their own nights at each stage take" do
    # Ten degree-days a day above 5: bloom from 100 to 140 is the 10th to the 14th day, buds swell from 45, and
    # fruitlets are tender to 230.
    year = Array.new(40) { |n| { date: Date.new(2025, 3, 1) + n, min_c: 10, max_c: 20 } }
    night = lambda do |on, celsius|
      year.map.with_index(1) { |day, n| n == on ? day.merge(min_c: celsius, max_c: 30 - celsius) : day }
    end
    of = lambda do |species, history|
      Vestry::Core::Plan::FrostStages.of(species: species, base_c: 5, from_dd: 100, to_dd: 140, history: [history])
    end
    told = of["apple", night[12, -3.05]]
    none, half = be_within(1e-6).of(0), be_within(1e-6).of(0.5)
    expect(told[:stages]).to match("swelling" => none, "bloom" => half, "fruitlets" => none)
    expect(told[:lost]).to half
    expect(of["hazel", night[12, -3.05]][:lost]).to be < 0.02
    walnut = of["walnut", night[7, -5.0]][:stages]
    expect(walnut).to match("swelling" => half, "bloom" => be < 0.01, "fruitlets" => none)
    expect(of["apple", night[20, -3.05]][:stages]["fruitlets"]).to half
  end

  it "lose a tenth and nine tenths at their two nights, and by a curve between and beyond" do
    taken = ->(celsius) { Vestry::Core::Plan::FrostStages.taken(celsius, -2.2, -3.9) }
    expect([taken[-2.2], taken[-3.05], taken[-3.9]]).to match([0.1, 0.5, 0.9].map { |share| be_within(1e-9).of(share) })
    # Half as far again beyond each: odds of 9 to 1 become 81 to 1.
    expect([taken[-1.35], taken[-4.75]]).to match [be_within(1e-9).of(1 / 82.0), be_within(1e-9).of(81 / 82.0)]
    losses = (-60..20).map { |tenths| taken[tenths / 10.0] }
    expect(losses).to eq losses.sort.reverse
  end

  it "say between which their losses lie in eight springs of ten" do
    spring = lambda do |year, celsius|
      Array.new(40) do |n|
        least = n == 11 ? celsius : 10
        { date: Date.new(year, 3, 1) + n, min_c: least, max_c: 30 - least }
      end
    end
    history = (2016..2025).map { |year| spring[year, year == 2016 ? -9 : year == 2017 ? -3.05 : 2] }
    told = Vestry::Core::Plan::FrostStages.of(species: "apple", base_c: 5, from_dd: 100, to_dd: 140, history: history)
    expect(told[:spread]).to match [be < 0.001, be_within(1e-3).of(0.5)]
    expect(told[:lost]).to be_within(1e-3).of(0.15)
  end

  describe "that keep their leaves" do
    it "wait for warm nights, which others do not" do
      day = { date: "2026-05-20", min_c: 14.0, max_c: 26.0 }
      verdict = ->(species) { reckon("graft-day", species: species, needs_slip: false, days: [day])[:days].first }
      evergreens.each do |species|
        expect(verdict[species]).to include(verdict: "wait", reasons: [{ code: "day_cool_night", celsius: 14.0 }])
      end
      expect(verdict["fig"][:verdict]).to eq "good"
      expect(reckon("graft-day", species: "citrus", needs_slip: false,
                                 days: [day.merge(min_c: 15.0)])[:days].first[:verdict]).to eq "good"
    end

    it "are grafted with leafy wood cut on the day, and shaded for three weeks" do
      steps = lambda do |species|
        figures = Vestry::Core::Graft::Figures.of("bark", stub_mm: 40.0, scion_mm: 9.0, bark_mm: 2.0)
        Vestry::Core::Graft::Steps.of("bark", figures, stub_mm: 40.0, species: species, school: "waxed-rind", &:to_s)
          .map { |step| step[:does] }
      end
      expect(steps["mango"].grep(/leaves off/).size).to eq 1
      expect(steps["mango"].grep(/ends stand in water/)).to eq []
      expect(steps["apple"].grep(/leaves off/)).to eq []
      tasks = lambda do |species, today|
        reckon("care", graft: { grafted_on: "2026-05-20", method: "bark", species: species }, today: today)[:tasks]
          .select { |task| %w[open late].include?(task[:status]) }.map { |task| task[:key] }
      end
      expect(tasks["citrus", "2026-05-25"]).to include("evergreen-shade")
      expect(tasks["citrus", "2026-06-12"]).not_to include("evergreen-shade")
      expect(tasks["citrus", "2026-06-12"]).to include("evergreen-light")
      expect(tasks["apple", "2026-05-25"]).not_to include("evergreen-shade")
      expect(Vestry::Core::Plan::LimbWays.of({ diameter_mm: 60.0, length_mm: 900.0, taper: true, branches: [],
                                              only: false, trained: false, shoot_mm: 500.0 }, species: "citrus",
                                             cover: "film", rulebook: book).map { |way| way[:code] })
        .to include("kind_evergreen")
    end
  end
end
