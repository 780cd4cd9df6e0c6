# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # A year's shoot cut for wood: which stretch of it is used, which of its buds grow, and where it is cut to sticks.
      module Shoot
        extend Exercise
        # What stands at a node of each sort of kind, and which of it will grow a shoot.
        NODES = { "pome" => %w[leaf leaf leaf leaf fat blind], "stone" => %w[leaf leaf pair triple fat blind] }.freeze
        GROWS = %w[leaf pair triple].freeze
        private_constant :NODES, :GROWS

        exercise "shoot", "A year's shoot cut to sticks" do
          number :from_mm, unit: "mm", least: 0, most: 3000, help: "where the stretch to use begins"
          number :to_mm, unit: "mm", least: 0, most: 3000
          list :buds, item(:integer, least: 1, most: 200), longest: 200, help: "nodes with a bud that grows a shoot"
          list :cuts, item(:number, unit: "mm", least: 0, most: 3000), longest: 40, help: "between two sticks"
        end

        class << self
          private

          def make(random, level, rulebook)
            book = book(rulebook, "shoot")
            plain = lengths(random, book)
            kind = level < 2 || random.rand < 0.5 ? "pome" : "stone"
            shoot = { kind: kind, **plain, damage: level > 2 ? damage(random, plain) : nil, faint: (level - 1) / 4.0 }
            shoot[:nodes] = nodes(random, shoot, kind, level)
            stretch = stretch(shoot)
            growing = growing(shoot, *stretch)
            { shown: { **shoot, buds_a_stick: book["buds"] }, stretch: stretch, growing: growing,
              most: growing.size / book["buds"], best: best(stretch, growing, book) }
          end

          def lengths(random, book)
            ring, base, tip = %w[ring base tip].map { |name| between(random, *book[name]).round }
            long = between(random, *book["long"]).round
            { length_mm: ring + long, ring_at_mm: ring, thick_to_mm: ring + base, green_from_mm: ring + long - tip }
          end

          # Somewhere in the wood that could be used, nearer to one of its ends.
          def damage(random, plain)
            from, to = plain[:thick_to_mm], plain[:green_from_mm]
            at = from + (to - from) * (random.rand < 0.5 ? between(random, 0.15, 0.3) : between(random, 0.7, 0.85))
            [at.round, (at + 24).round]
          end

          def nodes(random, shoot, kind, level)
            at = shoot[:ring_at_mm] + 14.0
            found = []
            while at < shoot[:length_mm] - 8
              found << { id: found.size + 1, at_mm: at.round(1), side: found.size.even? ? -1 : 1,
                         is: node(random, shoot, kind, at, level) }
              at += between(random, 22, 38)
            end
            found
          end

          # Weak buds at the thick base; of the rest more lookalikes the harder it is.
          def node(random, shoot, kind, at, level)
            return "blind" if at < shoot[:thick_to_mm] && random.rand < 0.6
            return "leaf" if random.rand > 0.3 + 0.1 * level

            NODES.fetch(kind).sample(random: random)
          end

          # The longest stretch of ripe wood of this year that is sound.
          def stretch(shoot)
            whole = shoot.values_at(:thick_to_mm, :green_from_mm)
            return whole unless shoot[:damage]

            from, to = shoot[:damage]
            [[whole[0], from], [to, whole[1]]].max_by { |low, high| high - low }
          end

          def growing(shoot, from, to)
            shoot[:nodes].select { |node| node[:at_mm].between?(from, to) && GROWS.include?(node[:is]) }
          end

          # Cut half way between the last bud of one stick and the first of the next.
          def best(stretch, growing, book)
            sticks = growing.each_slice(book["buds"]).select { |few| few.size == book["buds"] }
            cuts = sticks.each_cons(2).map { |one, other| ((one.last[:at_mm] + other.first[:at_mm]) / 2).round(1) }
            { from_mm: stretch[0].to_f, to_mm: stretch[1].to_f, buds: growing.map { |node| node[:id] }, cuts: cuts }
          end

          def judge(made, answer, rulebook)
            book = book(rulebook, "shoot")
            from, to = answer.values_at(:from_mm, :to_mm)
            if to <= from
              raise BadInput.new("answer.to_mm", "a number in mm beyond where it begins, at #{format('%g', from)}")
            end

            shares = shares(made, answer, book)
            { score: shares.sum { |part, share| book["weights"].fetch(part) * share },
              fatal: from < made[:shown][:ring_at_mm] - book["slack"],
              feedback: feedback(made, answer, shares, book) }
          end

          def shares(made, answer, book)
            sticks = sticks(made, answer, book)
            { "stretch" => overlap(made[:stretch], answer.values_at(:from_mm, :to_mm)),
              "buds" => named(made, answer[:buds]),
              "sticks" => made[:most].zero? ? 1.0 : [sticks / made[:most].to_f, 1.0].min }
          end

          def overlap(one, other)
            both = [one[1], other[1]].min - [one[0], other[0]].max
            both.positive? ? both / ([one[1], other[1]].max - [one[0], other[0]].min).to_f : 0.0
          end

          # F1 of the buds that grow, of the nodes within the stretch.
          def named(made, buds)
            true_ones = made[:growing].map { |node| node[:id] }
            within = made[:shown][:nodes].select { |node| node[:at_mm].between?(*made[:stretch]) }
            said = buds.uniq & within.map { |node| node[:id] }
            right = (said & true_ones).size
            said.size + true_ones.size == 0 ? 1.0 : 2.0 * right / (said.size + true_ones.size)
          end

          # Pieces with buds enough, cut through none of them.
          def sticks(made, answer, book)
            ends = [answer[:from_mm], *answer[:cuts].sort, answer[:to_mm]]
            ends.each_cons(2).count do |low, high|
              inside = made[:growing].select { |node| node[:at_mm].between?(low + book["clear"], high - book["clear"]) }
              inside.size >= book["buds"]
            end
          end

          def feedback(made, answer, shares, book)
            found = [*stretch_reasons(made, answer, book), *bud_reasons(made, answer[:buds])]
            sticks = sticks(made, answer, book)
            found << { code: "practice_few_sticks", sticks: sticks, most: made[:most] } if shares["sticks"] < 1
            found.empty? ? [{ code: "practice_good_wood", sticks: sticks }] : found
          end

          def stretch_reasons(made, answer, book)
            shown, slack = made[:shown], book["slack"]
            from, to = answer.values_at(:from_mm, :to_mm)
            [({ code: "practice_old_wood", over_mm: shown[:ring_at_mm] - from } if from < shown[:ring_at_mm] - slack),
             ({ code: "practice_thick_base" } if thick?(shown, from, slack)),
             ({ code: "practice_unripe", over_mm: to - shown[:green_from_mm] } if to > shown[:green_from_mm] + slack),
             ({ code: "practice_damage" } if over?(shown[:damage], from, to, slack)),
             ({ code: "practice_more_wood" } if short?(made[:stretch], from, to, book["taken"]))].compact
          end

          def thick?(shown, from, slack) = from.between?(shown[:ring_at_mm] - slack, shown[:thick_to_mm] - slack)
          def over?(damage, from, to, slack) = damage && from < damage[1] - slack && to > damage[0] + slack
          def short?(stretch, from, to, share) = to - from < share * (stretch[1] - stretch[0])

          def bud_reasons(made, buds)
            true_ones = made[:growing].map { |node| node[:id] }
            wrong = made[:shown][:nodes].select { |node| buds.include?(node[:id]) && !GROWS.include?(node[:is]) }
            unnamed = (true_ones - buds).size
            wrong.group_by { |node| node[:is] }.map do |is, few|
              { code: "practice_buds_#{is}", nodes: few.map { |node| node[:id] } }
            end + (unnamed.zero? ? [] : [{ code: "practice_buds_unnamed", count: unnamed }])
          end
        end
      end
    end
  end
end
