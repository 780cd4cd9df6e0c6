# frozen_string_literal: true

module Vestry
  module Drawings
    # A finished graft with what can be seen on it, each place numbered; what is pressed is waxed.
    class PracticeSeal
      RIM, MIDDLE, HALF, WIDTH, HEIGHT = 225.0, 210.0, 84.0, 420, 480
      TALL = 190.0
      # Clear of its mark by so much.
      SPOTS = [[26, -6], [-26, -6], [26, 18], [-26, 18], [44, 4], [-44, 4], [0, -32], [0, 34]].freeze
      WORDS = { "tip" => "the cut tip of the stick", "slit" => "the slit in the bark under the stick",
                "rim" => "the cut face of the stub", "shoulder" => "the cut shoulder of the stick",
                "split" => "a split in the bark", "bud" => "a bud", "scar" => "an old scar", "lenticel" => "a pore",
                "face" => "between stick and wood" }.freeze
      # From the stick's middle or the stub's, and below the rim; and how far along each the place may lie.
      AT = { "tip" => [0, -TALL, 0, 0], "shoulder" => [12, -34, 0, 0], "slit" => [0, 128, 0, 0], "rim" => [0, 6, 0, 0],
             "face" => [-12, 26, 0, 0], "bud" => [14, -60, 0, -105], "split" => [66, 70, 0, 0],
             "scar" => [30, 165, 45, 60], "lenticel" => [30, 165, 45, 60] }.freeze
      private_constant :RIM, :MIDDLE, :HALF, :SPOTS, :AT

      # @param exercise [Hash] as Core::Practice::Seal shows it
      # @param sealed [Array<Integer>]
      # @param result [Hash, nil] what that came to
      def initialize(exercise, sealed: [], result: nil)
        @exercise = exercise
        @sealed = sealed
        @result = result
      end

      def svg = Template.render("practice_seal", self)
      def judged? = !@result.nil?
      def width = WIDTH
      def height = HEIGHT
      def stub = "M#{MIDDLE - HALF} #{HEIGHT}V#{RIM}H#{MIDDLE + HALF}V#{HEIGHT}"
      def rim = "M#{MIDDLE - HALF} #{RIM}a#{HALF} 16 0 0 0 #{HALF * 2} 0a#{HALF} 16 0 0 0 -#{HALF * 2} 0"

      def sticks
        (1..@exercise[:sticks]).map { |n| x = across(n)
        { body: "M#{x - 12} #{RIM + 40}V#{RIM - TALL}H#{x + 12}V#{RIM + 40}l-12 60z", slit: "M#{x} #{RIM + 100}v60" } }
      end

      def places
        placed = []
        @exercise[:places].map do |place|
          x, y = spot(place)
          placed << (label = clear_of(placed, x, y)) << [x, y]
          { id: place[:id], is: place[:is], x: x, y: y, label: label, sealed: @sealed.include?(place[:id]),
            state: state(place[:id]) }
        end
      end

      def spoken = "A finished graft with #{Spoken.counted(@exercise[:sticks], 'stick')} and " \
                   "#{@exercise[:places].size} places that can be pressed."

      private

      def across(stick) = @exercise[:sticks] == 1 ? MIDDLE : MIDDLE + (stick == 1 ? -42 : 42)

      # Where a number stands beside its place, clear of those that stand already.
      def clear_of(placed, x, y)
        SPOTS.map { |right, down| [x + right, y + down] }.find do |at|
          placed.none? { |other| Math.hypot(other[0] - at[0], other[1] - at[1]) < 25 }
        end || [x + 60, y]
      end

      def spot(place)
        right, down, far, deep = AT.fetch(place[:is])
        side = %w[tip shoulder slit rim face].include?(place[:is]) ? 1 : place[:side]
        [(place[:is] == "bud" ? across(place[:stick]) : across_of(place)) + side * (right + place[:at] * far),
         RIM + down + place[:at] * deep]
      end

      # What is on the stub's own bark lies about its middle.
      def across_of(place) = %w[tip shoulder slit face].include?(place[:is]) ? across(place[:stick]) : MIDDLE

      def state(id)
        return nil unless judged?

        wrong = @result[:feedback].find { |each| each[:place] == id || each[:places]&.include?(id) } or return nil
        wrong[:code] == "practice_seal_missed" ? "missed" : "killed"
      end
    end
  end
end
