# frozen_string_literal: true

module Vestry
  module Core
    module Repair
      # A wound as its two margins, read at some bearings round the trunk: the lower edge of the
      # upper bark (high) and the upper edge of the lower bark (low), in mm above the soil, below it
      # negative. Between readings both margins run straight, round the back from the last to the first.
      class WoundShape
        ROUND = 360

        # @param readings [Array<Hash>] each +bearing_deg+ (0 <= b < 360), +low_mm+, +high_mm+; of two at
        #   one bearing the first is what is met coming from below it, the second going on
        def initialize(readings)
          @edges = readings.sort_by.with_index { |reading, i| [reading[:bearing_deg], i] }.map do |reading|
            reading.values_at(:bearing_deg, :low_mm, :high_mm)
          end
          @bearings = @edges.map(&:first)
        end

        # @return [Array(Float, Float)] low and high at a bearing, in mm
        def margins(bearing)
          return [0.0, 0.0] if @edges.empty?

          after = @bearings.bsearch_index { |each| each > bearing + Near::TOLERANCE } || 0
          at, low, high = @edges[after - 1]
          to, low_on, high_on = @edges[after]
          span = (to - at) % ROUND
          return [low, high] if span.zero?

          on = (bearing - at) % ROUND
          # A hair below a reading is at it, not all the way round to it again.
          share = on > ROUND - 2 * Near::TOLERANCE ? 0.0 : on / span
          [low + (low_on - low) * share, high + (high_on - high) * share]
        end

        # How far apart the margins are at a bearing, in mm; nothing where bark lives.
        def gap(bearing) = apart_at(margins(bearing))

        # @param degree [Integer] 0 to 359
        def open?(degree) = apart_at(degrees[degree]) > Near::TOLERANCE

        # Both margins at each whole degree, 0 to 359.
        #
        # @return [Array<Array(Float, Float)>]
        def degrees = @degrees ||= Array.new(ROUND) { |degree| margins(degree) }

        # The whole degrees, 0 to 359, at which it is open.
        def open_degrees = @open_degrees ||= (0...ROUND).select { |degree| open?(degree) }

        # @return [Float] the share of the girth without bark, 0..1
        def girdled_share = open_degrees.size / ROUND.to_f

        def ring? = open_degrees.size == ROUND

        # Each open stretch as its first open degree and the first closed one after it, going up;
        # one across north ends beyond 360. A full ring is none.
        #
        # @return [Array<Array(Integer, Integer)>]
        def runs
          return [] if ring? || open_degrees.empty?

          starts = open_degrees.reject { |degree| open?((degree - 1) % ROUND) }
          starts.map { |start| [start, start + (1..ROUND).find { |on| !open?((start + on) % ROUND) }] }
        end

        # The highest and lowest of both margins where it is open: how much trunk it takes up.
        def extent
          edges = open_degrees.map { |degree| degrees[degree] }
          edges.empty? ? nil : [edges.map(&:first).min, edges.map(&:last).max]
        end

        def below_soil? = open_degrees.any? { |degree| degrees[degree].first.negative? }

        # The share of the open wound that scions at these bearings carry, each half a spacing to
        # either side.
        #
        # @param bearings [Array<Float>]
        # @param girth_mm [Float]
        # @param spacing_mm [Float]
        # @return [Float] 0..1; 1 where nothing is open
        def carried(bearings, girth_mm, spacing_mm)
          return 1.0 if open_degrees.empty?

          reach = spacing_mm.to_f / girth_mm * ROUND / 2
          # A run shorter than its scions' reach, or a ring shared out evenly, must count as whole.
          held = open_degrees.count { |degree| bearings.any? { |bearing| apart(degree, bearing) <= reach + 1 } }
          held / open_degrees.size.to_f
        end

        private

        def apart_at((low, high)) = [high - low, 0.0].max
        def apart(one, other) = [(one - other) % ROUND, (other - one) % ROUND].min
      end
    end
  end
end
