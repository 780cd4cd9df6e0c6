# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # Places name tags beside the points they name so that no two cover each other.
      module Tags
        # Which way from the point to try, in degrees from the way the tag should hang, and how far out: straight on and
        # near first; a turn of 45 degrees counts as much as half a reach.
        TURNS = [0, -25, 25, -50, 50, -80, 80, -110, 110, -145, 145, 180].freeze
        WAYS = TURNS.product([1.0, 1.5, 2.1, 2.8, 3.6, 4.6, 5.8]).sort_by { |turn, out| out + turn.abs / 90.0 }.freeze

        # @param anchors [Array<Hash>] +id+, +x+, +y+, and +dx+, +dy+: the way it should hang
        # @param size [Array(Float, Float)] a tag's width and height
        # @param box [Array(Float, Float, Float, Float)] left, top, right, bottom to stay inside
        # @param taken [Array<Array>] rectangles already used: left, top, right, bottom
        # @param lines [Array<Array>] lines that no tag should cover while there is room elsewhere: from x, y to x, y
        # @return [Hash] id => [x, y] of each tag's middle
        def self.place(anchors, size:, box:, taken: [], lines: [])
          width, height = size
          inside = [(box[0] + width / 2)..(box[2] - width / 2), (box[1] + height / 2)..(box[3] - height / 2)]
          reach = Math.hypot(width, height) * 0.75
          used = taken.dup
          anchors.sort_by { |each| [each[:y], each[:x]] }.to_h do |anchor|
            middle = free_place(anchor, size, inside, reach, used, lines)
            used << rectangle(*middle, width, height)
            [anchor[:id], middle]
          end
        end

        # The nearest place where a tag covers no other and no line; no other, where every place has a line; the nearest
        # of all where there is none.
        def self.free_place(anchor, size, inside, reach, used, lines)
          places = WAYS.lazy.map { |way| candidate(anchor, way, reach, inside) }
          open = places.select { |middle| free?(rectangle(*middle, *size), used) }
          clear = open.find { |middle| lines.none? { |line| covers?(rectangle(*middle, *size), line) } }
          clear || open.first || places.first
        end

        def self.candidate(anchor, way, reach, inside)
          turn, out = way
          angle = Math.atan2(anchor[:dy], anchor[:dx]) + turn * Math::PI / 180
          [(anchor[:x] + Math.cos(angle) * out * reach).clamp(inside[0]),
           (anchor[:y] + Math.sin(angle) * out * reach).clamp(inside[1])]
        end

        # Whether some of a line lies in a rectangle: what is left of it between each pair of sides.
        def self.covers?(box, line)
          x1, y1, x2, y2 = line
          sides = [[x1, x2, box[0], box[2]], [y1, y2, box[1], box[3]]]
          from, to = sides.reduce([0.0, 1.0]) do |(low, high), (a, b, min, max)|
            next (a.between?(min, max) ? [low, high] : [1.0, 0.0]) if (b - a).abs < 1e-9

            one, two = [(min - a) / (b - a), (max - a) / (b - a)].minmax
            [[low, one].max, [high, two].min]
          end
          from <= to
        end

        def self.rectangle(x, y, width, height) = [x - width / 2, y - height / 2, x + width / 2, y + height / 2]

        def self.free?(one, used)
          used.none? { |other| one[0] < other[2] && other[0] < one[2] && one[1] < other[3] && other[1] < one[3] }
        end
        private_class_method :free_place, :candidate, :covers?, :rectangle, :free?
      end
    end
  end
end
