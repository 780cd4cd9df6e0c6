# frozen_string_literal: true

module Vestry
  module Drawings
    class Elevation
      # Where a point of the tree lies on the sheet, and how wide a limb is there.
      module Placement
        # Into so many stretches a limb is divided.
        STEPS = 7

        private

        # Pixels to a mm: everything that grows, and a reach, has its place on the sheet.
        def scale
          @scale ||= begin
            seen = seen_points
            shoots = @stands.map { |stand| stand.shoot_mm || 0 }.max || 0
            top = [seen.map { |_, up| up }.max + [shoots * 0.6, 300].max, @orchard.reach_mm.to_f + 250,
                   @tree.height_mm.to_f].max
            across = [seen.map { |right, _| right.abs }.max + 350, 900.0].max
            [(height - TOP - GROUND) / top, (WIDTH - LEFT - RIGHT) / 2 / across].min
          end
        end

        def seen_points
          points = @stands.flat_map { |stand| [limb(stand).base, limb(stand).tip] } + [figure.trunk.tip]
          points.map { |point| Core::Survey::Figure.seen_from(point, @from_deg) }
        end

        def top_mm = (ground_y - TOP / 2) / scale

        def centre_x = LEFT + (WIDTH - LEFT - RIGHT) / 2
        def y(up) = ground_y - up * scale
        def depth(stand) = Core::Survey::Figure.seen_from(limb(stand).tip, @from_deg)[2]

        def sheet(point)
          right, up, = Core::Survey::Figure.seen_from(point, @from_deg)
          [centre_x + right * scale, y(up)]
        end

        # A point along a limb on the sheet, with the crook the pen gives it.
        def at(placed, mm, name, crook = 0.014)
          base, tip = sheet(placed.base), sheet(placed.tip)
          x, y = sheet(placed.at(mm))
          share = placed.length_mm.zero? ? 0 : mm / placed.length_mm
          long = Math.hypot(tip[0] - base[0], tip[1] - base[1])
          return [x, y] if long < 1

          bend = long * crook * bend_at(share, name)
          [x - (tip[1] - base[1]) / long * bend, y + (tip[0] - base[0]) / long * bend]
        end

        # How far the pen leaves the straight line, none at both ends.
        def bend_at(share, name)
          Math.sin(Math::PI * share) *
            (Stroke.chance(name, 1) + Stroke.chance(name, (share * STEPS).round + 2) * 0.5)
        end

        def stretch(placed, from, to, name)
          marks = (0..STEPS).map { |i| from + (to - from) * i / STEPS }
          widths = marks.map { |mm| [placed.thickness(mm) * scale, 1.6].max }
          # A limb swells where it leaves.
          widths = [widths[0] * 1.4, widths[1] * 1.1, *widths.drop(2)] if from.zero?
          [marks.map { |mm| at(placed, mm, name) }, widths]
        end

        # A short stroke across the limb at its true place.
        def tick(placed, mm, name, reach = 1.9)
          x, y = at(placed, mm, name)
          ax, ay = at(placed, [mm - 60, 0].max, name)
          bx, by = at(placed, mm + 60, name)
          long = [Math.hypot(bx - ax, by - ay), 0.1].max
          half = [placed.thickness(mm) * scale * reach / 2, 7].max
          Stroke.straight([[x - (by - ay) / long * half, y + (bx - ax) / long * half],
                           [x + (by - ay) / long * half, y - (bx - ax) / long * half]])
        end

        # A line along the limb, clear of its bark.
        def beside(placed, name, from, to)
          marks = (0..STEPS).map { |i| from + (to - from) * i / STEPS }
          axis = marks.map { |mm| at(placed, mm, name) }
          widths = marks.map { |mm| placed.thickness(mm) * scale + 9 }
          Stroke.smooth(Stroke.sides(axis, widths).first)
        end
      end
    end
  end
end
