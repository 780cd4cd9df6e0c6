# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # The assignment of least cost over rows and columns, where some pairs cannot be (nil): by shortest
      # augmenting paths (Kuhn 1955, Munkres 1957, in the form of Jonker and Volgenant 1987).
      class Assignment
        # @param costs [Array<Array<Float, nil>>] by row and column
        def initialize(costs)
          @turned = costs.size > costs.first.size
          @possible = @turned ? costs.transpose : costs
          # One pair more is always worth it.
          dear = 1.0 + @possible.sum(0.0) { |row| row.compact.max || 0.0 }
          alike = Hash.new { |rows, row| rows[row] = row.map { |cost| cost || dear } }.compare_by_identity
          @costs = @possible.map { |row| alike[row] }
        end

        # @return [Array<Array(Integer, Integer)>] those pairs that can be
        def pairs
          found = solve.each_with_index.filter_map { |row, column| [row, column] if row && @possible[row][column] }
          @turned ? found.map(&:reverse) : found
        end

        private

        # @return [Array<Integer, nil>] the row of each column
        def solve
          columns = @costs.first.size
          @column_price = Array.new(columns, 0.0)
          @row_of = Array.new(columns)
          waiting = 2.times.inject((0...@costs.size).to_a) { |rows, _| bid(rows) }
          @row_price = @costs.map { |costs| lowest(costs).first }
          waiting.each { |row| augment(row, columns) }
          @row_of
        end

        # Each row takes the column that is cheapest for it, priced down by what its second choice
        # is worse, and so may put out the row that held it. Most rows are settled so, at little cost.
        #
        # @return [Array<Integer>] rows still without a column
        def bid(rows)
          queue, waiting = rows.dup, []
          tries = 4 * @costs.size
          until queue.empty?
            row = queue.shift
            least, column, second = lowest(@costs[row])
            margin = second - least
            if margin > Near::TOLERANCE
              @column_price[column] -= margin
            elsif @row_of[column]
              costs = @costs[row]
              column = (0...costs.size).find { |j| @row_of[j].nil? && costs[j] - @column_price[j] <= least } || column
            end
            out = @row_of[column]
            if out && (margin <= Near::TOLERANCE || (tries -= 1).negative?)
              margin > Near::TOLERANCE ? (@row_of[column] = row) && waiting << out : waiting << row
              next
            end
            @row_of[column] = row
            queue.unshift(out) if out
          end
          waiting
        end

        # The two cheapest columns for a row: +least+, its column, +second+.
        def lowest(costs)
          least = second = Float::INFINITY
          column = nil
          j = 0
          count = costs.size
          while j < count
            cost = costs[j] - @column_price[j]
            if cost < least
              second, least, column = least, cost, j
            elsif cost < second
              second = cost
            end
            j += 1
          end
          second = least if second == Float::INFINITY
          [least, column, second]
        end

        # The shortest path from a waiting row to a free column; the pairs along it change over.
        def augment(start, columns)
          best, from = Array.new(columns, Float::INFINITY), Array.new(columns)
          open = (0...columns).to_a
          settled = []
          row, reached, base = start, nil, 0.0
          expanded = {}.compare_by_identity
          until reached
            # A row like one that was looked along already leads nowhere nearer.
            look_along(row, base, open, best, from) unless expanded[@costs[row]]
            expanded[@costs[row]] = true
            base, nearest, place = nearest_of(open, best)
            open[place] = open[-1]
            open.pop
            settled << nearest
            @row_of[nearest] ? row = @row_of[nearest] : reached = nearest
          end
          reprice(start, settled, best, base)
          change_over(start, reached, from)
        end

        # Shortens the way to each open column where it is shorter by this row.
        def look_along(row, base, open, best, from)
          costs, price, column_price = @costs[row], @row_price[row], @column_price
          i = 0
          count = open.size
          while i < count
            j = open[i]
            if (length = base + costs[j] - price - column_price[j]) < best[j]
              best[j] = length
              from[j] = row
            end
            i += 1
          end
        end

        # The open column that is nearest, one that nobody has before one that somebody has: how far, which, and its
        # place.
        def nearest_of(open, best)
          least, nearest, place = Float::INFINITY, nil, nil
          i = 0
          count = open.size
          while i < count
            j = open[i]
            known = best[j]
            if known < least || (known == least && @row_of[j].nil?)
              least, nearest, place = known, j, i
            end
            i += 1
          end
          [least, nearest, place]
        end

        def reprice(start, settled, best, total)
          @row_price[start] += total
          settled.each do |column|
            slack = total - best[column]
            @column_price[column] -= slack
            row = @row_of[column]
            @row_price[row] += slack if row
          end
        end

        def change_over(start, column, from)
          loop do
            row = from[column]
            before = @row_of.index(row)
            @row_of[column] = row
            break if row == start

            column = before
          end
        end
      end
    end
  end
end
