# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # What took, by kind, with what the numbers bear and no more.
      module Outcome
        module_function

        # @param rows [Array<Hash>] each +take+ (true or false), and what it is told apart by
        # @param by [Symbol]
        # @return [Array<Hash>] +kind+, +takes+, +trials+, +rate+, +low+, +high+, most trials first
        def by(rows, by, rulebook: Rulebook.shipped)
          rows.group_by { |row| row[by] }.map do |kind, all|
            takes = all.count { |row| row[:take] }
            { kind: kind, takes: takes, trials: all.size }
              .merge(Take.call(takes: takes, trials: all.size, rulebook: rulebook).slice(:rate, :low, :high))
          end.sort_by { |line| [-line[:trials], line[:kind].to_s] }
        end

        # Compares grafters on like work alone: only strata (method, species, season) in which more than
        # one of them worked, each weighed by how much was done in it.
        #
        # @return [Array<Hash>] +kind+, +takes+, +trials+ (on like work), +rate+ (raw, there), +expected+ (what all who
        #   did the
        #   same work reached), +left_out+ (their trials nobody else can be compared on)
        def fair(rows, who: :grafter, alike: %i[technique species season])
          strata = rows.group_by { |row| row.values_at(*alike) }.values.select do |all|
            all.map { |row| row[who] }.uniq.size > 1
          end
          shared = strata.flatten.group_by { |row| row[who] }
          rows.group_by { |row| row[who] }.map do |name, all|
            fair_line(name, all.size, shared.fetch(name, []), expected_takes(strata) { |row| row[who] == name })
          end.sort_by { |line| [-line[:trials], line[:kind].to_s] }
        end

        def fair_line(name, total, mine, expected)
          takes = mine.count { |row| row[:take] }
          rate, expected = [takes, expected].map { |all| all / mine.size.to_f } unless mine.empty?
          { kind: name, takes: takes, trials: mine.size, rate: rate, expected: (expected unless mine.empty?),
            left_out: total - mine.size }
        end

        # How many of the rows that are asked for would have taken, had each taken as often as all of its stratum.
        def expected_takes(strata, &mine)
          strata.sum { |all| all.count(&mine) * all.count { |row| row[:take] } / all.size.to_f }
        end

        # What a table of rates bears: a reason to be said as a sentence. Nothing is said of fewer than the least
        # trials, and two kinds are told apart only where both the posterior of the pair and the comparison of like with
        # like bear it.
        #
        # @param lines [Array<Hash>] as #by gives them
        # @param pooled [Pooled, nil] the same kinds drawn together; nil for fewer than two
        # @param likes [Hash] see LikeWithLike
        # @return [Hash]
        def claim(lines, pooled: nil, likes: {}, rulebook: Rulebook.shipped)
          least = rulebook.value("reckoning.take.least_trials")
          told = lines.select { |line| line[:trials] >= least }
          return too_few(lines, least) if told.empty?
          return one(told[0], lines) if told.size == 1

          best, worst = ends(told, pooled)
          if best && pooled.likely(best.kind, worst.kind) >= rulebook.value("reckoning.take.claim") &&
             [best, worst].any? { |each| likes.dig(each.kind, :stands) }
            return { code: "took_differ", best: best.kind, best_rate: best.rate, worst: worst.kind,
                     worst_rate: worst.rate }
          end

          { code: "took_alike", kinds: told.size, trials: told.sum { |line| line[:trials] } }
        end

        def too_few(lines, least)
          { code: "took_too_few", trials: lines.sum { |line| line[:trials] }, kinds: lines.size, least: least }
        end

        def one(line, lines)
          { code: "took_one", kind: line[:kind], **line.slice(:takes, :trials, :low, :high), others: lines.size > 1 }
        end

        # The kinds with most and least, as they are drawn together.
        def ends(told, pooled)
          kinds = pooled&.kinds.to_a.select { |each| told.any? { |line| line[:kind] == each.kind } }
          [kinds.max_by(&:rate), kinds.min_by(&:rate)] if kinds.size > 1
        end
        private_class_method :fair_line, :too_few, :one, :ends
      end
    end
  end
end
