# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # Places name tags beside the points they name so that no two cover each other.
      module Tags
        # How far out and how far aside to try, nearest first.
        STEPS = [0, -0.6, 0.6, -1.3, 1.3, -2.1, 2.1].product([1.0, 1.7, 2.4, 3.2, 4.2, 5.4])
                                                   .map(&:reverse).sort_by { |out, across| out + across.abs }.freeze

        # @param anchors [Array<Hash>] +id+, +x+, +y+, and +dx+, +dy+: the way it should hang
        # @param size [Array(Float, Float)] a tag's width and height
        # @param box [Array(Float, Float, Float, Float)] left, top, right, bottom to stay inside
        # @param taken [Array<Array>] rectangles already used: left, top, right, bottom
        # @return [Hash] id => [x, y] of each tag's middle
        def self.place(anchors, size:, box:, taken: [])
          width, height = size
          inside = [(box[0] + width / 2)..(box[2] - width / 2), (box[1] + height / 2)..(box[3] - height / 2)]
          reach = Math.hypot(width, height) * 0.75
          used = taken.dup
          anchors.sort_by { |each| [each[:y], each[:x]] }.to_h do |anchor|
            middle = free_place(anchor, size, inside, reach, used)
            used << rectangle(*middle, width, height)
            [anchor[:id], middle]
          end
        end

        # The nearest place where a tag covers no other; the nearest of all where there is none.
        def self.free_place(anchor, size, inside, reach, used)
          STEPS.each do |step|
            middle = candidate(anchor, step, reach, inside)
            return middle if free?(rectangle(*middle, *size), used)
          end
          candidate(anchor, STEPS.first, reach, inside)
        end

        def self.candidate(anchor, step, reach, inside)
          out, across = step
          x = anchor[:x] + (anchor[:dx] * out - anchor[:dy] * across) * reach
          y = anchor[:y] + (anchor[:dy] * out + anchor[:dx] * across) * reach
          [x.clamp(inside[0]), y.clamp(inside[1])]
        end

        def self.rectangle(x, y, width, height) = [x - width / 2, y - height / 2, x + width / 2, y + height / 2]

        def self.free?(one, used)
          used.none? { |other| one[0] < other[2] && other[0] < one[2] && one[1] < other[3] && other[1] < one[3] }
        end
        private_class_method :free_place, :candidate, :rectangle, :free?
      end
    end
  end
end
