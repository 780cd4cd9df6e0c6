# frozen_string_literal: true

RSpec.describe Vestry::Core::Graft::Figures do
  def of(technique, stub: 60.0, scion: 9.0)
    described_class.of(technique, stub_mm: stub, scion_mm: scion, bark_mm: 2.0)
  end

  it "knows the cuts of every method that works a stub" do
    faceless = %w[shield-bud chip-bud approach]
    (Vestry::Core::Rulebook.shipped.stub_methods - faceless).each do |technique|
      expect(of(technique, stub: 14.0, scion: 14.0)).to include(:kind, face: be_between(20, 75))
    end
    expect(faceless.map { |technique| of(technique).key?(:face) }).to eq [false] * 3
  end

  it "saws no stub for what is set into the side, and has steps and mistakes for every method" do
    book = Vestry::Core::Rulebook.shipped
    steps = book.stub_methods.to_h do |technique|
      figures = of(technique, stub: 14.0, scion: 14.0)
      [technique, Vestry::Core::Graft::Steps.of(technique, figures, stub_mm: 14.0, species: "apple",
                                                school: "waxed-rind") { |mm| "#{mm.round} mm" }
        .map { |step| step[:does] }]
    end
    expect(%w[side-bark tongued-side shield-bud chip-bud
              approach].flat_map { |technique| steps[technique] }.grep(/[Ss]aw the stub|top of the stub\z/)).to eq []
    expect(%w[side-bark tongued-side].map { |technique| steps[technique].join })
      .to all(match(/[Hh]ead (is cut off|stays on)/))
    expect(described_class::KINDS - book.book("steps")["mistakes"].keys).to eq []
    expect(steps["chip-bud"].join).not_to match(/long face|on the stick/)
    expect(steps.values_at("shield-bud", "chip-bud").map(&:join).uniq.size).to eq 2
    expect(steps.values.flatten.join).not_to match(/[{}]/)
  end

  describe "the steps of" do
    def steps(technique, species: "apple", school: "waxed-rind")
      figures = of(technique, stub: 40.0, scion: 10.0)
      Vestry::Core::Graft::Steps.of(technique, figures, stub_mm: 40.0, species: species, school: school) do |mm|
        "#{mm.round} mm"
      end.map { |step| step[:does] }
    end

    def at(list, words) = list.index { |does| does.match?(words) }

    in_side = %w[side-bark tongued-side shield-bud chip-bud approach]
    buds = %w[shield-bud chip-bud]
    schools = Vestry::Core::Rulebook.shipped.school_names

    it "what is set into the side speak of no stub that is cut, and those of a bud or an approach of no stick" do
      schools.each do |school|
        expect(in_side.flat_map { |name| steps(name, school: school).grep(/\bstub\b|perch/i) }).to eq []
        expect([*buds, "approach"].flat_map { |name| steps(name, school: school).grep(/\bsticks?\b(?!'s own size)/) }
          .reject { |does| does.include?("bud stick") }).to eq []
      end
    end

    it "every method end by a label, and none binds twice" do
      expect(Vestry::Core::Rulebook.shipped.stub_methods.reject { |name| at(steps(name), /\ALabel it/) }).to eq []
      expect(Vestry::Core::Rulebook.shipped.stub_methods.reject { |name| steps(name).grep(/\A(Bind|Tie) /).size == 1 })
        .to eq []
    end

    it "a summer bud take this summer's wood, cut on the day, and not what lay in store" do
      expect(steps("shield-bud").join(" ")).to match(/this summer's growth on the day.*keep the stalks/)
      expect(buds.flat_map { |name| steps(name).grep(/sealed in store|sealed end|lowest bud/) }).to eq []
    end

    it "green wood speak of no store, and put a bag over it whatever the school" do
      schools.each do |school|
        green = steps("rind", species: "citrus", school: school)
        expect(green.grep(/in store|sealed end|Nothing over it/)).to eq []
        expect(green.grep(/\ABag over the sticks.*three weeks/).size).to eq 1
      end
    end

    it "bark grafts cut the stick last, as is said of them" do
      %w[bark rind side-bark].each do |name|
        list = steps(name)
        expect([at(list, /Cut the stick last/), at(list, /(Slit|slit) the bark straight down/),
                at(list, /Cut the long face/), at(list, /\ALift/)]).to eq(
                  [at(list, /Cut the stick last/), at(list, /(Slit|slit) the bark straight down/),
                   at(list, /Cut the long face/), at(list, /\ALift/)].compact.sort)
      end
    end

    it "a rind graft leave 5 mm of its face in sight, and those of a bark graft none" do
      expect(steps("rind").grep(/until 5 mm of the face is left in sight/).size).to eq 1
      expect(steps("bark").grep(/until the top of the face meets the rim/).size).to eq 1
    end

    it "an inlay cut the panel 12 mm shorter than the stick's face" do
      figures = of("inlay", scion: 10.0)
      expect(figures[:face] - figures[:slit]).to eq 12
      expect(steps("inlay").join(" ")).to include("12 mm shorter than the stick's face")
      expect(steps("inlay").grep(/Cut the stick last/)).to eq []
    end
  end

  it "cuts a longer face on a thicker stick, within what can be cut true" do
    faces = [4, 6, 8, 10, 12, 14, 20].map { |scion| of("rind", scion: scion.to_f)[:face] }
    expect(faces).to eq faces.sort
    expect(faces.minmax).to eq [50.0, 75.0]
  end

  it "cuts the shortest face on the thinnest stick, the longest on one of fourteen, and halfway between them" do
    low, high = Vestry::Core::Rulebook.shipped.value("reckoning.cuts.face")
    expect([6.0, 10.0, 14.0].map { |scion| of("rind", scion: scion)[:face] }).to eq [low, (low + high) / 2.0, high]
  end

  it "makes a panel as wide as its stick, and leaves a little of a rind graft's face showing" do
    expect(of("inlay", scion: 11.0)).to include(panel: 11.0, shoulder: 9.0)
    expect(of("rind")[:showing]).to eq 5
    expect(of("bark")[:showing]).to eq 0
  end

  it "shaves a flap stick by the flaps reckoning, on as many faces" do
    four, three = of("four-flap", stub: 19.0, scion: 16.0)[:flaps], of("three-flap", stub: 19.0, scion: 16.0)[:flaps]
    expect(four[:depth_mm]).to be_within(1e-4).of(1.83843)
    expect(three[:flat_mm]).to be > four[:flat_mm]
  end

  it "says of a cleft how far the cambium lies off when it is set flush, and what a lean makes sure of" do
    # A stick of 10 mm has bark of 0.7 + 0.045 x 10 = 1.15 mm.
    told = described_class.of("cleft", stub_mm: 50, scion_mm: 10, bark_mm: 3.15)[:meets]
    expect(told).to include(offset_mm: be_within(1e-9).of(2), flush: 0.0)
    # Leaned by 2 degrees and half a millimetre out, they meet from the middle of a face of 45 mm to its end.
    expect(told.values_at(:lean_deg, :eye_mm, :leaned_mm)).to match [2, 0.5, be_within(1e-9).of(22.5)]
    expect(described_class.of("cleft", stub_mm: 20, scion_mm: 10, bark_mm: 1.6)[:meets][:flush]).to eq 1.0
    expect(described_class.of("rind", stub_mm: 50, scion_mm: 10, bark_mm: 3)).not_to have_key(:meets)
  end
end
