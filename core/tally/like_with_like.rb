# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # Each kind against the others, on like work alone, with what stubs of one tree share and how many kinds are
      # compared at once reckoned in.
      module LikeWithLike
        # What is alike where like is compared with like.
        ALIKE = %i[species technique season].freeze
        # Kinds that are another's by another name.
        SAME = { method: :technique }.freeze
        private_constant :SAME

        module_function

        # The interval is Compare's, widened by 1 + (m - 1) x 0.3 for m stubs on a tree. Of k kinds the surest stands
        # where its chance of being no difference is at most 0.05 / k, the next at most 0.05 / (k - 1), and so on until
        # one does not (Holm 1979).
        #
        # @param rows [Array<Hash>] +take+, +tree+, what they are told apart by, and ALIKE
        # @param by [Symbol]
        # @return [Hash{Object=>Hash}] kind => +difference+, +low+, +high+ (nil where nothing is like it), +strata+ and
        #   +stands+
        def of(rows, by, rulebook: Rulebook.shipped)
          strata = strata(rows, by)
          widened = widened(rows, rulebook)
          told = rows.map { |row| row[by] }.uniq.to_h { |kind| [kind, one(strata, by, kind, widened)] }
          standing(told, rulebook).each { |kind| told[kind][:stands] = true }
          told
        end

        def strata(rows, by) = rows.group_by { |row| row.values_at(*ALIKE - [SAME.fetch(by, by)]) }.values

        # By how much an interval is wider for stubs that share a tree.
        def widened(rows, rulebook)
          return 1.0 if rows.empty?

          a_tree = rows.size / rows.map { |row| row[:tree] }.uniq.size.to_f
          1 + (a_tree - 1) * rulebook.value("reckoning.take.same_tree")
        end

        # Where none was lost, or all were, no spread is told, and nothing is compared.
        def one(strata, by, kind, widened)
          told = Compare.call(strata: strata.map { |all| stratum(all.partition { |row| row[by] == kind }) })
          return { strata: told[:strata_used], chance: 1.0, stands: false } unless told[:sd]&.positive?

          wide = Compare::WIDTH * told[:sd] * widened
          { difference: told[:difference], low: told[:difference] - wide, high: told[:difference] + wide,
            strata: told[:strata_used], chance: chance(told, widened), stands: false }
        end

        def stratum((here, others))
          { a: here.count { |row| row[:take] }, n1: here.size, c: others.count { |row| row[:take] }, n0: others.size }
        end

        # Of seeing so much where there is no difference, both ways.
        def chance(told, widened) = Math.erfc(told[:difference].abs / (told[:sd] * widened) / Math.sqrt(2))

        def standing(told, rulebook)
          sure = 1 - rulebook.value("reckoning.take.claim")
          ordered = told.select { |_, each| each[:difference] }.sort_by { |_, each| each[:chance] }
          ordered.each_with_index.take_while { |(_, each), n| each[:chance] <= sure / (ordered.size - n) }
            .map { |(kind, _), _| kind }
        end
        private_class_method :strata, :widened, :one, :stratum, :chance, :standing
      end
    end
  end
end
