# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # What was marked in a picture, as it would lie flat: a square about the marks, to a scale of its own.
      module FlatView
        # Its scale.
        PX_PER_MM = 4

        module_function

        # @param marks [Hash] as Pictured takes them
        # @param side_mm [Numeric] of the square
        # @return [Hash] +size_px+ of the square; +map+, the nine figures of the projective map from it to the picture;
        #   and +marks_px+, the marks in it
        # @raise [BadInput] as Rectify does
        def of(marks, side_mm:)
          known, size = marks[:corners] ? [marks[:corners], marks.values_at(:width_mm, :height_mm)] : square(marks)
          flat = Rectify.call(corners: known, width_mm: size[0], height_mm: size[1], points: marks[:points])[:points_mm]
          to_px = about(flat, side_mm)
          { size_px: (side_mm * PX_PER_MM).round, marks_px: flat.map(&to_px),
            map: Projective.new(Rectify.card(*size).map(&to_px), known).figures }
        end

        # From the plane to a square about the middle of some places in it.
        def about(places, side_mm)
          corner = places.transpose.map { |each| each.minmax.sum / 2.0 - side_mm / 2.0 }
          ->(place) { place.zip(corner).map { |mm, from| (mm - from) * PX_PER_MM } }
        end

        # A square on the ruler: without a card a picture is taken to be seen straight on.
        def square(marks)
          (x, y), (u, v) = marks[:ruler]
          [[[x, y], [u, v], [u - (v - y), v + (u - x)], [x - (v - y), y + (u - x)]], [marks[:ruler_mm]] * 2]
        end
        private_class_method :about, :square
      end
    end
  end
end
