# frozen_string_literal: true

module Vestry
  module Drawings
    # A tree by its limbs, each with its spring, its sticks and its tie; once it is told, what the best plan chose
    # otherwise and ten years of both.
    class PracticeTenYears
      WIDTH, TREE, CHART = 640, 480, 230
      TRUNK = [320.0, 410.0].freeze
      # Pixels of a millimetre of thickness, and of a limb's length.
      THICK, LONG = 0.36, 178.0
      SPREAD = 150.0
      LEFT, RIGHT, TOP, BOTTOM = 60.0, 620.0, 500.0, 660.0
      Worked = Struct.new(:id, :mm, :outline, :foot, :stub, :way, :half, :windy, :most, :choice, :best,
                          keyword_init: true)
      private_constant :TRUNK, :THICK, :LONG, :SPREAD, :LEFT, :RIGHT, :TOP, :BOTTOM, :Worked

      # @param exercise [Hash] as Core::Practice::TenYears shows it
      # @param limbs [Array<Hash>, nil] +id+, +spring+, +sticks+ and +braced+
      # @param nurse_off [Integer] a year
      # @param result [Hash, nil] what that came to
      def initialize(exercise, limbs: nil, nurse_off: 3, result: nil)
        @exercise = exercise
        @chosen = (limbs || []).to_h { |each| [each[:id], each] }
        @nurse_off = nurse_off
        @result = result
      end

      attr_reader :exercise, :nurse_off

      def svg = Template.render("practice_ten_years", self)
      def judged? = !@result.nil?
      def width = WIDTH
      def height = judged? ? TREE + CHART : TREE
      def springs = (1..exercise[:springs]).to_a.join(" ")
      def years = (1..exercise[:years]).to_a.join(" ")
      def best_nurse_off = judged? && @result[:best][:nurse_off]
      def trunk = Stroke.straight([[298, 410], [306, 280], [334, 280], [342, 410]])

      # From left to right, the nurse in the middle of them.
      def limbs
        @limbs ||= exercise[:limbs].each_with_index.map { |limb, i| limb(limb, place(i)) }
      end

      def nurse
        @nurse ||= begin
          way = radians(0)
          foot = [TRUNK[0], 286]
          { outline: tapered(foot, way, LONG * 0.7, 22, 6), leaves: leaves(foot, way),
            tag: Stroke.ahead(foot, way, 176) }
        end
      end

      # A place to press: so long from a point on, and so far to either side.
      def around(from, way, long, half)
        to, side = Stroke.ahead(from, way, long), way + Math::PI / 2
        corners = [[from, half], [to, half], [to, -half], [from, -half]]
        "#{Stroke.straight(corners.map { |point, off| Stroke.ahead(point, side, off) })}Z"
      end

      # What is done with a limb where nothing was chosen yet.
      def chosen(id) = { spring: 1, sticks: 1, braced: false }.merge(@chosen.fetch(id, {}))

      def spoken
        "A tree of #{exercise[:limbs].size} limbs to be worked and a nurse: the spring, the sticks and the tie of each."
      end

      # The years' lines, once they are told.
      def chart
        mine, best = @result[:fans].values_at(:mine, :best)
        { band: band(mine), mine: line(mine, :p50), best: line(best, :p50),
          years: mine.map { |each| { x: x(each[:year]), text: each[:year] } },
          levels: [0, 0.25, 0.5, 0.75, 1].map { |share| { y: y(share), text: "#{(share * 100).round} %" } } }
      end

      def left = LEFT
      def right = RIGHT
      def floor = BOTTOM

      private

      def radians(degrees) = (degrees - 90) * Math::PI / 180

      # Half of them to either side.
      def place(index)
        count = exercise[:limbs].size
        side = index - (count - 1) / 2.0
        side += side.negative? ? -0.6 : 0.6
        side * SPREAD / (count + 0.2)
      end

      def limb(limb, degrees)
        way = radians(degrees)
        foot = [TRUNK[0] + degrees.clamp(-12, 12), 296 + degrees.abs * 0.35]
        half = limb[:stub_mm] * THICK / 2
        choice = chosen(limb[:id])
        Worked.new(id: limb[:id], mm: limb[:stub_mm], outline: tapered(foot, way, LONG, half * 1.35, half), foot: foot,
                 way: way, half: half, stub: Stroke.ahead(foot, way, LONG), windy: limb[:windy], most: limb[:most],
                 choice: choice, best: judged? && told_best(limb[:id], choice))
      end

      def told_best(id, choice)
        best = @result[:best][:limbs].find { |each| each[:id] == id }
        best.slice(:spring, :sticks, :braced) == choice.slice(:spring, :sticks, :braced) ? nil : best
      end

      def tapered(foot, way, long, thick, thin)
        tip = Stroke.ahead(foot, way, long)
        across = way + Math::PI / 2
        "#{Stroke.straight([Stroke.ahead(foot, across, thick), Stroke.ahead(tip, across, thin),
                            Stroke.ahead(tip, across, -thin), Stroke.ahead(foot, across, -thick)])}Z"
      end

      def leaves(foot, way)
        (4..14).map do |i|
          side = i.even? ? 1 : -1
          Stroke.ahead(Stroke.ahead(foot, way, i * 10), way + side * Math::PI / 2.6, 14 + (i % 3) * 5)
        end
      end

      def x(year) = LEFT + (RIGHT - LEFT) * (year - 1) / (exercise[:years] - 1.0)
      def y(share) = BOTTOM - (BOTTOM - TOP) * [share, 1.0].min
      def line(fan, name) = Stroke.straight(fan.map { |each| [x(each[:year]), y(each[name])] })

      def band(fan)
        points = fan.map { |each| [x(each[:year]), y(each[:p90])] } +
                 fan.reverse.map { |each| [x(each[:year]), y(each[:p10])] }
        "#{Stroke.straight(points)}Z"
      end
    end
  end
end
