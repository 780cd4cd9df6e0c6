# frozen_string_literal: true

module Vestry
  module Drawings
    class Elevation
      # What grows from a limb: twigs as a pen suggests them, the sticks on a stub and their shoots.
      module TwigsAndSticks
        STICK_MM = 150
        # In px: what is thinner is drawn as a line.
        THIN = 3
        TWIGS = 10
        # Less than so many pixels above its end is within its twigs.
        CROWN_LEAST, CROWN_TWIGS = 26, 6
        # How far what is set into a limb's side leans away from it, in radians.
        ASIDE = -0.7
        # Straight up on the sheet.
        UP = -Math::PI / 2

        private

        # Unmeasured twigs.
        def twigs(placed, name)
          return [] if placed.length_mm * scale < 24

          (0..TWIGS).map { |i| { path: twig(placed, name, i, 0.34 + 0.66 * i / TWIGS) } } + crown(placed, name)
        end

        # What stands above a limb's measured end, as far as the tree is known to be high: its leader, and twigs on it.
        def crown(placed, name)
          high = rise(placed)
          return [] if high < CROWN_LEAST

          tip = at(placed, placed.length_mm, name)
          way = (Stroke.heading(at(placed, placed.length_mm * 0.9, name), tip) + UP * 2) / 3
          [{ path: Stroke.curve(tip, Stroke.ahead(tip, way, high * 0.5), Stroke.ahead(tip, UP, high * 0.92)) },
           *(1..CROWN_TWIGS).map do |i|
             { path: crown_twig(Stroke.ahead(tip, way, high * i / (CROWN_TWIGS + 2.0)), i, name) }
           end]
        end

        def crown_twig(foot, index, name)
          way = UP + (index.even? ? 1 : -1) * (0.55 + 0.25 * Stroke.chance(name, 300 + index))
          Stroke.straight([foot, Stroke.ahead(foot, way, 20 + 8 * Stroke.chance(name, 320 + index))])
        end

        # @param share [Float] how far along the limb
        def twig(placed, name, index, share)
          foot = at(placed, placed.length_mm * share, name)
          heading = Stroke.heading(at(placed, placed.length_mm * (share - 0.08), name), foot)
          way, long = heading + twig_turn(heading, name, index), twig_length(placed, name, index, share)
          x, y = Stroke.ahead(foot, way, long)
          Stroke.curve(foot, Stroke.ahead(foot, way, long * 0.55), [x, y - long * 0.16])
        end

        # A limb's own tip goes on; the others turn off by turns, and spurs stand up.
        def twig_turn(heading, name, index)
          return (UP - heading) * 0.8 + Stroke.chance(name, 20 + index) * 0.4 if spurs? && index < TWIGS
          return Stroke.chance(name, 40) * 0.2 if index == TWIGS

          (index.even? ? 1 : -1) * (0.6 + 0.25 * Stroke.chance(name, 20 + index))
        end

        def twig_length(placed, name, index, share)
          chance = Stroke.chance(name, 30 + index)
          return 9 + 4 * chance if spurs?

          [placed.length_mm * scale * 0.13, 26].min * (1.15 + 0.5 * chance) * (1.3 - share * 0.4)
        end

        # A wall-trained limb is pruned to spurs.
        def spurs? = @tree.form == "wall-trained"

        # The sticks on a stub, and the longest shoot seen so far, both to scale.
        # @param turned [Float] radians by which they lean away from the limb's own way
        def sticks(stand, placed, cut, name, turned: 0.0)
          top = at(placed, cut, name)
          heading = Stroke.heading(at(placed, [cut - 120, 0].max, name), top)
          wide = placed.thickness(cut) * scale * 0.7
          asides(stand.stick_count).each_with_index.map do |aside, i|
            foot = [top[0] - Math.sin(heading) * wide * aside, top[1] + Math.cos(heading) * wide * aside]
            stick(stand, foot, heading + turned + aside * 0.5, i, name)
          end
        end

        # From one side of the middle to the other.
        def asides(count) = count == 1 ? [0.0] : Array.new(count) { |i| i / (count - 1.0) - 0.5 }

        def stick(stand, foot, lean, index, name)
          lean += (UP - lean) * 0.35
          tip = Stroke.ahead(foot, lean, STICK_MM * scale)
          drawn = shoot(stand, tip, lean, index, name)
          { stick: Stroke.straight([foot, tip]), tip: drawn ? drawn[:tip] : tip,
            **(drawn ? { shoot: drawn[:path], limb: thickened(stand, foot, drawn) } : {}) }
        end

        # A graft that was counted is as thick as it was measured, and thins out to its tip.
        def thickened(stand, foot, drawn)
          wide = stand.thick_mm.to_f * scale
          wide < THIN ? nil : Stroke.branch([foot, *drawn[:points]], [wide, wide * 0.85, wide * 0.6, 1.2])
        end

        # The middle one is drawn as long as it was measured.
        def shoot(stand, foot, lean, index, name)
          return nil unless stand.shoot_mm && stand.fate != "lost"

          long = stand.shoot_mm * scale * (index == stand.stick_count / 2 ? 1.0 : 0.72)
          way = lean + (UP - lean) * 0.6 + Stroke.chance(name, 60 + index) * 0.12
          middle = Stroke.ahead(foot, lean, long * 0.5)
          tip = Stroke.ahead(middle, way, long * 0.5)
          { path: Stroke.curve(foot, middle, tip), tip: tip, points: [foot, middle, tip] }
        end
      end
    end
  end
end
