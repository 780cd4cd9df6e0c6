# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # Points of a picture, put into the plane of a rectangle of known size that lies in it.
      module Rectify
        extend Reckoning

        # Nearer to a line than this share of their distances three corners are taken to lie in it.
        IN_LINE = 0.01
        private_constant :IN_LINE

        contract "rectify", "Points of a picture as millimetres in the plane of a card of known size" do
          list :corners, item(:list, of: item(:number, unit: "px", least: -1e5, most: 1e5), size: 2), size: 4,
               help: "of the card in the picture, from its top left one round as a clock goes"
          number :width_mm, unit: "mm", above: 0, most: 2000
          number :height_mm, unit: "mm", above: 0, most: 2000
          list :points, item(:list, of: item(:number, unit: "px", least: -1e5, most: 1e5), size: 2), longest: 400
        end

        # @return [Hash] +points_mm+, the card's top left corner being [0, 0] and y going down; and +scale_error+: how
        #   far the worst side of the card is from its length under the similarity that fits its corners best (least
        #   squares), which says how much askew the picture is
        # @raise [BadInput] for corners of which three lie in line, that cross, or go the other way round; for a point
        #   beyond the horizon of the card's plane
        def self.call(corners:, width_mm:, height_mm:, points:, rulebook: nil)
          corners!(corners)
          card = card(width_mm, height_mm)
          map = Projective.new(corners, card)
          { points_mm: points.each_with_index.map { |point, i| map.call(point) || beyond(i) },
            scale_error: scale_error(corners, card) }
        end

        # The corners of a card in its own plane.
        def self.card(width, height) = [[0.0, 0.0], [width.to_f, 0.0], [width.to_f, height.to_f], [0.0, height.to_f]]

        # Each corner turns to the right, by more than a hair.
        def self.corners!(corners)
          turns = (0..3).map { |i| turn(*corners.values_at(i - 1, i, (i + 1) % 4)) }
          return if turns.all? { |turn| turn > IN_LINE }

          raise BadInput.new("corners", turns.all? { |turn| turn < -IN_LINE } ?
            "the card's top left corner first, and on as a clock goes" :
            "four corners of a card, no three in line and none crossing")
        end

        # The sine of the turn at a corner, to the right above 0; 0 where two corners are one.
        def self.turn(one, middle, other)
          back, ahead = [[one, middle], [middle, other]].map { |from, to| Complex(*to) - Complex(*from) }
          far = back.abs * ahead.abs
          far.positive? ? (back.conj * ahead).imaginary / far : 0.0
        end

        # With z the corners as complex numbers about their middle and w those of the card, the best similarity turns
        # and scales by sum(conj(z) w) / sum(|z|^2).
        def self.scale_error(corners, card)
          z, w = [corners, card].map { |four| about_middle(four) }
          scale = (z.zip(w).sum { |from, to| from.conj * to } / z.sum(&:abs2)).abs
          sides(z).zip(sides(w)).map { |px, mm| (px * scale - mm).abs / mm }.max
        end

        def self.sides(four) = four.zip(four.rotate).map { |one, other| (other - one).abs }

        def self.about_middle(points)
          all = points.map { |x, y| Complex(x, y) }
          middle = all.sum / all.size
          all.map { |each| each - middle }
        end

        def self.beyond(place)
          raise BadInput.new("points[#{place}]", "a point on the near side of the card's plane")
        end
        private_class_method :corners!, :turn, :scale_error, :sides, :about_middle, :beyond
      end
    end
  end
end
