# frozen_string_literal: true

module Vestry
  module Drawings
    class Elevation
      # The tags of limbs, each beside its own and clear of the others.
      module TagPlaces
        TAG = [28.0, 20.0].freeze

        private

        def place_labels(drawn)
          anchors = drawn.map do |each|
            x, y = each.leader
            fx, fy = sheet(figure.limb(each.id).base)
            long = [Math.hypot(x - fx, y - fy), 0.1].max
            { id: each.id, x: x, y: y, dx: (x - fx) / long, dy: (y - fy) / long }
          end
          placed = Core::Survey::Tags.place(anchors, size: TAG, box: [LEFT, 4.0, WIDTH - 4, ground_y - 4],
                                            taken: lines.map { |each| [WIDTH - 150, each[:y] - 14, WIDTH,
                                                                       each[:y] + 3] })
          drawn.each { |each| each.label = placed[each.id] }
        end
      end
    end
  end
end
