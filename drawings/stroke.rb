# frozen_string_literal: true

require "zlib"

module Vestry
  module Drawings
    # Turns points into pen strokes.
    module Stroke
      module_function

      # To a tenth, without a tenth that is none.
      def round(number)
        tenths = (number * 10).round
        whole, rest = tenths.abs.divmod(10)
        rest.zero? ? (tenths / 10).to_s : "#{'-' if tenths.negative?}#{whole}.#{rest}"
      end

      def straight(points, start: "M")
        points.each_with_index.map { |(x, y), i| "#{i.zero? ? start : 'L'}#{round(x)} #{round(y)}" }.join
      end

      # A line that bends once, towards a point that it does not reach.
      def curve(from, bend, to)
        "M#{from.map { |v| round(v) }.join(' ')}Q#{[*bend, *to].map { |v| round(v) }.join(' ')}"
      end

      # A circle as a path.
      def round_about(x, y, radius)
        r, across = round(radius), round(radius * 2)
        "M#{round(x - radius)} #{round(y)}a#{r} #{r} 0 1 0 #{across} 0a#{r} #{r} 0 1 0 -#{across} 0Z"
      end

      # Short strokes strewn over a rectangle, the same for the same name: bark, or wood.
      #
      # @param way [String] h or v: across or down
      def strewn(name, count, across, down, way:)
        (0...count).map do |i|
          # Each has a stretch of its own, so that none are heaped.
          x = between(across, (i + 0.5 + chance("#{name} across", i) * 0.5) / count)
          y = between(down, (chance("#{name} down", i) + 1) / 2)
          "M#{x.round} #{y.round}#{way}#{(9 + 6 * chance("#{name} long", i)).round}"
        end.join
      end

      def between(span, share) = span[0] + (span[1] - span[0]) * share

      # The way from one point to another, in radians.
      def heading(from, to) = Math.atan2(to[1] - from[1], to[0] - from[0])

      # The point so far off, that way.
      def ahead(from, way, long) = [from[0] + Math.cos(way) * long, from[1] + Math.sin(way) * long]

      # A stroke across a way, so far to either side of a point.
      def across(point, way, half)
        straight([ahead(point, way + Math::PI / 2, half), ahead(point, way - Math::PI / 2, half)])
      end

      # A smooth line through the points (Catmull and Rom's spline as cubic curves).
      def smooth(points, start: "M")
        return straight(points, start: start) if points.size < 3

        ends = [points.first, *points, points.last]
        curves = ends.each_cons(4).map do |(ax, ay), (bx, by), (cx, cy), (dx, dy)|
          "C#{round(bx + (cx - ax) / 6.0)} #{round(by + (cy - ay) / 6.0)} #{round(cx - (dx - bx) / 6.0)} " \
          "#{round(cy - (dy - by) / 6.0)} #{round(cx)} #{round(cy)}"
        end
        "#{start}#{round(points.first[0])} #{round(points.first[1])}#{curves.join}"
      end

      # The outline of a branch: out along one side, back along the other, open where it grows.
      #
      # @param axis [Array<Array(Float, Float)>] points along it
      # @param widths [Array<Float>] how thick it is at each
      def branch(axis, widths)
        left, right = sides(axis, widths)
        "#{smooth(left)}#{smooth(right.reverse, start: 'L')}"
      end

      def sides(axis, widths)
        axis.each_with_index.map do |(x, y), i|
          before = axis[[i - 1, 0].max]
          after = axis[[i + 1, axis.size - 1].min]
          dx, dy = after[0] - before[0], after[1] - before[1]
          long = Math.hypot(dx, dy)
          long = 1.0 if long.zero?
          half = widths[i] / 2.0
          [[x - dy / long * half, y + dx / long * half], [x + dy / long * half, y - dx / long * half]]
        end.transpose
      end

      # Numbers between -1 and 1 that look like chance and are always the same for the same
      # name: a drawn tree keeps its crooks from one look to the next.
      def chance(name, index)
        (Zlib.crc32("#{name}/#{index}") % 2001) / 1000.0 - 1
      end
    end
  end
end
