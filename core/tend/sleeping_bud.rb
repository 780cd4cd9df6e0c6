# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # Whether a bud still sleeps. One that was set late lives through its first winter under its stock's head, and
      # grows only in the spring that follows, whatever was said of it before.
      module SleepingBud
        module_function

        # @param observations [Array<Hash>] as the contract of care has them
        # @param counts [Array<Hash>] +on+ and +alive+
        # @param wakes_on [Date] in which spring it wakes
        # @return [Boolean] whether nothing of it was seen to grow, and it was not called alive since it was to wake
        def asleep?(observations, counts, wakes_on)
          return false if observations.any? { |each| grew?(each) }

          alive = observations.select { |each| each[:verdict] == "took" } + counts.select { |each| each[:alive] }
          alive.none? { |each| each[:on] >= wakes_on }
        end

        # Whether a visit saw growth.
        def grew?(visit) = GraftLife::MOVING.include?(visit[:buds]) || (visit[:longest_shoot_mm] || 0).positive?
      end
    end
  end
end
