# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # The tree as points: each limb in three dimensions from its fork, bearing, rise and
      # length, and its shadow on a sheet, seen from one side or from above.
      #
      # The ground is z = 0; x points east, y north, z up; all in mm, the foot of the trunk at
      # the origin.
      class Figure
        # A limb's line from where it leaves to where it ends.
        PlacedLimb = Struct.new(:id, :parent, :base, :tip, :base_mm, :tip_mm, :length_mm, keyword_init: true) do
          # The point +mm+ along it.
          def at(mm)
            base.zip(tip).map { |from, to| from + (to - from) * share(mm) }
          end

          # Its thickness there, in mm.
          def thickness(mm) = base_mm + (tip_mm - base_mm) * share(mm)

          # How far along it that is; a trunk whose leader begins at the soil has no length.
          def share(mm) = length_mm.zero? ? 0.0 : (mm / length_mm).clamp(0.0, 1.0)
        end

        attr_reader :limbs, :trunk

        # @param trunk [Hash] +height_mm+ where the trunk ends, +base_mm+ and +top_mm+ thick
        # @param limbs [Array<Hash>] +id+, +parent+ (id or nil), +fork_mm+ (height on the trunk,
        #   or distance along the parent), +bearing_deg+, +rise_deg+, +length_mm+, +diameter_mm+, and +tip_mm+ where it
        #   was measured further out too
        # @raise [BadInput] when limbs grow from each other in a ring
        def initialize(trunk:, limbs:, rulebook: Rulebook.shipped)
          @taper = rulebook.value("reckoning.cut.taper")
          @trunk = PlacedLimb.new(id: nil, base: [0.0, 0.0, 0.0], tip: [0.0, 0.0, trunk[:height_mm].to_f],
                            base_mm: trunk[:base_mm].to_f, tip_mm: trunk[:top_mm].to_f,
                            length_mm: trunk[:height_mm].to_f)
          @facts = limbs.to_h { |each| [each[:id], each] }
          @placed = {}
          @limbs = limbs.map { |each| place(each[:id], []) }
        end

        # A limb as it was placed.
        # @raise [KeyError]
        def limb(id) = @placed.fetch(id)

        # The point seen from a side: the viewer stands at +from_deg+ from the tree.
        #
        # @return [Array(Float, Float, Float)] mm to the right, mm up, mm towards the viewer
        def self.seen_from(point, from_deg)
          x, y, z = point
          right = radians(from_deg - 90)
          towards = radians(from_deg)
          [x * Math.sin(right) + y * Math.cos(right), z, x * Math.sin(towards) + y * Math.cos(towards)]
        end

        # The point seen from above, north up.
        #
        # @return [Array(Float, Float)] mm to the east, mm to the north
        def self.seen_from_above(point) = point.first(2)

        # @return [Float] radians
        def self.radians(degrees) = degrees * Math::PI / 180

        private

        def place(id, above)
          return @placed[id] if @placed[id]
          if above.include?(id)
            raise BadInput.new("limbs", "limbs that do not grow from each other in a ring; #{id} does")
          end

          facts = @facts.fetch(id)
          base = base_point(facts, above + [id])
          tip = tip_point(base, facts)
          thick = facts[:diameter_mm].to_f
          @placed[id] = PlacedLimb.new(id: id, parent: facts[:parent], base: base, tip: tip, base_mm: thick,
                                 tip_mm: facts[:tip_mm] || thick * (1 - @taper), length_mm: distance(base, tip))
        end

        def base_point(facts, above)
          return [0.0, 0.0, facts[:fork_mm].to_f] unless facts[:parent] && @facts[facts[:parent]]

          place(facts[:parent], above).at(facts[:fork_mm].to_f)
        end

        # The far end; a hanging limb ends on the ground.
        def tip_point(base, facts)
          bearing = Figure.radians(facts[:bearing_deg])
          rise = Figure.radians(facts[:rise_deg])
          length = facts[:length_mm].to_f
          drop = length * Math.sin(rise)
          length *= base[2] / -drop if (base[2] + drop).negative?
          [base[0] + length * Math.cos(rise) * Math.sin(bearing), base[1] + length * Math.cos(rise) * Math.cos(bearing),
           [base[2] + length * Math.sin(rise), 0.0].max]
        end

        def distance(one, other) = Math.sqrt(one.zip(other).sum { |a, b| (a - b)**2 })
      end
    end
  end
end
