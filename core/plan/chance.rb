# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Chances drawn from a Beta distribution.
      module Chance
        module_function

        # @param mean [Float] 0..1
        # @param strength [Float] sights that it is worth
        # @return [Float] 0..1
        def beta(mean, strength, random)
          return mean if mean <= 0 || mean >= 1

          one, other = gamma(mean * strength, random), gamma((1 - mean) * strength, random)
          (one + other).positive? ? one / (one + other) : mean
        end

        # Marsaglia and Tsang (2000); below one by their boost.
        def gamma(shape, random)
          return gamma(shape + 1, random) * (1 - random.rand)**(1 / shape) if shape < 1

          d = shape - 1 / 3.0
          spread = 1 / Math.sqrt(9 * d)
          loop do
            x = normal(random)
            cube = (1 + spread * x)**3
            return d * cube if cube.positive? && kept?(x, cube, d, random)
          end
        end

        def kept?(x, cube, d, random)
          Math.log(1 - random.rand) < 0.5 * x * x + d - d * cube + d * Math.log(cube)
        end

        # One draw of mean 0 and spread 1 (Box and Muller).
        def normal(random)
          Math.sqrt(-2 * Math.log(1 - random.rand)) * Math.cos(2 * Math::PI * random.rand)
        end
        private_class_method :gamma, :kept?, :normal
      end
    end
  end
end
