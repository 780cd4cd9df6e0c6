# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # A symmetric positive matrix by its Cholesky factor: A = L L'.
      module Cholesky
        module_function

        # @param matrix [Array<Array<Float>>]
        # @return [Array<Array<Float>>] L, lower
        # @raise [ArgumentError] when it is not positive definite
        def factor(matrix)
          size = matrix.size
          lower = Array.new(size) { Array.new(size, 0.0) }
          size.times do |i|
            (0..i).each do |j|
              rest = matrix[i][j] - dot(lower[i], lower[j], j)
              if i == j
                raise ArgumentError, "the matrix is not positive definite" unless rest.positive?

                lower[i][i] = Math.sqrt(rest)
              else
                lower[i][j] = rest / lower[j][j]
              end
            end
          end
          lower
        end

        # @return [Array<Array<Float>>] the inverse of the matrix
        def inverse(matrix)
          lower = factor(matrix)
          columns = Array.new(matrix.size) { |n| solve(lower, n) }
          columns.transpose
        end

        # The column of the inverse that answers the n-th unit vector.
        def solve(lower, unit) = back(lower, forward(lower, unit))

        def forward(lower, unit)
          found = Array.new(lower.size, 0.0)
          (unit...lower.size).each do |i|
            found[i] = ((i == unit ? 1.0 : 0.0) - dot(lower[i], found, i)) / lower[i][i]
          end
          found
        end

        def back(lower, forward)
          found = Array.new(lower.size, 0.0)
          (lower.size - 1).downto(0) do |i|
            rest = ((i + 1)...lower.size).sum { |k| lower[k][i] * found[k] }
            found[i] = (forward[i] - rest) / lower[i][i]
          end
          found
        end

        def dot(one, other, upto)
          sum = 0.0
          upto.times { |k| sum += one[k] * other[k] }
          sum
        end
        private_class_method :solve, :forward, :back, :dot
      end
    end
  end
end
