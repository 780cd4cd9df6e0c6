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
                                            taken: lines.map { |each| line_words(each) }, lines: limb_lines)
          drawn.each { |each| each.label = placed[each.id] }
        end

        # Where the words of a height line lie.
        def line_words(line)
          left = line[:anchor] == "start" ? line[:words_x] : line[:words_x] - line[:long]
          [left, line[:y] - WORDS_UP, left + line[:long], line[:y] + 3]
        end

        # The middle of every limb and of the trunk.
        def limb_lines
          [figure.trunk, *@stands.map { |stand| limb(stand) }].map do |placed|
            [*sheet(placed.base), *sheet(placed.tip)]
          end
        end
      end
    end
  end
end
