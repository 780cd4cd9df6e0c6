# frozen_string_literal: true

module Vestry
  module Drawings
    # The same tree from above, north up, with the wind.
    class FromAbove
      include OfTree

      SIZE = 264.0
      Spoke = Struct.new(:id, :tag, :state, :outline, :cut, :label, :leader, :chosen, :spoken, keyword_init: true)

      attr_reader :href, :from_deg

      def initialize(tree, stands, from_deg: 180, chosen: nil, href: ->(_) {})
        @tree = tree
        @stands = stands
        @chosen = chosen
        @href = href
        @from_deg = from_deg
      end

      def svg = Template.render("from_above", self)

      # The same with another limb chosen, which moves nothing.
      def choosing(limb_id)
        spokes
        dup.tap { |other| other.choose(limb_id) }
      end

      def size = SIZE
      def middle = SIZE / 2
      def title = "#{@tree.label} from above"
      def trunk_radius = [figure.trunk.base_mm * scale / 2, 3].max

      # Where the viewer of the elevation stands.
      def viewer = compass(@from_deg, middle - 22)

      def compass_marks
        { "N" => 0, "E" => 90, "S" => 180, "W" => 270 }.map { |name, deg| { name: name, at: compass(deg, middle - 9) } }
      end

      def wind
        from = @tree.orchard.wind_from_deg or return nil
        tail, head = compass(from, middle - 4), compass(from, middle - 26)
        left, right = compass(from + 4, middle - 18), compass(from - 4, middle - 18)
        { path: "#{Stroke.straight([tail, head])}#{Stroke.straight([left, head, right])}", from: from }
      end

      def spokes
        @spokes ||= begin
          drawn = @stands.sort_by { |stand| limb(stand).tip[2] }.map { |stand| spoke(stand) }
          placed = Core::Survey::Tags.place(drawn.map { |each| anchor(each) }, size: Elevation::TAG, taken: letters,
                                            box: [16.0, 16.0, SIZE - 16, SIZE - 16])
          drawn.each { |each| each.label = placed[each.id] }
        end
      end

      # The flatter face of a limb, as a bar along it on that side.
      def flats
        @stands.select { |stand| stand.limb.flat_deg }.map do |stand|
          placed = limb(stand)
          x, y = sheet(placed.at(placed.length_mm * 0.25))
          aside = placed.thickness(placed.length_mm * 0.25) * scale / 2 + 4
          r = Core::Survey::Figure.radians(stand.limb.flat_deg.to_f)
          mx, my = x + Math.sin(r) * aside, y - Math.cos(r) * aside
          Stroke.straight([[mx - Math.cos(r) * 6, my - Math.sin(r) * 6], [mx + Math.cos(r) * 6, my + Math.sin(r) * 6]])
        end
      end

      protected

      def choose(limb_id)
        @chosen = limb_id
        @spokes = @spokes.map { |spoke| spoke.dup.tap { |each| each.chosen = each.id == limb_id } }
      end

      private

      # Where a tag hangs: at the end of its limb, outwards.
      def anchor(spoke)
        x, y = spoke.leader
        long = [Math.hypot(x - middle, y - middle), 0.1].max
        { id: spoke.id, x: x, y: y, dx: (x - middle) / long, dy: (y - middle) / long }
      end

      # What the letters of the compass take up.
      def letters = compass_marks.map { |mark| mark[:at] }.map { |x, y| [x - 8, y - 9, x + 8, y + 9] }

      def scale
        @scale ||= begin
          reach = @stands.flat_map { |stand| limb(stand).tip.first(2).map(&:abs) }.max || 1000
          (SIZE / 2 - 46) / [reach, 400].max
        end
      end

      def sheet(point)
        Core::Survey::Figure.seen_from_above(point).then { |x, y| [middle + x * scale, middle - y * scale] }
      end
      def compass(deg, radius)
        Core::Survey::Figure.radians(deg).then { |r| [middle + Math.sin(r) * radius, middle - Math.cos(r) * radius] }
      end

      def spoke(stand)
        placed = limb(stand)
        ends = (stand.graft || stand.coming) && stand.cut_mm ? [stand.cut_mm, placed.length_mm].min : placed.length_mm
        outline = Stroke.branch([sheet(placed.base), sheet(placed.at(ends))],
                                [0.0, ends].map { |mm| [placed.thickness(mm) * scale, 1.4].max })
        cut = stand.to_cut_mm&.then { |mm| cut_tick(placed, mm) }
        Spoke.new(id: stand.limb.id, tag: stand.limb.tag, state: stand.state, outline: outline, cut: cut,
                  chosen: stand.limb.id == @chosen,
                  leader: sheet(placed.at(ends)))
      end

      def cut_tick(placed, mm)
        (ax, ay), (bx, by) = sheet(placed.base), sheet(placed.tip)
        long = [Math.hypot(bx - ax, by - ay), 0.1].max
        x, y = sheet(placed.at(mm))
        Stroke.straight([[x - (by - ay) / long * 7, y + (bx - ax) / long * 7],
                         [x + (by - ay) / long * 7, y - (bx - ax) / long * 7]])
      end
    end
  end
end
