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
