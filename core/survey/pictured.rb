# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # A figure that is measured in a picture, with how far off it may be.
      module Pictured
        extend Reckoning

        KINDS = %w[length oval outline].freeze
        MARKS = { "length" => 2..2, "oval" => 4..4, "outline" => 3..60 }.freeze
        # A mark is moved by this much of a pixel to see what that changes.
        STEP = 0.01
        private_constant :MARKS, :STEP

        contract "pictured", "A figure measured in a picture, with how far off it may be" do
          list :corners, item(:list, of: item(:number, unit: "px", least: -1e5, most: 1e5), size: 2), size: 4,
               optional: true, help: "of a card, from its top left one round as a clock goes"
          number :width_mm, unit: "mm", above: 0, most: 2000, optional: true
          number :height_mm, unit: "mm", above: 0, most: 2000, optional: true
          list :ruler, item(:list, of: item(:number, unit: "px", least: -1e5, most: 1e5), size: 2), size: 2,
               optional: true, help: "ends of a known length, where there is no card"
          number :ruler_mm, unit: "mm", above: 0, most: 10_000, optional: true
          name :kind, KINDS, help: "length between two points, oval by two ends and two sides, outline round the edge"
          list :points, item(:list, of: item(:number, unit: "px", least: -1e5, most: 1e5), size: 2), longest: 60
          number :mark_px, unit: "px", least: 0, most: 200, default: 2.0, help: "so far off a mark may lie"
        end

        # Each coordinate of each mark and corner is off by mark_px, one independent of the other: to first order the
        # figure is off by the root of the sum of the squares of what each of them changes.
        #
        # @return [Hash] +a_mm+ (the length, or the longest width), +b_mm+ across it (nil for a length), +mean_mm+ (of
        #   the circle of the same area), +area_mm2+ (nil for a length); +error_mm+ of +a_mm+ and +mean_error_mm+;
        #   +scale_error+ (nil with a ruler) and +askew+: whether the picture was taken too far from straight to be
        #   trusted; +along+: whether only lengths along the ruler are
        # @raise [BadInput] for marks that measure nothing
        def self.call(kind:, points:, corners: nil, width_mm: nil, height_mm: nil, ruler: nil, ruler_mm: nil,
                      mark_px: 2.0, rulebook: Rulebook.shipped)
          scale!(corners, width_mm, height_mm, ruler, ruler_mm)
          raise BadInput.new("points", "#{MARKS[kind].minmax.uniq.join(' to ')} points") unless
            MARKS[kind].cover?(points.size)

          size = [width_mm, height_mm]
          marks = [points, corners || ruler].flatten
          measure = ->(all) { figures(kind, all, points.size, corners ? size : ruler_mm) }
          found = measure[marks]
          off = errors(marks, measure, found, mark_px)
          { **found, **off, askew: askew?(found, rulebook), along: corners.nil? }
        end

        # Round a limb that is so thick, and as much off where that is.
        #
        # @return [Float] mm
        def self.girth(mean_mm) = Math::PI * mean_mm

        def self.scale!(corners, width, height, ruler, ruler_mm)
          return if corners && width && height && ruler.nil?
          raise BadInput.new("corners", "a card with its width and height, or a ruler with its length") unless
            ruler && ruler_mm && corners.nil?
          raise BadInput.new("ruler", "two places") if ruler[0] == ruler[1]
        end

        # @param all [Array<Float>] points and then corners, or the ends of a ruler, as one row of numbers
        # @param size [Array(Float, Float), Float] of the card, or the ruler's length
        def self.figures(kind, all, count, size)
          points, known = all.each_slice(2).to_a.then { |pairs| [pairs.first(count), pairs.drop(count)] }
          plane = size.is_a?(Array) ? by_card(points, known, size) : by_ruler(points, known, size)
          { **shape(kind, plane[:points_mm]), scale_error: plane[:scale_error] }
        end

        def self.by_card(points, corners, size)
          Rectify.call(corners: corners, width_mm: size[0], height_mm: size[1], points: points)
        end

        def self.by_ruler(points, ends, length)
          scale = length / Outline.far(*ends)
          { points_mm: points.map { |x, y| [x * scale, y * scale] }, scale_error: nil }
        end

        def self.shape(kind, points)
          return Outline.call(points_mm: points).then { |told| round(told[:a_mm], told[:b_mm], told[:area_mm2]) } if
            kind == "outline"

          long = Outline.far(*points.first(2))
          raise BadInput.new("points", "two places") unless long.positive?
          return { a_mm: long, b_mm: nil, mean_mm: long, area_mm2: nil } if kind == "length"

          a, b = [long, Outline.far(*points.last(2))].sort.reverse
          round(a, b, Math::PI * a * b / 4)
        end

        def self.round(long, across, area)
          { a_mm: long, b_mm: across, mean_mm: Math.sqrt(4 * area / Math::PI), area_mm2: area }
        end

        def self.errors(marks, measure, found, mark_px)
          moved = marks.each_index.map do |i|
            other = measure[marks.each_with_index.map { |each, j| j == i ? each + STEP : each }]
            %i[a_mm mean_mm].map { |name| (other[name] - found[name]) / STEP * mark_px }
          end
          a, mean = moved.transpose.map { |changes| Math.sqrt(changes.sum { |each| each**2 }) }
          { error_mm: a, mean_error_mm: mean }
        end

        def self.askew?(found, rulebook)
          !found[:scale_error].nil? && !Near.at_most?(found[:scale_error], rulebook.value("reckoning.pictured.askew"))
        end
        private_class_method :scale!, :figures, :by_card, :by_ruler, :shape, :round, :errors, :askew?
      end
    end
  end
end
