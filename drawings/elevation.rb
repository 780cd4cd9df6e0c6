# frozen_string_literal: true

module Vestry
  module Drawings
    # The tree from one side: trunk and limbs to scale beside a marked staff, with the browse
    # line and the reach line across it, and a tag at each limb.
    class Elevation
      include OfTree
      include Placement
      include TwigsAndSticks
      include BarkAndLeaf
      include TagPlaces

      # Every fifteen degrees, each by the nearest of sixteen winds.
      BEARINGS = (0...360).step(15).to_h do |deg|
        [deg, %w[north north-north-east north-east east-north-east east east-south-east south-east south-south-east
                 south south-south-west south-west west-south-west west west-north-west north-west
                 north-north-west][(deg / 22.5).round % 16]]
      end.freeze
      WIDTH = 640.0
      HEIGHT = 560.0
      LEFT = 74.0
      RIGHT = 24.0
      TOP = 30.0
      GROUND = 36.0
      # How wide a letter of a line's words is on a phone, where they are largest, and how far they reach above it.
      WORDS_LETTER, WORDS_UP = 12.0, 28.0

      # +body+ is the ground of a limb, which covers what lies behind it; +outline+ its bark, from where it comes out of
      # what it grows from; +grain+ the hatching along it; +leaf+ its wash of leaf.
      Branch = Struct.new(:id, :tag, :state, :body, :outline, :grain, :leaf, :beyond, :twigs, :cut, :sticks, :label,
                          :leader, :spoken, :chosen, :damage, :fault, keyword_init: true)

      attr_reader :from_deg, :href

      # @param tree [Records::Tree]
      # @param stands [Array<DrawnLimb>]
      # @param from_deg [Integer] where the viewer stands
      # @param chosen [Integer, nil] the id of the chosen limb
      # @param href [Proc] a limb's id to its address: the same for all limbs but for the id
      # @param faults [Hash{Integer=>String}] what is wrong with a limb's plan, by its id
      # @param stretch [Array(Float, Float), nil] where on the chosen limb it can be cut, in mm
      # @param height [Numeric] of the sheet
      # @param reaches [Boolean] whether it is for those who work here: how high animals reach, and a hand
      def initialize(tree, stands, from_deg: 180, chosen: nil, href: ->(_) {}, faults: {}, stretch: nil,
                     height: HEIGHT, reaches: true)
        @tree = tree
        @orchard = tree.orchard
        @stands = stands
        @from_deg = from_deg
        @chosen = chosen
        @href = href
        @faults = faults
        @stretch = stretch
        @height = height.to_f
        @reaches = reaches
      end

      # The same for whoever looks at the tree and does not work on it, from where its limbs stand clearest.
      def self.plain(tree, stands) = new(tree, stands, from_deg: clearest(tree, stands), reaches: false)

      def svg = Template.render("elevation", self)

      def width = WIDTH
      attr_reader :height

      def ground_y = height - GROUND
      def staff_x = LEFT - 22

      # From which side the tree's limbs stand clearest of each other: from the south, or as near to it as is as good.
      #
      # @return [Integer] one of BEARINGS
      def self.clearest(tree, stands)
        return 180 if stands.size < 2

        drawing = new(tree, stands)
        BEARINGS.keys.min_by { |deg| [drawing.crowding(deg).round(2), (deg - 180).abs, deg] }
      end

      # How much limbs' ends lie over each other from one side: pairs that are nearer than two tags, by how much.
      def crowding(deg)
        ends = @stands.map { |stand| Core::Survey::Figure.seen_from(limb(stand).tip, deg).first(2) }
        wide = [ends.map { |x, _| x.abs }.max, ends.map(&:last).max, 500.0].max / 6
        ends.combination(2).sum { |(ax, ay), (bx, by)| [1 - Math.hypot(ax - bx, ay - by) / wide, 0.0].max }
      end

      # The states its limbs are in, for a legend of what is drawn.
      def states = @stands.map(&:state).uniq

      def from_words = BEARINGS.fetch(from_deg)

      def title = "#{@tree.label} seen from the #{from_words}"

      def description
        @stands.map { |stand| "Limb #{stand.limb.tag}: #{spoken(stand)}" }.join(". ")
      end

      # The chosen limb's line from its fork to its end, for a cut to be moved along it; and where on
      # it the cut can be.
      def slide
        stand = @chosen && @stands.find { |each| each.limb.id == @chosen && !each.graft && !each.coming &&
                                          !each.falls } or return nil
        placed, name = limb(stand), "#{@tree.label}#{stand.limb.tag}"
        marks = (0..STEPS * 4).map { |i| placed.length_mm * i / (STEPS * 4.0) }
        { axis: marks.map { |mm| [mm, *at(placed, mm, name)].map { |v| Stroke.round(v) }.join(" ") }.join(";"),
          can: @stretch && beside(placed, name, *@stretch) }
      end

      # Marks up the staff, the height in mm and what to write there.
      def staff_marks
        step = imperial? ? Core::Measure::FOOT : 500.0
        (1..(top_mm / step).floor).map do |i|
          major = imperial? ? (i % 2).zero? : i.even?
          { y: y(i * step), major: major, text: (imperial? ? "#{i} ft" : "#{i / 2} m" if major) }
        end
      end

      def lines
        return [] unless @reaches

        [line("browse", @orchard.browse_mm, @orchard.grazing == "none" ? nil : "#{@orchard.grazing} reach"),
         line("reach", @orchard.reach_mm.to_f, "your reach")].compact
      end

      def trunk
        trunk = figure.trunk
        axis = (0..STEPS).map { |i| at(trunk, trunk.length_mm * i / STEPS, "trunk", 0.004) }
        widths = (0..STEPS).map { |i| [trunk.thickness(trunk.length_mm * i / STEPS) * scale, 2.0].max }
        widths[0] *= 1.25
        Stroke.branch(axis, widths)
      end

      # The trunk's ground, and hatching up its side.
      def trunk_grain = grain(figure.trunk, 0.0, figure.trunk.length_mm, "trunk", 0.004)

      # A leader's own tip, and its twigs.
      def leader_twigs
        return [] unless %w[central-leader wall-trained].include?(@tree.form)

        twigs(figure.trunk, "#{@tree.label}leader").last(5)
      end

      # The wires a wall-trained tree is tied to, one to a tier.
      def wires
        return [] unless @tree.form == "wall-trained"

        tiers = @stands.reject { |stand| stand.limb.parent_id }.map { |stand| stand.limb.fork_mm.to_f }
        tiers.sort.slice_when { |low, high| high - low > 150 }.map { |tier| y(tier.sum / tier.size + 30) }
      end

      # Bare stretches that could take a graft in the side.
      def sites
        standing = @stands.map { |stand| stand.limb.id }
        @tree.standing_sites.select { |site| site.limb_id.nil? || standing.include?(site.limb_id) }.map do |site|
          drawn_site(site)
        end
      end

      def branches
        @branches ||= begin
          drawn = @stands.sort_by { |stand| depth(stand) }.map { |stand| branch(stand) }
          place_labels(drawn)
        end
      end

      private

      def drawn_site(site)
        placed = site.limb_id ? figure.limb(site.limb_id) : figure.trunk
        x, y = at(placed, [site.at_mm.to_f, placed.length_mm].min, site.limb_id ? site.limb.tag : "trunk")
        side = [placed.thickness(site.at_mm.to_f) * scale / 2, 3].max
        bearing = Core::Survey::Figure.radians(site.bearing_deg.to_f)
        right, _, behind = Core::Survey::Figure.seen_from([Math.sin(bearing), Math.cos(bearing), 0.0], @from_deg)
        { tag: site.tag, x: x + right * side, y: y, hidden: behind < -0.3,
          spoken: "Site #{site.tag}, #{say(site.at_mm)} #{site.limb_id ? "along #{site.limb.tag}" : 'up the trunk'}" }
      end

      def imperial? = @orchard.units == "imperial"
      def say(mm) = Core::Measure.say(mm, @orchard.units)

      # A line across the sheet, with its words at the end where no limb is.
      def line(kind, mm, words)
        return nil unless words && mm.positive?

        text = "#{words} #{Core::Measure.say_about(mm, @orchard.units)}"
        long = text.size * WORDS_LETTER
        at_left = crossed?(WIDTH - 10 - long, WIDTH - 10, y(mm)) && !crossed?(staff_x + 8, staff_x + 8 + long, y(mm))
        { kind: kind, y: y(mm), x1: staff_x - 6, x2: WIDTH - 10, text: text, long: long,
          words_x: at_left ? staff_x + 8 : WIDTH - 10, anchor: at_left ? "start" : "end" }
      end

      # Whether a limb passes just above a line, between two places across the sheet.
      def crossed?(from, to, up)
        @stands.any? do |stand|
          (ax, ay), (bx, by) = sheet(limb(stand).base), sheet(limb(stand).tip)
          low, high = [ay, by].minmax
          next false unless low < up + 4 && high > up - WORDS_UP

          [ax, bx].minmax.then { |near, far| near < to && far > from }
        end
      end

      # What is only planned stands whole, with a tick where it will be cut; what has come off by the season that is
      # drawn is left as a ghost.
      def branch(stand)
        placed, name = limb(stand), "#{@tree.label}#{stand.limb.tag}"
        ends = placed.length_mm
        cut = stand.cut_mm&.clamp(0, ends)
        made = (stand.graft || stand.coming) && cut
        sat = stand.worked? ? set_on(stand, placed, made, name) : []
        Branch.new(**wood(stand, placed, made || ends, name), **limb_facts(stand), label: nil, sticks: sat,
                   leaf: made || stand.falls ? nil : leaf(stand, placed, name),
                   beyond: stand.coming && cut ? Stroke.branch(*stretch(placed, cut, ends, name)) : nil,
                   twigs: made ? [] : twigs(placed, name), cut: to_cut(stand, placed, name),
                   leader: (sat[sat.size / 2]&.fetch(:tip) if made) || at(placed, made || ends, name),
                   damage: stand.limb.damage && tick(placed, ends * 0.06, name, 1.1))
      end

      # What sits on its stub, or in its side while the head stays on.
      def set_on(stand, placed, made, name)
        seat = (stand.graft || stand.coming) && stand.seat_mm
        return sticks(stand, placed, seat.clamp(0, made || placed.length_mm), name, turned: ASIDE) if seat

        made ? sticks(stand, placed, made, name) : []
      end

      # A tick where it is to be cut.
      def to_cut(stand, placed, name)
        at = stand.to_cut_mm&.clamp(0, placed.length_mm)
        tick(placed, at, name) if at
      end

      # A limb as it stands, up to where it ends.
      def wood(stand, placed, ends, name)
        out = comes_out(stand, ends)
        { body: Stroke.branch(*stretch(placed, 0.0, ends, name)),
          outline: Stroke.branch(*stretch(placed, out, ends, name)), grain: grain(placed, out, ends, name) }
      end

      def limb_facts(stand)
        { id: stand.limb.id, tag: stand.limb.tag, state: stand.state, spoken: spoken(stand),
          fault: @faults[stand.limb.id], chosen: stand.limb.id == @chosen }
      end

      def spoken(stand)
        limb = stand.limb
        words = [Core::Measure.say_thickness(limb, @orchard.units), *spoken_lie(limb)]
        words << { "open" => "nothing decided",
                   "lost" => stand.again_mm ? "graft lost, to be worked again" : "graft lost",
                   "grafted" => "grafted with #{stand.graft&.variety&.name}",
                   "coming" => "as it will be, grafted" }.fetch(stand.state, stand.state)
        words << @faults[stand.limb.id].chomp(".") if @faults[stand.limb.id]
        words.join(", ")
      end

      # Which way a limb lies, where that was measured.
      def spoken_lie(limb)
        return ["the leader"] if limb.leader

        { bearing_deg: "points", rise_deg: "rises" }.map do |fact, verb|
          limb.measured?(fact) ? "#{verb} #{Spoken.counted(limb[fact].to_i, 'degree')}" :
            "#{fact.to_s.delete_suffix('_deg')} not measured"
        end
      end
    end
  end
end
