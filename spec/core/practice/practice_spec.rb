# frozen_string_literal: true

RSpec.describe "What the practice of cuts is measured by", :core do
  describe "contact" do
    def contact(**asked) = reckon("contact", length_mm: 60, **asked)

    it "is all of the face or none of it for lines side by side" do
      expect(contact(offset_mm: 0.5)).to eq(contact_mm: 60.0, share: 1.0)
      expect(contact(offset_mm: -0.6)).to eq(contact_mm: 0.0, share: 0.0)
    end

    it "is a stretch round the crossing for lines that are tilted, which a larger offset moves and then loses" do
      stretch = 2 * 0.5 / Math.tan(2 * Math::PI / 180)
      expect(contact(offset_mm: 0, tilt_deg: 2)[:contact_mm]).to be_within(1e-9).of(stretch)
      expect(contact(offset_mm: 0.4, tilt_deg: -2)[:contact_mm]).to be_within(1e-9).of(stretch)
      # At an end of the face the lines have come 30 tan 2 degrees = 1.0476 mm nearer: 1.5476 mm is the furthest.
      expect(contact(offset_mm: 1.54, tilt_deg: 2)[:contact_mm]).to be_between(0.1, 0.3)
      expect(contact(offset_mm: 1.56, tilt_deg: 2)[:contact_mm]).to eq 0
    end

    it "is the same either way, and never more than the face" do
      [0, 0.3, 1, 3].product([0, 1, 10, 40]).each do |offset, tilt|
        all = [[offset, tilt], [-offset, tilt], [offset, -tilt]].map { |o, t| contact(offset_mm: o, tilt_deg: t) }
        expect(all.map { |each| each[:contact_mm].round(9) }.uniq.size).to eq 1
        expect(all[0][:share]).to be_between(0, 1)
      end
    end
  end

  describe "flatness" do
    it "measures what lies off the best line, not how the face slopes" do
      straight = (0..6).map { |at| { at_mm: at * 10, depth_mm: 1 + at * 0.5 } }
      expect(reckon("flatness", points: straight))
        .to match(rms_mm: be_within(1e-9).of(0), contact_share: 1.0, slope: be_within(1e-12).of(0.05))
      # Up, down, up: the best line through is level at a third, and 2/9 the mean square.
      wavy = [0, 1, 0].each_with_index.map { |depth, at| { at_mm: at, depth_mm: depth } }
      expect(reckon("flatness", points: wavy, tolerance_mm: 0.4))
        .to match(rms_mm: be_within(1e-9).of(Math.sqrt(2 / 9.0)), contact_share: be_within(1e-9).of(2 / 3.0),
                  slope: 0.0)
    end

    it "takes points all at one place, and wants two" do
      expect(reckon("flatness", points: [{ at_mm: 1, depth_mm: 0 }, { at_mm: 1, depth_mm: 2 }]))
        .to include(slope: 0.0, rms_mm: 1.0)
      expect(refusal("flatness", points: [{ at_mm: 1, depth_mm: 0 }]).field).to eq "points"
    end
  end

  describe "seating" do
    def gap(radii, **asked) = reckon("seating", radii_mm: radii, bearing_deg: 0, width_mm: 12, **asked)[:gap_mm]

    it "is the rise of the rim under the face, on a round stub the same all round" do
      # On a circle of 30 mm, half a face of 6 mm wide of the axis: 30 - sqrt(30^2 - 6^2) = 0.606, by whole degrees.
      expect(gap([30] * 36)).to be_within(0.06).of(30 - Math.sqrt(900 - 36))
      expect(gap([30] * 36, bearing_deg: 137)).to be_within(1e-9).of(gap([30] * 36))
      expect(gap([30] * 36, width_mm: 0)).to be_within(1e-9).of(0)
    end

    it "is smaller where the stub is flat, and greater on a ridge" do
      # A flat 28 mm out, some 20 degrees either way.
      flat = (0...36).map { |n| [30.0, n * 10 <= 20 || n * 10 >= 340 ? 28 / Math.cos(n * Math::PI / 18) : 30.0].min }
      ridge = [33.0] + [30.0] * 35
      expect(gap(flat)).to be < 0.15
      expect(gap(ridge)).to be > 2
      expect(gap(ridge, bearing_deg: 180)).to be_within(1e-9).of(gap([30] * 36))
    end

    it "wants all thirty-six" do
      expect(refusal("seating", radii_mm: [30] * 35, bearing_deg: 0, width_mm: 10).field).to eq "radii_mm"
    end
  end

  describe "read" do
    def alive(share, days, seen, take: 0.7)
      reckon("read", callus_share: share, days: days, expected_take: take, seen: seen)[:alive]
    end

    # By the definition, for buds that leaf and nothing else.
    def leafing(share, days, take)
      lives = take * 0.98 / (1 + Math.exp((1 - share) / 0.15)) / 2
      dies = (1 - take) * 0.35 * Math.exp(-days / 12.0) / 2
      lives / (lives + dies)
    end

    it "answers by Bayes, with what was not seen left out" do
      expect(alive(0.4, 10, {})).to be_within(1e-12).of(0.7)
      expect(alive(1.2, 25, { buds: "leafing" })).to be_within(1e-12).of(leafing(1.2, 25, 0.7))
      expect(alive(1.2, 25, { buds: "swelling" })).to eq alive(1.2, 25, { buds: "leafing" })
      plump = 0.7 * 0.95 / (0.7 * 0.95 + 0.3 * Math.exp(-1.5))
      expect(alive(0.8, 30, { bark: "plump" })).to be_within(1e-12).of(plump)
      none, full, some = 0.05, 0.5, 0.45
      seen = 0.7 * full / (none + full + some)
      expect(alive(1, 30, { callus: "full" })).to be_within(1e-12).of(seen / (seen + 0.3 * 0.02))
    end

    it "thinks little of buds that move before it can have knit, and much of them weeks after" do
      early, late = alive(0.2, 6, { buds: "swelling" }), alive(1.5, 35, { buds: "swelling" })
      expect([early, late]).to match [be < 0.2, be > 0.98]
      expect(alive(1.5, 40, { buds: "asleep" })).to be < alive(0.3, 8, { buds: "asleep" })
      expect(alive(1.5, 40, { buds: "dead", bark: "shrivelled" })).to be < 0.1
    end

    it "is a chance for everything that may be seen at any time, and certain only where it was before" do
      buds, callus, bark = %w[asleep swelling leafing dead], ["none", "some", "full", nil], ["plump", "shrivelled", nil]
      buds.product(callus, bark, [0, 0.5, 1, 3], [0, 20, 200]).each do |bud, knit, rind, share, days|
        seen = { buds: bud, callus: knit, bark: rind }
        expect(alive(share, days, seen)).to be_between(0, 1)
      end
      expect([alive(1, 20, { buds: "dead" }, take: 1), alive(1, 20, { buds: "leafing" }, take: 0)]).to eq [1.0, 0.0]
    end
  end
end
