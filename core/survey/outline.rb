# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # What a marked outline measures.
      module Outline
        extend Reckoning

        contract "outline", "Area, longest width and widest across it of a marked outline" do
          list :points_mm, item(:list, of: item(:number, unit: "mm", least: -1e5, most: 1e5), size: 2), longest: 400,
               help: "round the edge, each once"
        end

        # The longest width is between the two points furthest apart, and the widest across it is the room between the
        # outermost points to either side of that line.
        #
        # @return [Hash] +area_mm2+ (by the shoelace formula), +a_mm+ (longest), +b_mm+ (across it), +bearing_deg+ of
        #   the longest, 0 up and round as a clock goes, below 180, y going down; and +perimeter_mm+
        # @raise [BadInput] for fewer than three points, and for an edge that crosses itself
        def self.call(points_mm:, rulebook: nil)
          raise BadInput.new("points_mm", "three points or more") if points_mm.size < 3
          raise BadInput.new("points_mm", "an edge that does not cross itself") if crosses?(points_mm)

          from, to = points_mm.combination(2).max_by { |one, other| far(one, other) }
          sides = points_mm.zip(points_mm.rotate)
          { area_mm2: sides.sum { |(x, y), (u, v)| x * v - u * y }.abs / 2.0, a_mm: far(from, to),
            b_mm: across(points_mm, from, to), bearing_deg: bearing(from, to),
            perimeter_mm: sides.sum { |one, other| far(one, other) } }
        end

        # How far two places are from each other.
        def self.far(one, other) = Math.hypot(other[0] - one[0], other[1] - one[1])

        def self.across(points, from, to)
          long = far(from, to)
          return 0.0 unless long.positive?

          off = points.map { |x, y| ((x - from[0]) * (to[1] - from[1]) - (y - from[1]) * (to[0] - from[0])) / long }
          off.max - off.min
        end

        def self.bearing(from, to)
          turn = Math.atan2(to[0] - from[0], from[1] - to[1]) * 180 / Math::PI % 180
          Near.at_least?(turn, 180) ? 0.0 : turn
        end

        # Whether two of its sides that are no neighbours meet.
        def self.crosses?(points)
          sides = points.zip(points.rotate)
          sides.each_index.to_a.combination(2).any? do |i, j|
            (j - i) > 1 && (j - i) < sides.size - 1 && meet?(sides[i], sides[j])
          end
        end

        def self.meet?((one, two), (three, four))
          (side(one, two, three) * side(one, two, four)).negative? &&
            (side(three, four, one) * side(three, four, two)).negative?
        end

        def self.side(from, to, point)
          (to[0] - from[0]) * (point[1] - from[1]) - (to[1] - from[1]) * (point[0] - from[0])
        end
        private_class_method :across, :bearing, :crosses?, :meet?, :side
      end
    end
  end
end
