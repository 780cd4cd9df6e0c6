# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # The projective map of a plane that takes four points to four others.
      class Projective
        # @param from [Array<Array(Float, Float)>] four points, no three in line
        # @param to [Array<Array(Float, Float)>] where they go
        def initialize(from, to)
          # Eight linear equations: x' (g x + h y + 1) = a x + b y + c, and the same for y'.
          rows = from.zip(to).flat_map do |(x, y), (u, v)|
            [[x, y, 1.0, 0.0, 0.0, 0.0, -u * x, -u * y, u], [0.0, 0.0, 0.0, x, y, 1.0, -v * x, -v * y, v]]
          end
          @map = solved(rows.map { |row| row.map(&:to_f) })
        end

        # @return [Array<Float>] a to h: x' = (a x + b y + c) / (g x + h y + 1), y' = (d x + e y + f) / (g x + h y + 1)
        def figures = @map

        # @return [Array(Float, Float), nil] nil for what lies beyond the horizon of the plane
        def call(point)
          x, y = point
          a, b, c, d, e, f, g, h = @map
          far = g * x + h * y + 1
          return nil unless far > 1e-9

          [(a * x + b * y + c) / far, (d * x + e * y + f) / far]
        end

        private

        # Gauss and Jordan, the greatest of each column first.
        def solved(rows)
          rows.size.times do |column|
            best = (column...rows.size).max_by { |row| rows[row][column].abs }
            rows[column], rows[best] = rows[best], rows[column]
            rows.each_index { |i| clear(rows[i], rows[column], column) unless i == column }
          end
          rows.each_with_index.map { |row, i| row.last / row[i] }
        end

        # Takes a row's figure in a column away, by so many times the pivot's.
        def clear(row, pivot, column)
          times = row[column] / pivot[column]
          row.each_index { |j| row[j] -= times * pivot[j] }
        end
      end
    end
  end
end
