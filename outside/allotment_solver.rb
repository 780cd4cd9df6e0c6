# frozen_string_literal: true

begin
  require "fiddle"
  require "highs"
rescue LoadError => e
  warn "Large allotments are answered without the solver, which does not load here: #{e.message}"
end

module Vestry
  module Outside
    # A large allotment as a mixed-integer programme for HiGHS: one column for each limb in each season that is worth
    # something, and rows for each limb, each head in each season, and each shared limit.
    class AllotmentSolver
      # @param problem [Core::Plan::AllotmentProblem]
      # @param seconds [Integer] so long at most
      # @return [Array(Hash, Boolean), nil] limb => season, and whether nothing better can be; nil where it found
      #   nothing, or is not there
      def self.call(problem, seconds:)
        defined?(::Highs) ? new(problem).solve(seconds) : nil
      rescue Fiddle::DLError, ::Highs::Error => e
        # Its library is loaded at the first question only.
        FailureLog.record(e, doing: "asking the solver")
        nil
      end

      def initialize(problem)
        @problem = problem
        @columns = problem.limbs.flat_map do |limb|
          limb.seasons.select { |season| limb.fixed || limb.values[season].positive? }.map { |season| [limb, season] }
        end
      end

      def solve(seconds)
        return [{}, true] if @columns.empty?

        answer = ::Highs.mip(**programme).solve(time_limit: seconds)
        chosen = @columns.zip(answer[:col_value]).select { |_, set| set > 0.5 }.to_h(&:first)
        [chosen, answer[:status] == :optimal] if chosen.any?
      end

      private

      def programme
        rows = rows_of_entries
        { sense: :maximize, col_cost: @columns.map { |limb, season| limb.values[season] },
          col_lower: @columns.map { |limb, _| limb.fixed ? 1.0 : 0.0 }, col_upper: [1.0] * @columns.size,
          integrality: [1] * @columns.size, row_lower: [-Float::INFINITY] * rows.size,
          row_upper: rows.keys.map { |row| most(row) }, **matrix(rows.values) }
      end

      # @return [Hash{Array=>Array}] each row's columns, with how much of it each takes
      def rows_of_entries
        rows = Hash.new { |all, row| all[row] = [] }
        @columns.each_with_index do |(limb, season), column|
          rows[[:limb, limb.place]] << [column, 1.0]
          rows[[:head, limb.tree, season]] << [column, limb.share]
          limb.uses[season].each { |limit, amount| rows[[:limit, limit]] << [column, amount] }
        end
        rows
      end

      def most((kind, which, _))
        case kind
        when :limb then 1.0
        when :head then @problem.caps[which]
        else @problem.limits[which]
        end
      end

      def matrix(rows)
        starts = rows.inject([0]) { |all, row| all << (all.last + row.size) }
        { a_format: :rowwise, a_start: starts.first(rows.size), a_index: rows.flatten(1).map(&:first),
          a_value: rows.flatten(1).map(&:last) }
      end
    end
  end
end
