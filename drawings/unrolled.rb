# frozen_string_literal: true

module Vestry
  module Drawings
    # A wounded trunk unrolled, to scale both ways: its two margins round the compass from north to
    # north, bare wood between them, the soil, and each scion where it goes.
    class Unrolled
      include TwoWidths

      WIDE = 720.0
      NARROW = 372.0
      LEFT = 62.0
      TOP = 46.0
      # So much bark is drawn above and below the wound, in mm.
      BARK = 70.0
      SCION_MM = 9.0
      # No taller than this for its width, however thin the stem.
      TALLEST = 1.15
      # Between two marks of the compass there is room for both names.
      NAME = 34.0
      Bar = Struct.new(:number, :state, :path, :x, :seats, :text, :tx, :ty, :bearing, :spoken, keyword_init: true)

      attr_reader :girth, :margins

      # @param girth [Float] mm
      # @param margins [Array<Hash>] readings
      # @param places [Array<Hash>] scions: +number+, +bearing_deg+, +gap_mm+, +length_mm+, +low_mm+, +high_mm+, and
      #   perhaps +row+, +fate+ and +stock+ (rooted in the soil)
      # @param units [String]
      # @param handles [Boolean] whether margins and scions can be taken hold of
      def initialize(label, girth:, margins:, places: [], units: "metric", seat_mm: 45.0, handles: false, width: WIDE)
        @label = label
        @girth = girth
        @margins = margins
        @places = places
        @units = units
        @seat = seat_mm
        @handles = handles
        @width = width
        @shape = Core::Repair::WoundShape.new(margins)
        low, high = @shape.extent || [60.0, 200.0]
        @bottom = [low - BARK, -25.0].min
        @top = high + BARK
        @scale = [(@width - LEFT - 14) / girth, @width * TALLEST / (@top - @bottom)].min
      end

      def svg = Template.render("unrolled", self)
      def handles? = @handles
      def height = (TOP + (@top - @bottom) * @scale + 44).round
      def scale = @scale
      def left = LEFT
      def right = LEFT + @girth * @scale
      def x(bearing) = LEFT + bearing / 360.0 * @girth * @scale
      def y(mm) = TOP + (@top - mm) * @scale
      def soil = y(0)
      def title = "The trunk of #{@label} unrolled, north to north"

      def description
        return "No margin is measured yet." if @margins.empty?

        share = (@shape.girdled_share * 100).round
        "#{share} per cent of the girth is bare, between #{say(@shape.extent&.first || 0)} " \
        "and #{say(@shape.extent&.last || 0)} above the soil. #{bars.map(&:spoken).join(' ')}".strip
      end

      # North to north.
      def compass
        { 0 => "N", 45 => "NE", 90 => "E", 135 => "SE", 180 => "S", 225 => "SW", 270 => "W", 315 => "NW", 360 => "N" }
          .map do |deg, name|
          { x: x(deg), name: (name if (deg % 90).zero? || @girth * @scale / 8 >= NAME), main: (deg % 90).zero? }
        end
      end

      # Each open stretch as one outline, cut in two where it crosses north.
      def openings
        return [] if @margins.empty?

        stretches.map do |from, to|
          marks = ([from, to] + (from.ceil..to.floor).step(3).to_a + corners(from, to)).uniq.sort
          tops = marks.map { |deg| [x(deg), y(@shape.margins(deg % 360).max)] }
          lows = marks.map { |deg| [x(deg), y(@shape.margins(deg % 360).first)] }
          "#{Stroke.straight(tops)}#{Stroke.straight(lows.reverse).sub('M', 'L')}Z"
        end
      end

      # Grain of the bare wood, a few fine strokes.
      def grain
        return [] if @margins.empty?

        (0...360).step(7).filter_map do |deg|
          low, high = @shape.margins(deg)
          next if high - low < 12

          inset = (high - low) * (0.1 + 0.12 * (Stroke.chance("grain", deg) + 1))
          Stroke.straight([[x(deg), y(high - inset)], [x(deg), y(low + inset * 0.8)]])
        end
      end

      def readings
        @margins.map do |each|
          { bearing: each[:bearing_deg], x: x(each[:bearing_deg]), low: y(each[:low_mm]), high: y(each[:high_mm]),
            open: each[:high_mm] > each[:low_mm] }
        end
      end

      def bars
        @bars ||= @places.reject { |place| place[:gap_mm].zero? && place[:row].nil? }.map { |place| bar(place) }
      end

      # Heights every so often, in the orchard's units.
      def heights
        step = @units == "imperial" ? 25.4 * 2 : 50.0
        step *= 2 while step * @scale < 34
        ((@bottom / step).ceil..(@top / step).floor).map do |i|
          { y: y(i * step), text: i.zero? ? "soil" : say(i * step) }
        end
      end

      def ruler
        steps = @units == "imperial" ? [4, 2, 1].to_h { |inches| [25.4 * inches, "#{inches} in"] } :
          [100, 50, 20].to_h { |mm| [mm.to_f, "#{mm} mm"] }
        mm, words = steps.find { |long, _| long <= @girth } || steps.to_a.last
        { x: right - mm * @scale, width: mm * @scale, text: words }
      end

      private

      def say(mm) = Core::Measure.say(mm, @units)

      # Open stretches within 0..360.
      def stretches
        return [[0.0, 360.0]] if @shape.ring?

        @shape.runs.flat_map do |from, to|
          to > 360 ? [[from - 1.0, 360.0], [0.0, to - 360.0]] : [[[from - 1.0, 0.0].max, to.to_f]]
        end
      end

      # Where the margins were read, and so turn.
      def corners(from, to) = @margins.map { |each| each[:bearing_deg].to_f }.select { |deg| deg.between?(from, to) }

      def bar(place)
        at = x(place[:bearing_deg])
        top, foot = y(place[:high_mm] + @seat), y([place[:low_mm] - @seat, @bottom].max)
        Bar.new(number: place[:number], state: state(place), path: bowed(at, top, foot), x: at, seats: [top, foot],
                text: place[:stock] ? "" : say(place[:length_mm]), tx: at, ty: top - 7, bearing: place[:bearing_deg],
                spoken: spoken(place))
      end

      # A scion from its upper to its lower end, standing out from the wood between them.
      def bowed(at, top, foot)
        half = [SCION_MM * @scale / 2, 2.5].max
        bow, middle = [(foot - top) * 0.05, 9].min, (top + foot) / 2
        "M#{r(at - half)} #{r(top)}Q#{r(at - half + bow)} #{r(middle)} #{r(at - half)} #{r(foot)}L" \
          "#{r(at + half)} #{r(foot)}Q#{r(at + half + bow)} #{r(middle)} #{r(at + half)} #{r(top)}Z"
      end

      def spoken(place)
        what = place[:stock] ? "Stock" : "Scion"
        ["#{what} #{place[:number]} at #{place[:bearing_deg].round} degrees",
         ("#{say(place[:length_mm])} long" unless place[:stock]),
         (SPOKEN.fetch(state(place)) unless state(place) == "planned")].compact.join(", ").concat(".")
      end

      SPOKEN = { "alive" => "alive", "dead" => "dead", "set" => "set, not looked at yet" }.freeze

      def state(place)
        return "planned" unless place[:row]&.set_on

        place[:fate] || "set"
      end

      def r(number) = Stroke.round(number)
    end
  end
end
