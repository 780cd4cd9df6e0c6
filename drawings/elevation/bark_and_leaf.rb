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
        # What stands from the soil and is no longer than this, in mm, is a stump.
        STUMP = 500.0

        private

        # Where a limb comes out of what it grows from, in mm along it.
        def comes_out(stand, ends)
          return 0.0 if stand.limb.leader

          under = stand.limb.parent_id && @stands.find { |each| each.limb.id == stand.limb.parent_id }
          thick = under ? limb(under).thickness(stand.limb.fork_mm.to_f) : figure.trunk.tip_mm
          [thick * 0.38, ends * 0.3].min
        end

        # Short strokes along its shaded side.
        def grain(placed, from, to, name, crook = 0.014)
          count = ((to - from) * scale / GRAIN).floor
          return nil if count < 2 || placed.thickness(from) * scale < 4

          (0...count).map { |i| grain_stroke(placed, from + (to - from) * (i + 0.5) / count, i, name, crook) }.join
        end

        # One of them, a share of the thickness to the right of the middle.
        def grain_stroke(placed, from, index, name, crook)
          longer, further = [100, 120].map { |of| Stroke.chance(name, of + index) }
          ends = [from, from + GRAIN * (0.5 + 0.3 * longer) / scale].map { |mm| at(placed, mm, name, crook) }
          off = placed.thickness(from) * scale * (0.16 + 0.16 * further)
          Stroke.straight(ends.map { |point| Stroke.ahead(point, shaded_side(*ends), off) })
        end

        # The way to the right of a line, whichever end is up.
        def shaded_side(from, to) = Stroke.heading(from, to) + (to[1] > from[1] ? -1 : 1) * Math::PI / 2

        # Round washes along its outer part, together its share of the whole head's.
        def leaf(stand, placed, name)
          return nil if stump?(stand.limb)

          share = own_shares.fetch(stand.limb.id, 0.0)
          r = Math.sqrt(share * LEAF * head_area / (BLOBS * Math::PI))
          return nil if r < 1.5

          (0...BLOBS).map { |i| blob(placed, name, i, r) }.join
        end

        # What is left of a stem that was cut near the soil bears no leaf.
        def stump?(limb) = limb.leader && limb.fork_mm.to_f.zero? && limb.length_mm.to_f < STUMP

        def blob(placed, name, index, radius)
          x, y = at(placed, placed.length_mm * (0.45 + 0.6 * index / BLOBS), name)
          aside, up, larger = [200, 220, 240].map { |of| Stroke.chance(name, of + index) }
          lifted = blob_rise(placed, index)
          Stroke.round_about(x + aside * (radius * 0.9 + lifted * 0.2), y + up * radius * 0.7 - lifted,
                             radius * (1 + 0.25 * larger))
        end

        def blob_rise(placed, index) = rise(placed) * 0.85 * (index / (BLOBS - 1.0))**2

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
