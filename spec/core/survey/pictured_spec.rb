# frozen_string_literal: true

RSpec.describe "Measuring in a picture", :core do
  # A camera 300 mm off, turned away by so many degrees about an axis in the plane: where a place in the plane, in mm,
  # is seen, in pixels.
  def camera(tilt, about: 0, spin: 0)
    tilt, about, spin = [tilt, about, spin].map { |degrees| degrees * Math::PI / 180 }
    lambda do |(x, y)|
      x, y = x * Math.cos(spin) - y * Math.sin(spin), x * Math.sin(spin) + y * Math.cos(spin)
      along, off = x * Math.cos(about) + y * Math.sin(about), y * Math.cos(about) - x * Math.sin(about)
      far, off = 300 + off * Math.sin(tilt), off * Math.cos(tilt)
      [800 + 2400 / far * (along * Math.cos(about) - off * Math.sin(about)),
       600 + 2400 / far * (along * Math.sin(about) + off * Math.cos(about))]
    end
  end

  CARD = [[-30.0, 20.0], [30.0, 20.0], [30.0, 60.0], [-30.0, 60.0]].freeze
  def disc(radius, count = 24) = Array.new(count) { |i| (i * 2 * Math::PI / count).then { |at| ring(radius, at) } }
  def ring(radius, at) = [radius * Math.cos(at), radius * Math.sin(at) - 20]

  def rectified(seen, points) = reckon("rectify", corners: CARD.map(&seen), width_mm: 60, height_mm: 40, points: points)
  def far(one, other) = Math.hypot(one[0] - other[0], one[1] - other[1])

  describe "rectify" do
    it "takes the corners to the card's own, and every place to where it is" do
      [[0, 0, 0], [20, 40, 10], [35, 110, 200], [50, 10, 95]].each do |tilt, about, spin|
        seen = camera(tilt, about: about, spin: spin)
        places = [[0.0, 0.0], [-25.0, 70.0], [41.0, -12.5]]
        told = rectified(seen, (CARD + places).map(&seen))[:points_mm]
        wanted = (CARD + places).map { |x, y| [x + 30, y - 20] }
        expect(told.flatten).to match(wanted.flatten.map { |mm| be_within(1e-6).of(mm) })
      end
    end

    it "says how much askew a picture is: nothing from straight on, more and more from the side" do
      errors = [0, 10, 20, 30, 40].map { |tilt| rectified(camera(tilt), [])[:scale_error] }
      expect(errors.first).to be_within(1e-9).of(0)
      expect(errors.each_cons(2)).to all(satisfy { |one, other| other > one })
      # A card of 60 by 40 seen as 66 by 40 pixels: the best scale is (60*66 + 40*40) / (66^2 + 40^2) = 0.93351.
      told = reckon("rectify", corners: [[0, 0], [66, 0], [66, 40], [0, 40]], width_mm: 60, height_mm: 40, points: [])
      expect(told[:scale_error]).to be_within(1e-6).of(1 - 0.933512 * 40 / 40)
    end

    it "refuses corners that cannot be, and says why" do
      { [[0, 0], [50, 0], [100, 0], [0, 60]] => /no three in line/,
        [[0, 0], [90, 60], [90, 0], [0, 60]] => /none crossing/,
        [[0, 0], [0, 60], [90, 60], [90, 0]] => /as a clock goes/, [[5, 5]] * 4 => /no three in line/ }
        .each do |corners, why|
        refused = refusal("rectify", corners: corners, width_mm: 60, height_mm: 40, points: [[1, 1]])
        expect([refused.field, refused.allowed]).to match ["corners", why]
      end
      # The far side's lines meet at 300 pixels: beyond that nothing lies in the plane.
      corners = [[40, 100], [60, 100], [70, 50], [30, 50]].rotate(2).then { |c| [c[1], c[0], c[3], c[2]] }
      refused = refusal("rectify", corners: corners, width_mm: 60, height_mm: 40, points: [[50, 5000]])
      expect(refused.field).to eq "points[0]"
    end
  end

  describe "outline" do
    def outline(points) = reckon("outline", points_mm: points)

    it "measures a rectangle and a disc" do
      told = outline([[0, 0], [60, 0], [60, 40], [0, 40]])
      long = Math.hypot(60, 40)
      expect(told).to match(area_mm2: 2400.0, a_mm: be_within(1e-9).of(long), b_mm: be_within(1e-9).of(2 * 2400 / long),
                            bearing_deg: be_within(1e-6).of(180 - Math.atan2(60, 40) * 180 / Math::PI),
                            perimeter_mm: 200.0)
      round = outline(disc(25.0, 48))
      expect(round[:area_mm2]).to be_within(0.004 * Math::PI * 625).of(Math::PI * 625)
      expect([round[:a_mm], round[:b_mm]]).to all(be_within(0.2).of(50))
    end

    it "measures three points, the fewest there are" do
      expect(outline([[0, 0], [40, 0], [0, 30]])).to include(area_mm2: 600.0, a_mm: 50.0, perimeter_mm: 120.0)
    end

    it "is the same wherever the marks begin and whichever way they go" do
      shape = [[0, 0], [30, -8], [64, 10], [40, 44], [6, 38]]
      [shape.rotate(2), shape.reverse].each do |other|
        expect(outline(other).values).to match(outline(shape).values.map { |figure| be_within(1e-9).of(figure) })
      end
    end

    it "refuses two points, and an edge that crosses itself" do
      expect(refusal("outline", points_mm: [[0, 0], [1, 1]]).allowed).to eq "three points or more"
      expect(refusal("outline", points_mm: [[0, 0], [10, 10], [10, 0], [0, 10]]).allowed).to match(/does not cross/)
    end
  end

  describe "pictured" do
    def told(seen, kind, points, noise: 0.0, random: nil, **more)
      shaken = ->(point) { point.map { |each| each + (random ? (random.rand - 0.5) * 2 * noise : 0) } }
      reckon("pictured", corners: CARD.map(&seen).map(&shaken), width_mm: 60, height_mm: 40, kind: kind,
                         points: points.map(&seen).map(&shaken), **more)
    end

    it "holds a diameter within 3 % and an area within 5 %, up to 35 degrees askew, with marks a pixel off" do
      random = Random.new(7)
      [0, 12, 24, 35].product([0, 45, 90, 160]).each do |tilt, about|
        seen = camera(tilt, about: about, spin: random.rand(360))
        across = told(seen, "length", [ring(30, 1.0), ring(30, 1.0 + Math::PI)], noise: 1.0, random: random)
        expect([tilt, across[:a_mm]]).to match [tilt, be_within(1.8).of(60)]
        area = told(seen, "outline", disc(30), noise: 1.0, random: random)[:area_mm2]
        expect([tilt, area]).to match [tilt, be_within(0.05 * Math::PI * 900).of(Math::PI * 900)]
        oval = told(seen, "oval", [ring(30, 0), ring(30, Math::PI), ring(30, 1.57), ring(30, 4.71)], noise: 1.0,
                                                                                                     random: random)
        expect(oval[:mean_mm]).to be_within(1.8).of(60)
      end
    end

    it "says how far off it may be: about as far as shaken marks are" do
      seen = camera(25, about: 30)
      places = [ring(30, 0.4), ring(30, 0.4 + Math::PI)]
      random = Random.new(3)
      off = Array.new(400) { told(seen, "length", places, noise: 2.0, random: random)[:a_mm] - 60 }
      spread = Math.sqrt(off.sum { |mm| mm**2 } / off.size)
      # Evenly between -2 and 2 pixels is a spread of 2 / root of 3.
      expect(told(seen, "length", places, mark_px: 2 / Math.sqrt(3))[:error_mm]).to be_within(0.12 * spread).of(spread)
    end

    it "measures along a ruler, and says that only that is to be trusted" do
      along = reckon("pictured", ruler: [[100, 100], [500, 100]], ruler_mm: 100, kind: "length",
                                 points: [[100, 200], [340, 200]])
      expect(along).to include(a_mm: 60.0, b_mm: nil, along: true, scale_error: nil, askew: false)
      expect(refusal("pictured", kind: "length", points: [[0, 0], [1, 1]]).field).to eq "corners"
      expect(refusal("pictured", ruler: [[1, 1], [1, 1]], ruler_mm: 9, kind: "length", points: [[0, 0], [1, 1]]).field)
        .to eq "ruler"
    end

    it "warns of a picture that was taken too much askew, and of marks that measure nothing" do
      expect([20, 35, 60].map { |tilt| told(camera(tilt, about: 5), "length", [[0, 0], [9, 0]])[:askew] })
        .to eq [false, false, true]
      expect(refusal("pictured", ruler: [[0, 0], [9, 9]], ruler_mm: 9, kind: "oval", points: [[0, 0], [1, 1]]).field)
        .to eq "points"
    end
  end

  it "lies flat as it is, to a scale, beside a ruler that is held askew" do
    # A picture from straight on, five pixels to a millimetre and turned by 30 degrees; the ruler of 50 mm turned too.
    turn = 30 * Math::PI / 180
    seen = lambda do |(x, y)|
      [400 + 5 * (x * Math.cos(turn) - y * Math.sin(turn)), 300 + 5 * (x * Math.sin(turn) + y * Math.cos(turn))]
    end
    points = [[0.0, 0.0], [20.0, 0.0], [20.0, 35.0]]
    flat = Vestry::Core::Survey::FlatView.of({ ruler: [[0.0, -10.0], [40.0, -40.0]].map(&seen), ruler_mm: 50.0,
                                               points: points.map(&seen) }, side_mm: 60)
    one, other, third = flat[:marks_px]
    expect([far(one, other), far(other, third), far(one, third)].map { |px| (px / 4).round(6) })
      .to eq [20.0, 35.0, Math.hypot(20, 35).round(6)]
    # Neither mirrored nor out of the square.
    cross = (other[0] - one[0]) * (third[1] - one[1]) - (other[1] - one[1]) * (third[0] - one[0])
    expect([cross.positive?, flat[:size_px], flat[:marks_px].flatten.all? { |px| px.between?(0, 240) }])
      .to eq [true, 240, true]
  end
end
