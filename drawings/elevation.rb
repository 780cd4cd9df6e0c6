# frozen_string_literal: true

module Vestry
  module Drawings
    # The tree from one side: trunk and limbs to scale beside a marked staff, with the browse
    # line and the reach line across it, and a tag at each limb.
    class Elevation
      include OfTree

      BEARINGS = { 0 => "north", 45 => "north-east", 90 => "east", 135 => "south-east",
                   180 => "south", 225 => "south-west", 270 => "west", 315 => "north-west" }.freeze
      WIDTH = 640.0
      HEIGHT = 560.0
      LEFT = 74.0
      RIGHT = 24.0
      TOP = 30.0
      GROUND = 36.0
      TAG = [28.0, 20.0].freeze
      STEPS = 7
      STICK_MM = 150
      TWIGS = 10

      Branch = Struct.new(:id, :tag, :state, :outline, :beyond, :twigs, :cut, :sticks, :label, :leader, :spoken,
                          :chosen, :damage, :fault, keyword_init: true)

      attr_reader :from_deg, :href

      # @param tree [Records::Tree]
      # @param stands [Array<DrawnLimb>]
      # @param from_deg [Integer] where the viewer stands
      # @param chosen [Integer, nil] the id of the chosen limb
      # @param href [Proc] a limb's id to its address: the same for all limbs but for the id
      # @param faults [Hash{Integer=>String}] what is wrong with a limb's plan, by its id
      # @param stretch [Array(Float, Float), nil] where on the chosen limb it can be cut, in mm
      def initialize(tree, stands, from_deg: 180, chosen: nil, href: ->(_) {}, faults: {}, stretch: nil)
        @tree = tree
        @orchard = tree.orchard
        @stands = stands
        @from_deg = from_deg
        @chosen = chosen
        @href = href
        @faults = faults
        @stretch = stretch
      end

      def svg = Template.render("elevation", self)

      def width = WIDTH
      def height = HEIGHT
      def ground_y = HEIGHT - GROUND
      def staff_x = LEFT - 22

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
        step = imperial? ? 304.8 : 500.0
        (1..(top_mm / step).floor).map do |i|
          major = imperial? ? (i % 2).zero? : i.even?
          { y: y(i * step), major: major, text: (imperial? ? "#{i} ft" : "#{i / 2} m" if major) }
        end
      end

      def lines
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
        @tree.sites.filter_map do |site|
          placed = site.limb_id ? (@stands.any? { |stand| stand.limb.id == site.limb_id } &&
                                   figure.limb(site.limb_id)) : figure.trunk
          next unless placed

          x, y = at(placed, [site.at_mm.to_f, placed.length_mm].min, site.limb_id ? site.limb.tag : "trunk")
          side = [placed.thickness(site.at_mm.to_f) * scale / 2, 3].max
          right = Core::Survey::Figure.seen_from([Math.sin(Core::Survey::Figure.radians(site.bearing_deg.to_f)),
                                                  Math.cos(Core::Survey::Figure.radians(site.bearing_deg.to_f)), 0.0],
                                                 @from_deg)
          { tag: site.tag, x: x + right[0] * side, y: y, hidden: right[2] < -0.3,
            spoken: "Site #{site.tag}, #{say(site.at_mm)} #{site.limb_id ? "along #{site.limb.tag}" : 'up the trunk'}" }
        end
      end

      def branches
        @branches ||= begin
          drawn = @stands.sort_by { |stand| depth(stand) }.map { |stand| branch(stand) }
          place_labels(drawn)
        end
      end

      private


      def imperial? = @orchard.units == "imperial"
      def say(mm) = Core::Measure.say(mm, @orchard.units)

      # Pixels to a mm: everything that grows, and a reach, has its place on the sheet.
      def scale
        @scale ||= begin
          points = @stands.flat_map { |stand| [limb(stand).base, limb(stand).tip] } + [figure.trunk.tip]
          seen = points.map { |point| Core::Survey::Figure.seen_from(point, @from_deg) }
          shoots = @stands.map { |stand| stand.shoot_mm || 0 }.max || 0
          top = [seen.map { |_, up| up }.max + [shoots * 0.6, 300].max, @orchard.reach_mm.to_f + 250].max
          across = [seen.map { |right, _| right.abs }.max + 350, 900.0].max
          [(HEIGHT - TOP - GROUND) / top, (WIDTH - LEFT - RIGHT) / 2 / across].min
        end
      end

      def top_mm = (ground_y - TOP / 2) / scale

      def centre_x = LEFT + (WIDTH - LEFT - RIGHT) / 2
      def y(up) = ground_y - up * scale
      def depth(stand) = Core::Survey::Figure.seen_from(limb(stand).tip, @from_deg)[2]

      def line(kind, mm, words)
        { kind: kind, y: y(mm), x1: staff_x - 6, x2: WIDTH - 10, text: "#{words} #{say(mm)}" } if words && mm.positive?
      end

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

        bend = Math.sin(Math::PI * share) * long * crook * (Stroke.chance(name, 1) +
            Stroke.chance(name, (share * STEPS).round + 2) * 0.5)
        [x - (tip[1] - base[1]) / long * bend, y + (tip[0] - base[0]) / long * bend]
      end

      def stretch(placed, from, to, name)
        marks = (0..STEPS).map { |i| from + (to - from) * i / STEPS }
        widths = marks.map { |mm| [placed.thickness(mm) * scale, 1.6].max }
        # A limb swells where it leaves.
        widths = [widths[0] * 1.4, widths[1] * 1.1, *widths.drop(2)] if from.zero?
        [marks.map { |mm| at(placed, mm, name) }, widths]
      end

      def branch(stand)
        placed = limb(stand)
        name = "#{@tree.label}#{stand.limb.tag}"
        ends = placed.length_mm
        cut = stand.cut_mm&.clamp(0, ends)
        # What is only planned stands whole, with a tick where it will be cut; what has come off by the season
        # that is drawn is left as a ghost.
        made = (stand.graft || stand.coming) && cut
        outline = Stroke.branch(*stretch(placed, 0.0, made ? cut : ends, name))
        beyond = stand.coming && cut ? Stroke.branch(*stretch(placed, cut, ends, name)) : nil
        sat = made && stand.worked? ? sticks(stand, placed, cut, name) : []
        tip = sat[sat.size / 2]&.fetch(:tip) || at(placed, cut && made ? cut : ends, name)
        Branch.new(id: stand.limb.id, tag: stand.limb.tag, state: stand.state, outline: outline, beyond: beyond,
                   twigs: made ? [] : twigs(placed, name), cut: cut && !made && !stand.falls ? tick(placed, cut, name) :
                   nil,
                   sticks: sat, spoken: spoken(stand), fault: @faults[stand.limb.id], chosen: stand.limb.id == @chosen,
                   damage: stand.limb.damage && tick(placed, placed.length_mm * 0.06, name, 1.1),
                   label: nil, leader: tip)
      end

      # Unmeasured twigs, as a pen suggests them.
      def twigs(placed, name)
        return [] if placed.length_mm * scale < 24

        (0..TWIGS).map do |i|
          share = 0.34 + 0.66 * i / TWIGS
          x, y = at(placed, placed.length_mm * share, name)
          before = at(placed, placed.length_mm * (share - 0.08), name)
          heading = Math.atan2(y - before[1], x - before[0])
          turn = i == TWIGS || spurs? ? Stroke.chance(name, 40) * 0.2 :
            (i.even? ? 1 : -1) * (0.6 + 0.25 * Stroke.chance(name, 20 + i))
          turn = (-Math::PI / 2 - heading) * 0.8 + Stroke.chance(name, 20 + i) * 0.4 if spurs? && i < TWIGS
          long = spurs? ? 9 + 4 * Stroke.chance(name, 30 + i) : [placed.length_mm * scale * 0.13, 26].min * (1.15 +
            0.5 * Stroke.chance(name, 30 + i)) * (1.3 - share * 0.4)
          tip = [x + Math.cos(heading + turn) * long, y + Math.sin(heading + turn) * long - long * 0.16]
          bend = [x + Math.cos(heading + turn) * long * 0.55, y + Math.sin(heading + turn) * long * 0.55]
          { path: "M#{Stroke.round(x)} #{Stroke.round(y)}Q#{[*bend, *tip].map { |v| Stroke.round(v) }.join(' ')}" }
        end
      end

      # A wall-trained limb is pruned to spurs, which stand up from it.
      def spurs? = @tree.form == "wall-trained"

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

      # The sticks on a stub, and the longest shoot seen so far, both to scale.
      def sticks(stand, placed, cut, name)
        x, y = at(placed, cut, name)
        ax, ay = at(placed, [cut - 120, 0].max, name)
        heading = Math.atan2(y - ay, x - ax)
        count = stand.stick_count
        wide = placed.thickness(cut) * scale
        (0...count).map do |i|
          aside = count == 1 ? 0.0 : (i / (count - 1.0) - 0.5)
          foot = [x - Math.sin(heading) * wide * 0.7 * aside, y + Math.cos(heading) * wide * 0.7 * aside]
          lean = heading + aside * 0.5
          lean += (-Math::PI / 2 - lean) * 0.35
          stick = [foot[0] + Math.cos(lean) * STICK_MM * scale, foot[1] + Math.sin(lean) * STICK_MM * scale]
          shoot, tip = shoot(stand, stick, lean, i, count, name)
          { stick: Stroke.straight([foot, stick]), shoot: shoot, tip: tip || stick }
        end
      end

      def shoot(stand, foot, lean, index, count, name)
        return nil unless stand.shoot_mm && stand.fate != "lost"

        long = stand.shoot_mm * scale * (index == count / 2 ? 1.0 : 0.72)
        bend = lean + (-Math::PI / 2 - lean) * 0.6
        way = bend + Stroke.chance(name, 60 + index) * 0.12
        mid = [foot[0] + Math.cos(lean) * long * 0.5, foot[1] + Math.sin(lean) * long * 0.5]
        tip = [mid[0] + Math.cos(way) * long * 0.5, mid[1] + Math.sin(way) * long * 0.5]
        ["M#{foot.map { |v| Stroke.round(v) }.join(' ')}Q#{[*mid, *tip].map { |v| Stroke.round(v) }.join(' ')}", tip]
      end

      def place_labels(drawn)
        anchors = drawn.map do |each|
          x, y = each.leader
          fx, fy = sheet(figure.limb(each.id).base)
          long = [Math.hypot(x - fx, y - fy), 0.1].max
          { id: each.id, x: x, y: y, dx: (x - fx) / long, dy: (y - fy) / long }
        end
        placed = Core::Survey::Tags.place(anchors, size: TAG, box: [LEFT, 4.0, WIDTH - 4, ground_y - 4],
                                          taken: lines.map { |each| [WIDTH - 150, each[:y] - 14, WIDTH, each[:y] + 3] })
        drawn.each { |each| each.label = placed[each.id] }
      end

      def spoken(stand)
        limb = stand.limb
        words = ["#{say(limb.girth_mm || limb.wide_mm)} round", "points #{limb.bearing_deg.to_i} degrees",
                 "rises #{limb.rise_deg.to_i} degrees"]
        words << { "open" => "nothing decided", "lost" => "graft lost",
                   "grafted" => "grafted with #{stand.graft&.variety&.name}",
                   "coming" => "as it will be, grafted" }.fetch(stand.state, stand.state)
        words << @faults[stand.limb.id] if @faults[stand.limb.id]
        words.join(", ")
      end
    end
  end
end
