# frozen_string_literal: true

module Vestry
  module Drawings
    # A stub cut through where a stick is slid down between its wood and its bark.
    class PracticeSeat
      SCALE, RIM, WOOD, WIDTH, HEIGHT = 4.0, 230.0, 210.0, 420, 520
      private_constant :SCALE, :RIM, :WOOD

      # @param exercise [Hash] as Core::Practice::Seat shows it
      # @param in_mm [Float] of the face below the rim
      # @param result [Hash, nil] what that came to
      def initialize(exercise, in_mm: 0.0, result: nil)
        @exercise = exercise
        @in_mm = in_mm
        @result = result
      end

      attr_reader :in_mm

      def svg = Template.render("practice_seat", self)
      def judged? = !@result.nil?
      def width = WIDTH
      def height = HEIGHT
      def scale = SCALE
      def most = @exercise[:face_mm] + 20
      def down = Stroke.round(in_mm * SCALE)

      # The stub's wood, its rim higher or lower on the far side.
      def wood
        Stroke.straight([[40, HEIGHT], [40, RIM + @exercise[:slant_mm] * SCALE], [WOOD, RIM], [WOOD, HEIGHT]])
      end

      # Bark that stands off as far as it was opened.
      def bark
        thick, off, slit = @exercise.values_at(:bark_mm, :scion_mm, :slit_mm).zip([1, 0.75, 1])
          .map { |mm, times| mm * SCALE * times }
        foot = RIM + slit
        inner = [[WOOD + off, RIM], [WOOD + off * 0.8, RIM + (foot - RIM) * 0.7], [WOOD, foot], [WOOD, HEIGHT]]
        outer = inner.reverse.map { |x, y| [x + thick, y] }
        "#{Stroke.straight(inner + outer)}Z"
      end

      # The stick as it hangs above the rim: its face on the left, a bevel behind its end, wood above.
      def stick
        long, thick = @exercise[:face_mm] * SCALE, @exercise[:scion_mm] * SCALE
        top = RIM - long - 110
        left, right = WOOD - thick * 0.45, WOOD + thick * 0.55
        "#{Stroke.straight([[WOOD, RIM], [WOOD, RIM - long], [left, RIM - long], [left, top], [right, top],
                            [right, RIM - 26], [WOOD + 3, RIM]])}Z"
      end

      def face = "M#{WOOD} #{RIM}V#{Stroke.round(RIM - @exercise[:face_mm] * SCALE)}"
      def rim = RIM

      # Where the top of the face should be, once it is told.
      def window
        low, high = @exercise[:showing_mm]
        [RIM - high * SCALE, (high - low) * SCALE]
      end

      def spoken = "A stub in section, and a stick whose cut face is #{@exercise[:face_mm]} mm long."
    end
  end
end
