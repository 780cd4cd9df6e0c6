# frozen_string_literal: true

module Vestry
  module Sheets
    # The drawing of a tree on paper: the same strokes as on the page, in black.
    module TreePicture
      NUMBER = /-?\d+(?:\.\d+)?/

      module_function

      # @param at [Array(Float, Float)] the upper left corner
      def draw(page, tree, stands, at:, wide:, high:)
        drawing = Drawings::Elevation.new(tree, stands)
        scale = [wide / drawing.width, high / drawing.height].min
        place = ->(x, y) { [at[0] + x * scale, at[1] - y * scale] }
        page.save_graphics_state do
          page.line_width = 0.6
          stroke(page, drawing.trunk, place)
          drawing.branches.each do |branch|
            stroke(page, branch.outline, place)
            branch.sticks.each { |each| stick(page, each, place) }
            label(page, branch, place)
          end
          page.stroke_line(place.call(40, drawing.ground_y), place.call(drawing.width - 20, drawing.ground_y))
        end
      end

      def stick(page, stick, place)
        page.line_width = 1.1
        stroke(page, stick[:stick], place)
        stroke(page, stick[:shoot].is_a?(Array) ? stick[:shoot].first : stick[:shoot], place)
        page.line_width = 0.6
      end

      def label(page, branch, place)
        x, y = branch.label || branch.leader
        page.draw_text(branch.tag, at: place.call(x - 6, y + 6), size: 7)
      end

      # Moves, lines and curves of a path, as the drawings write them.
      def stroke(page, path, place)
        return if path.to_s.empty?

        here = nil
        path.scan(/([MLCQZ])([^MLCQZ]*)/) do |verb, rest|
          points = rest.scan(NUMBER).map(&:to_f).each_slice(2).map { |x, y| place.call(x, y) }
          case verb
          when "M" then page.move_to(here = points.first)
          when "L" then points.each { |point| page.line_to(here = point) }
          when "C" then points.each_slice(3) { |one, two, to| page.curve_to(here = to, bounds: [one, two]) }
          when "Q" then points.each_slice(2) { |bend, to| here = quadratic(page, here, bend, to) }
          when "Z" then page.close_path
          end
        end
        page.stroke
      end

      # A curve with one bend as a curve with two.
      def quadratic(page, from, bend, to)
        one, two = [from, to].map do |each|
          [each[0] + (bend[0] - each[0]) * 2 / 3.0, each[1] + (bend[1] - each[1]) * 2 / 3.0]
        end
        page.curve_to(to, bounds: [one, two])
        to
      end
      private_class_method :stick, :label, :stroke, :quadratic
    end
  end
end
