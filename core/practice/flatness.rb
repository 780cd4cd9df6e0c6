# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # How flat a cut face is.
      module Flatness
        extend Reckoning

        contract "flatness", "How flat a cut face is" do
          list :points, longest: 5000 do
            number :at_mm, unit: "mm", least: -10_000, most: 10_000, help: "along the face"
            number :depth_mm, unit: "mm", least: -1000, most: 1000
          end
          number :tolerance_mm, unit: "mm", least: 0, most: 20, default: 0.2
        end

        # The least-squares line through the points, and how they lie about it.
        #
        # @return [Hash] +rms_mm+ of what lies off the line, +contact_share+ of points within the tolerance of it, and
        #   +slope+, mm of depth for each mm along
        # @raise [BadInput] with fewer than two points
        def self.call(points:, tolerance_mm: 0.2, rulebook: nil)
          raise BadInput.new("points", "two points or more") if points.size < 2

          at, depth = %i[at_mm depth_mm].map { |name| from_mean(points.map { |point| point[name].to_f }) }
          slope = slope(at, depth)
          deviation(at.zip(depth).map { |x, y| (y - slope * x).abs }, tolerance_mm).merge(slope: slope)
        end

        def self.deviation(off, tolerance)
          { rms_mm: Math.sqrt(off.sum { |each| each**2 } / off.size),
            contact_share: off.count { |each| Near.at_most?(each, tolerance) } / off.size.to_f }
        end

        def self.from_mean(values) = (values.sum / values.size).then { |mean| values.map { |value| value - mean } }

        def self.slope(at, depth)
          spread = at.sum { |x| x**2 }
          spread < Near::TOLERANCE ? 0.0 : at.zip(depth).sum { |x, y| x * y } / spread
        end
        private_class_method :deviation, :from_mean, :slope
      end
    end
  end
end
