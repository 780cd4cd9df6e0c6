# frozen_string_literal: true

module Vestry
  module Sheets
    # A card for the pocket: a frame of known size that is held in the plane of what is measured in a picture.
    class MeasuringCard
      MM = 72 / 25.4
      # How thick the frame is drawn, in mm: dark enough to be found, its outer edge being what counts.
      FRAME = 4
      private_constant :MM, :FRAME

      # @param card_mm [Array(Numeric, Numeric)] width and height
      def initialize(card_mm, size: "a4")
        @wide, @high = card_mm
        @size = size
      end

      def pdf
        Paper.print(@size, title: "Measuring card") do |page|
          page.text("Measuring card", style: :bold, size: 16)
          page.text("Print it at its own size, not fitted to the page, and lay a rule along it: the frame is " \
                    "#{@wide} by #{@high} mm from outer edge to outer edge. Glue it on stiff card and cut along the " \
                    "outer line.")
          page.move_down(20)
          [0, 1].each { |column| [0, 1].each { |row| card(page, column * 90, page.cursor - row * 75 * MM) } }
          page.move_cursor_to(page.cursor - 165 * MM)
          page.text("Hold it flat in the plane of what you measure: on the stub's face, along the limb's widest " \
                    "line, on the bark beside the wound. Stand straight before it, an arm's length off.")
        end
      end

      private

      def card(page, left_mm, top)
        left = left_mm * MM
        page.dash(2)
        page.stroke_rectangle([left, top], (@wide + 12) * MM, (@high + 12) * MM)
        page.undash
        frame(page, left + 6 * MM, top - 6 * MM)
      end

      def frame(page, left, top)
        inside = { left: left + FRAME * MM, low: top - (@high - FRAME) * MM }
        box(page, "000000", left, top, 0)
        box(page, "FFFFFF", left, top, FRAME)
        page.fill_color("000000")
        rule(page, inside[:left], inside[:low])
        middle = top - @high / 2.0 * MM
        page.draw_text("#{@wide} × #{@high} mm", at: [inside[:left] + 4 * MM, middle], size: 9)
        page.draw_text("this side up", at: [inside[:left] + 4 * MM, middle - 5 * MM], size: 7)
      end

      # The card's rectangle, so many millimetres further in on every side.
      def box(page, colour, left, top, within)
        page.fill_color(colour)
        page.fill_rectangle([left + within * MM, top - within * MM], (@wide - 2 * within) * MM,
                            (@high - 2 * within) * MM)
      end

      # Centimetres within the frame, to see at a glance that it was printed at its own size.
      def rule(page, left, low)
        (0..((@wide - 2 * FRAME) / 10).floor).each do |cm|
          page.stroke_line([left + cm * 10 * MM, low], [left + cm * 10 * MM, low + 4 * MM])
        end
      end
    end
  end
end
