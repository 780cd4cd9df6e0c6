# frozen_string_literal: true

RSpec.describe "Cuts on prunings", :core do
  def told(cuts, kind: "face") = Vestry::Core::Practice::CutLog.of(kind, cuts)
  def cut(mm, rocks: false, daylight: false) = { length_mm: mm, rocks: rocks, daylight: daylight }

  it "are as they should be within their length, steady and tight" do
    all = [cut(50), cut(75), cut(49.9), cut(75.1), cut(60, rocks: true), cut(60, daylight: true)]
    expect(told(all)[:cuts].map { |each| each[:inside] }).to eq [true, true, false, false, false, false]
    expect(told([cut(35)], kind: "wedge")).to include(inside: 1, from_mm: 30, to_mm: 50)
  end

  it "take half of the stick where that was measured, in a long face alone" do
    deep = ->(mm) { cut(60).merge(depth_mm: mm, across_mm: 10.0) }
    expect(told([deep[4.0], deep[6.0], deep[3.9], deep[6.1]])[:cuts].map { |each| each[:inside] })
      .to eq [true, true, false, false]
    expect(told([cut(40).merge(depth_mm: 9.0, across_mm: 10.0)], kind: "wedge")[:inside]).to eq 1
  end

  it "make a hand ready with eighteen of the last twenty, and no fewer" do
    expect(told([cut(60)] * 17)).to include(ready: false, inside: 17)
    expect(told([cut(60)] * 18)).to include(ready: true)
    expect(told([cut(60)] * 18 + [cut(80)] * 2)).to include(ready: true, inside: 18)
    expect(told([cut(60)] * 18 + [cut(80)] * 3)).to include(ready: false, inside: 17)
    expect(told([])).to include(ready: false, inside: 0)
  end
end
