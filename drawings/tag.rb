# frozen_string_literal: true

module Vestry
  module Drawings
    # The small tag a limb hangs. Its outline tells the role as much as its colour does.
    module Tag
      OUTLINES = {
        "work" => [[-14, -10], [9, -10], [15, 0], [9, 10], [-14, 10]],
        "backup" => [[-14, -10], [9, -10], [15, 0], [9, 10], [-14, 10]],
        "later" => [[-14, -10], [9, -10], [15, 0], [9, 10], [-14, 10]],
        "renew" => [[0, -12], [14, 0], [0, 12], [-14, 0]],
        "lift" => [[-14, -10], [14, -10], [9, 0], [14, 10], [-14, 10], [-9, 0]],
        "lost" => [[-14, -10], [14, -10], [14, 1], [5, 10], [-14, 10]],
        "grafted" => [[-14, -10], [14, -10], [14, 10], [-14, 10]],
        "coming" => [[-14, -10], [14, -10], [14, 10], [-14, 10]]
      }.freeze

      # @return [String] an SVG element centred on the point
      def self.shape(state, x, y)
        corners = OUTLINES[state]
        if corners
          points = corners.map { |dx, dy| "#{Stroke.round(x + dx)},#{Stroke.round(y + dy)}" }.join(" ")
          %(<polygon class="edge" points="#{points}"/>)
        else
          %(<ellipse class="edge" cx="#{Stroke.round(x)}" cy="#{Stroke.round(y)}" rx="14" ry="10.5"/>)
        end
      end
    end
  end
end
