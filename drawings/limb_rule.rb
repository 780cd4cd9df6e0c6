# frozen_string_literal: true

module Vestry
  module Drawings
    # A limb laid straight, from its fork to its end, with all that decides where it is cut: its forks, unsound
    # stretches, the lines it crosses, where it can be cut, and the cut. Places are shares of its length, so that the
    # bars of methods under it lie to the same scale at every width.
    class LimbRule
      HEIGHT = 98
      # From the top of the limb where it is thickest to the scale under it.
      TOP, THICK = 22, 44

      # @param limb [Records::Limb]
      # @param cut [Hash] where it can be cut, see Core::Survey::CutPoint
      # @param at_mm [Float] the cut
      # @param thick_mm [Array(Float, Float)] at its fork and at its end
      # @param was_mm [Float, nil] where it was to be cut before
      def initialize(limb, cut:, at_mm:, thick_mm:, was_mm: nil)
        @limb = limb
        @orchard = limb.orchard
        @cut = cut
        @at_mm = at_mm
        @thick_mm = thick_mm
        @was_mm = was_mm
      end

      def svg = Template.render("limb_rule", self)
      def height = HEIGHT
      def at = share(@at_mm)
      # The cut as it was planned, where it is another.
      def was = @was_mm && (@was_mm - @at_mm).abs > 1 ? share(@was_mm) : nil
      def title = "#{@limb.label} laid straight from its fork: cut at #{say(@at_mm)} of #{say(length)}"

      # How long, and how thick along it, for whoever moves the cut.
      def length = @limb.length_mm.to_f
      def share(mm) = (mm.clamp(0, length) / length * 100).round(3)

      # Its outline in a box of 1000 by 100, fork at the left.
      def outline
        half = @thick_mm.map { |mm| [mm / @thick_mm.first * 50, 8].max }
        "M0 #{50 - half[0]}L1000 #{(50 - half[1]).round(1)}V#{(50 + half[1]).round(1)}L0 #{50 + half[0]}Z"
      end

      def grain
        # No wider than the thin end is.
        half = @thick_mm.last / @thick_mm.first * 38
        Stroke.strewn(@limb.tag, 40, [4, 980], [50 - half, 50 + half], way: "h")
      end

      # Where it can be cut: what the gaps leave of the stretch.
      def sound
        return [] unless @cut[:feasible]

        edges = [@cut[:from_mm], *@cut[:gaps].flat_map { |gap| [gap[:from_mm], gap[:to_mm]] }, @cut[:to_mm]]
        edges.each_slice(2).select { |from, to| to > from }.map { |from, to| [share(from), share(to) - share(from)] }
      end

      def unsound
        from, to = @limb.unsound_mm
        from && to ? [share(from.to_f), share(to.to_f) - share(from.to_f)] : nil
      end

      # What was cut off it: where that begins, its width, and its middle where there is room for words.
      def gone
        at = @limb.graft&.cut_off_at_mm&.then { |mm| share(mm.to_f) } or return

        [at, (100 - at).round(3), ((at + 100) / 2 if at < WORDED)]
      end
      # Beyond so much of its length there is no room for words.
      WORDED = 88
      private_constant :WORDED

      # Branches that grow from it.
      def forks
        @limb.standing_children.map { |child| { at: share(child.fork_mm.to_f), tag: child.tag } }
      end

      # The heights that it crosses.
      def crossings
        lines = [["browse", @orchard.grazing == "none" ? nil : @orchard.browse_mm, @orchard.grazing],
                 ["reach", @orchard.reach_mm.to_f, "your reach"]]
        lines.filter_map do |kind, mm, words|
          at = mm && along(mm)
          { kind: kind, at: share(at), text: words, anchor: anchor(share(at), was) } if at
        end
      end

      # On which side of its line "planned" is written.
      def was_anchor = anchor(was, crossings.map { |line| line[:at] }.min_by { |at| (at - was).abs })

      # So far its words stand off a line.
      def aside(anchor) = { "start" => 4, "end" => -4 }.fetch(anchor, 0)

      # A scale from the fork: marks a hand apart, every fifth or so named.
      def marks
        step, named = @orchard.units == "imperial" ? [Core::Measure::FOOT / 2, 4] : [100.0, 5]
        (0..(length / step).floor).map do |i|
          major = (i % named).zero?
          { at: share(i * step), major: major, text: (mark(i * step) if major && share(i * step) < 94) }
        end
      end

      private

      # Words within so much of the width of each other go to either side.
      NEAR = 14
      private_constant :NEAR

      # @param beside [Float, nil] the nearest other line with words
      def anchor(at, beside)
        return at < beside ? "end" : "start" if beside && (at - beside).abs < NEAR && at.between?(8, 85)

        at > 85 ? "end" : at < 8 ? "start" : "middle"
      end

      def mark(mm) = Core::Measure.say_mark(mm, @orchard.units, most: length)
      def say(mm) = Core::Measure.say(mm, @orchard.units)

      # How far along it is so high.
      def along(mm)
        climb = Math.sin(Core::Survey::Figure.radians(@limb.rise_deg.to_f))
        return nil if climb.abs < 0.05

        far = (mm - @limb.fork_height_mm) / climb
        far if far.between?(1, length - 1)
      end
    end
  end
end
