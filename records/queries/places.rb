# frozen_string_literal: true

module Vestry
  module Records
    # Where trees are drawn, and which of them lie in a window.
    module Places
      APART = 5.0
      ROWS_APART = 6.0
      METRES_A_DEGREE = 111_320.0

      module_function

      # Waits until nobody else settles the places of an orchard, and holds the others off until the transaction ends.
      def hold(orchard) = AdvisoryLock.hold(:places, orchard.id)

      # Settles where every tree of an orchard is drawn: as surveyed in metres, by its
      # coordinates, or else by its row and number, below those that were surveyed.
      def settle(orchard)
        trees = DB[:trees].where(orchard_id: orchard.id)
        by_metres = trees.exclude(x_m: nil).exclude(y_m: nil)
          .where(Sequel.|(Sequel.~(map_x: :x_m), Sequel.~(map_y: :y_m)))
        by_degrees = trees.where(Sequel.|({ x_m: nil }, { y_m: nil })).exclude(latitude: nil).exclude(longitude: nil)
        across = METRES_A_DEGREE * Math.cos(orchard.latitude * Math::PI / 180)
        by_metres.update(map_x: :x_m, map_y: :y_m)
        by_degrees.update(map_x: (Sequel[:longitude] - orchard.longitude) * across,
                          map_y: (Sequel[:latitude] - orchard.latitude) * METRES_A_DEGREE)
        lowest = [trees.exclude(x_m: nil).exclude(y_m: nil).min(:y_m), by_degrees.min(:map_y), ROWS_APART].compact.min
        DB[<<~SQL, APART, lowest, ROWS_APART, orchard.id].update
          WITH rows AS (SELECT id, DENSE_RANK() OVER (ORDER BY row) AS rank FROM trees
                        WHERE orchard_id = #{Integer(orchard.id)} AND (x_m IS NULL OR y_m IS NULL)
                          AND (latitude IS NULL OR longitude IS NULL))
          UPDATE trees SET map_x = (number - 1) * ?, map_y = ? - rows.rank * ? FROM rows WHERE trees.id = rows.id
            AND trees.orchard_id = ?
        SQL
      end

      # The rectangle all trees of an orchard lie in: west, south, east, north, in metres; and how many
      # they are.
      #
      # @return [Array(Array<Float>, Integer)]
      def extent(orchard)
        *sides, trees = DB[:trees].where(orchard_id: orchard.id, hidden_at: nil).get do
          [min(:map_x).as(:west), min(:map_y).as(:south), max(:map_x).as(:east), max(:map_y).as(:north),
           count(Sequel.lit("*")).as(:trees)]
        end
        [sides.any?(&:nil?) ? [0.0, 0.0, 10.0, 10.0] : sides, trees]
      end

      # The trees that stand nearest to a place, of those whose place is known in degrees.
      #
      # @return [Array<Array(Tree, Float)>] each with how far it is, in metres
      def nearest(orchard, latitude, longitude, most: 8)
        away = away(latitude, longitude)
        Tree.in_sight.where(orchard_id: orchard.id).exclude(latitude: nil).exclude(longitude: nil)
          .select_append(away.as(:away)).order(:away, :row, :number).limit(most).all
          .map { |tree| [tree, tree.values[:away].to_f] }
      end

      # How far trees stand from a place, in metres, as SQL: flat ground, which an orchard is.
      def away(latitude, longitude)
        across = METRES_A_DEGREE * Math.cos(latitude * Math::PI / 180)
        north, east = [[:latitude, latitude, METRES_A_DEGREE], [:longitude, longitude, across]]
          .map { |name, at, metres| Sequel.function(:power, (Sequel[name] - at) * metres, 2) }
        Sequel.function(:sqrt, north + east)
      end

      # @param window [Array(Float, Float, Float, Float)] west, south, east, north
      def inside(dataset, window)
        west, south, east, north = window
        dataset.where { (map_x >= west) & (map_x <= east) & (map_y >= south) & (map_y <= north) }
      end

      # How many trees stand in each cell of a grid, where single trees would be too many to draw.
      def heaps(dataset, cell)
        dataset.unordered.select_group(Sequel.lit("FLOOR(map_x / ?)", cell).as(:column),
                                       Sequel.lit("FLOOR(map_y / ?)", cell).as(:line))
               .select_append { count(Sequel.lit("*")).as(:trees) }
                 .select_append { [avg(:map_x).as(:x), avg(:map_y).as(:y)] }.naked.all
      end
    end
  end
end
