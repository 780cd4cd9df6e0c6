# frozen_string_literal: true

module Vestry
  module Drawings
    # A stub end-on as it lies under the hand, some six times its size: bark, the line of cambium, wood, the flatter
    # face and the wind, and each stick as a disc of its own size on the rim, to be moved round it.
    class BenchStub
      include StubFace

      SIZE = 470.0
      MIDDLE = SIZE / 2
      TIMES = 6.0
      # The rim at the most, so that discs on it stay on the sheet.
      MOST = 176.0

      # @param limb [Records::Limb]
      # @param faces [Array<Float>] bearings on an upright stub, degrees from the upper side on a leaning one
      # @param labels [Array<String>] what each stick is called
      # @param technique [String, nil] how the sticks are set; under bark where it is not said
      # @param still [Boolean] a picture, whose discs are not moved
      def initialize(limb, stub_mm:, scion_mm:, faces:, technique: nil, labels: [], still: false)
        @limb = limb
        @orchard = limb.orchard
        @stub_mm = stub_mm
        @technique = technique
        @scion_mm = scion_mm || usual_mm(stub_mm)
        @faces = faces
        @labels = labels
        @still = still
        @upright = Records::CoreInputs.upright?(limb)
      end

      attr_reader :scion_mm

      def svg = Template.render("bench_stub", self)
      def size = SIZE.to_i
      def middle = MIDDLE
      def upright? = @upright
      def still? = @still
      def scale = @scale ||= [TIMES, MOST * 2 / @stub_mm].min
      def bark_radius = @stub_mm * scale / 2
      def wood_radius = [bark_radius - Records::CoreInputs.bark(@limb, @stub_mm) * scale, 6].max
      def disc_radius = @scion_mm * scale / 2
      def rim = seat(wood_radius, disc_radius)
      def rings = [0.86, 0.68, 0.5, 0.33, 0.17].map { |share| (wood_radius * share).round(1) }
      def title = "The stub of #{@limb.label}, end-on, #{@upright ? 'from above' : 'as seen from its cut end'}"
      def top_words = @upright ? "north" : "upper side"

      def description
        "#{say(@stub_mm)} across; #{discs.map { |disc| disc[:spoken] }.join('; ')}"
      end

      def discs
        @faces.each_with_index.map do |deg, i|
          x, y = around(deg, rim)
          { deg: deg.round, x: x, y: y, label: @labels[i] || "stick #{i + 1}",
            at: at(deg), spoken: "#{@labels[i] || "stick #{i + 1}"}: #{at(deg)}" }
        end
      end

      def at(deg) = @upright ? "#{deg.round} degrees from north" : Spoken.on_leaning(deg)

      # Rays in the wood, as a saw leaves them.
      def rays
        (0...17).map do |i|
          deg = i * 360.0 / 17 + 9 * Stroke.chance(@limb.label, i)
          Stroke.straight([around(deg, wood_radius * (0.3 + 0.25 * (Stroke.chance(@limb.label, 30 + i) + 1) / 2)),
                           around(deg, wood_radius * 0.92)])
        end.join
      end

      def flat
        deg = flat_at or return nil
        { path: Stroke.smooth((-3..3).map { |i| around(deg + i * 8, bark_radius + 10) }),
          at: around(deg, bark_radius + 28) }
      end

      def wind
        from = @upright && @orchard.wind_from_deg or return nil
        tail, head = around(from, MIDDLE - 6), around(from, MIDDLE - 40)
        Stroke.straight([tail, head]) + Stroke.straight([around(from + 3, MIDDLE - 30), head,
                                                          around(from - 3, MIDDLE - 30)])
      end

      def ruler
        mm, words = @orchard.units == "imperial" ? [12.7, "1/2 in"] : [20.0, "20 mm"]
        { width: mm * scale, text: words }
      end

      private

      def say(mm) = Core::Measure.say(mm, @orchard.units)
    end
  end
end
