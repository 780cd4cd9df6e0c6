# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # How much of a stub has closed over, how fast, and when it will be shut.
      module Closure
        extend Reckoning

        contract "closure", "How much of a stub has closed over, how fast, and when it will be shut" do
          number :stub_mm, unit: "mm", above: 0, help: "diameter of the stub when it was cut"
          list :readings, help: "the open wound, a line a season" do
            number :season, least: 0, help: "autumns since the grafting; the first is 1"
            number :a_mm, unit: "mm", least: 0, help: "longest open width"
            number :b_mm, unit: "mm", least: 0, help: "widest across it"
          end
          number :default_rate_mm, unit: "mm a season", above: 0, optional: true,
                                   help: "used until there is a reading; else by the sticks that live"
          integer :living, above: 0, most: 12, default: 1, help: "sticks that feed it"
        end

        # closed = 1 - a b / stub^2 at the last reading, 0 where it gapes wider than the stub. The rate is the slope
        # through the
        # origin of the half-width lost against the season (least squares); with no reading it hangs on how many sticks
        # live.
        #
        # @return [Hash] +closed_share+ (share), +rate_mm+ (mm a season from each side),
        #   +closes_in_season+ (season, or nil when it does not close)
        def self.call(stub_mm:, readings:, default_rate_mm: nil, living: 1, rulebook: Rulebook.shipped)
          ordered = readings.sort_by { |each| each[:season] }
          last = ordered.last || { season: 0.0, a_mm: stub_mm, b_mm: stub_mm }
          rate = rate(stub_mm, ordered) || default_rate_mm || unmeasured(living, rulebook)
          { closed_share: [1 - last[:a_mm] * last[:b_mm] / stub_mm**2, 0.0].max, rate_mm: rate,
            closes_in_season: closes_in(last, rate), measured: ordered.any? }
        end

        # Until it is measured a face closes from where living wood feeds it: 20 mm a season over the farthest way.
        #
        # @return [Float] mm a season from each side
        def self.unmeasured(living, rulebook)
          rulebook.value("reckoning.closure.fed") * 0.5 / Plan::StickChoice.farthest(living)
        end

        # The same figure, told by what was measured of a graft; nil where nothing was.
        #
        # @return [Float, nil] as reckoning.closure.fed
        def self.fed(stub_mm, readings, living)
          rate(stub_mm, readings)&.then { |rate| rate * Plan::StickChoice.farthest(living) / 0.5 }
        end

        def self.rate(stub, readings)
          squares = readings.sum { |each| each[:season]**2 }
          return nil unless squares.positive?

          readings.sum { |each| each[:season] * (stub / 2 - each[:a_mm] / 2) } / squares
        end

        def self.closes_in(last, rate)
          return last[:season].to_i if last[:a_mm].zero?
          return nil unless rate > Near::TOLERANCE

          last[:season].to_i + Near.ceil(last[:a_mm] / 2 / rate)
        end
        private_class_method :rate, :closes_in
      end
    end
  end
end
