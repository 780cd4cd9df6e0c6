# frozen_string_literal: true

module Vestry
  module Drawings
    class Elevation
      # What makes a limb look like wood: hatching that follows it, and a wash of leaf as large as its share of the
      # head.
      module BarkAndLeaf
        # A stroke of hatching for every so many pixels.
        GRAIN = 13.0
        # The washes of a whole head together cover so much of the rectangle it stands in.
        LEAF = 0.42
        BLOBS = 14

        private

        # Where a limb comes out of what it grows from, in mm along it.
        def comes_out(stand, ends)
          under = stand.limb.parent_id && @stands.find { |each| each.limb.id == stand.limb.parent_id }
          thick = under ? limb(under).thickness(stand.limb.fork_mm.to_f) : figure.trunk.tip_mm
          [thick * 0.38, ends * 0.3].min
        end

        # Short strokes along its shaded side.
        def grain(placed, from, to, name, crook = 0.014)
          long = (to - from) * scale
          return nil if long < GRAIN * 2 || placed.thickness(from) * scale < 4

          (0...(long / GRAIN).floor).map do |i|
            start = from + (to - from) * (i + 0.5 + Stroke.chance(name, 80 + i) * 0.3) / (long / GRAIN)
            grain_stroke(placed, start, [start + GRAIN * (0.5 + 0.3 * Stroke.chance(name, 100 + i)) / scale, to].min,
                         0.16 + 0.16 * Stroke.chance(name, 120 + i), name, crook)
          end.join
        end

        # One of them, a share of the thickness to the right of the middle.
        def grain_stroke(placed, from, to, aside, name, crook)
          a, b = at(placed, from, name, crook), at(placed, to, name, crook)
          long = [Math.hypot(b[0] - a[0], b[1] - a[1]), 0.1].max
          way = b[1] > a[1] ? -1 : 1
          off = placed.thickness(from) * scale * aside * way
          dx, dy = -(b[1] - a[1]) / long * off, (b[0] - a[0]) / long * off
          Stroke.straight([[a[0] + dx, a[1] + dy], [b[0] + dx, b[1] + dy]])
        end

        # Round washes along its outer part, together its share of the whole head's.
        def leaf(stand, placed, name)
          share = own_shares.fetch(stand.limb.id, 0.0)
          r = Math.sqrt(share * LEAF * head_area / (BLOBS * Math::PI))
          return nil if r < 1.5

          (0...BLOBS).map { |i| blob(placed, name, i, r) }.join
        end

        def blob(placed, name, index, radius)
          x, y = at(placed, placed.length_mm * (0.45 + 0.6 * index / BLOBS), name)
          x += Stroke.chance(name, 200 + index) * radius * 0.9
          y += Stroke.chance(name, 220 + index) * radius * 0.7 - rise(placed) * 0.85 * (index / (BLOBS - 1.0))**2
          r = radius * (1 + 0.25 * Stroke.chance(name, 240 + index))
          Stroke.round_about(x, y, r)
        end

        # How far the crown of a limb stands above its measured end, in pixels: the highest limb's as far as the tree is
        # high, a lower one's much less.
        def rise(placed)
          highest = @highest ||= @stands.map { |stand| limb(stand).tip[2] }.max.to_f
          return 0.0 unless @tree.height_mm && highest.positive?

          [@tree.height_mm.to_f - highest, 0.0].max * (placed.tip[2] / highest).clamp(0.0, 1.0)**6 * scale
        end

        def own_shares = @own_shares ||= Records::CoreInputs.canopy(@stands.map(&:limb))&.fetch(:own) || {}

        # The rectangle that limbs stand in on the sheet, in square pixels.
        def head_area
          @head_area ||= begin
            xs, ys = @stands.flat_map { |stand| [sheet(limb(stand).base), sheet(limb(stand).tip)] }.transpose
            [xs.max - xs.min, 90.0].max * [ys.max - ys.min, 90.0].max
          end
        end
      end
    end
  end
end
