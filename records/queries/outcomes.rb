# frozen_string_literal: true

module Vestry
  module Records
    # What took in an orchard: each graft whose fate is known, with what it is told apart by, and what
    # its numbers bear.
    class Outcomes
      BY = { "method" => "method", "species" => "kind of stock", "variety" => "variety", "grafter" => "grafter",
             "week" => "week", "stub" => "stub size", "wrap" => "wrap", "wood" => "age of the wood",
             "weather" => "warmth of the first fortnight" }.freeze
      # The latest so many grafts: more would say the same.
      MOST = 2_500

      # @param season [Integer, nil] one season alone
      # @param most [Integer] only so many, the latest
      def initialize(orchard, today, season: nil, most: MOST)
        @orchard = orchard
        @today = today
        @season = season
        @most = most
      end

      # @return [Array<Hash>] a row a stub: +take+, +sticks+, +sticks_alive+ and what it is told apart by
      def stubs = @stubs ||= facts.exclude(take: nil).map { |row| stub(row) }

      # How many took and were tried, by kind of stock and method, in one question.
      #
      # @return [Array<Hash>] +species+, +technique+, +takes+, +trials+ and +sticks+ on them all
      def counted
        facts.exclude(take: nil).unordered.group(:species, :technique)
             .select(:species, :technique, Sequel.function(:sum, Sequel.cast(:take, :integer)).as(:takes),
                     Sequel.function(:count, Sequel.lit("*")).as(:trials),
                     Sequel.function(:sum, :sticks).as(:sticks)).map(&:to_h)
      end

      # A row a stick, where it was counted how many live.
      def sticks
        stubs.select { |row| row[:sticks_alive] }.flat_map do |row|
          Array.new(row[:sticks]) { |i| row.merge(take: i < row[:sticks_alive]) }
        end
      end

      # @param by [String] one of BY
      # @param count [String] stubs or sticks
      def by(by, count: "stubs")
        Core::Tally::Outcome.by(count == "sticks" ? sticks : stubs, by.to_sym, rulebook: @orchard.rulebook)
      end

      # What is claimed of a table, what each of its kinds comes to drawn together with the rest, and against the
      # others on like work: what is stored, worked out.
      #
      # @return [Hash] +claim+; +pooled+, each +kind+, +rate+, +low+ and +high+; and +likes+, each with its +kind+ what
      #   Core::Tally::LikeWithLike says of it
      def weighed(by, count: "stubs")
        Derived.fetch(@orchard, "took #{by} #{count} #{@season}", @today, from: FROM) do |orchard|
          Outcomes.new(orchard, @today, season: @season, most: @most).weigh(by, count)
        end
      end

      # The same, reckoned.
      def weigh(by, count)
        rows, asked = count == "sticks" ? sticks : stubs, by.to_sym
        pooled = pooled(rows, asked)
        likes = Core::Tally::LikeWithLike.of(rows, asked, rulebook: @orchard.rulebook)
        { claim: Core::Tally::Outcome.claim(by(by, count: count), pooled: pooled, likes: likes,
                                            rulebook: @orchard.rulebook),
          pooled: pooled&.kinds.to_a.map { |each| each.to_h.slice(:kind, :rate, :low, :high) },
          likes: likes.map { |kind, each| { kind: kind, **each.slice(:difference, :low, :high, :strata, :stands) } } }
      end
      def fair = Core::Tally::Outcome.fair(stubs)
      def total
        Core::Tally::Take.call(takes: stubs.count { |row| row[:take] }, trials: stubs.size)
          .merge(takes: stubs.count { |row| row[:take] }, trials: stubs.size)
      end

      # Whether older grafts were left out.
      def trimmed? = made.count == @most
      def lost_later = stubs.count { |row| row[:lost_later] }

      # How its losses came about, by cause.
      def losses
        lost = Graft.in_sight.where(orchard_id: @orchard.id).exclude(lost_cause: nil)
        lost = lost.where(grafted_on: span) if @season
        lost.group_and_count(:lost_cause).order(Sequel.desc(:count)).as_hash(:lost_cause, :count)
      end

      private

      # What the record of takes follows from, besides the orchard and the day.
      FROM = %w[trees limbs grafts observations tallies varieties bundles sticks weather_days].freeze
      # What draws stubs together, beside what is asked about.
      DRAWN = %i[species technique season grafter].freeze
      private_constant :FROM, :DRAWN

      def pooled(rows, by)
        return nil if rows.map { |row| row[by] }.uniq.size < 2

        Core::Tally::Pooled.new(rows, [by, *(DRAWN - [by == :method ? :technique : by])])
      end

      def span = @orchard.season.span(@season)

      # Those that were found standing say nothing of how many were made.
      def made
        all = DB[:grafts].where(Sequel[:grafts][:orchard_id] => @orchard.id, Sequel[:grafts][:hidden_at] => nil,
                                known_since: nil)
          .where(Sequel[:grafted_on] <= @today).order(Sequel.desc(:grafted_on), Sequel.desc(:id)).limit(@most)
        @season ? all.where(grafted_on: span) : all
      end

      COLUMNS = [Sequel[:grafts][:id], :grafted_on, :technique, :stub_mm, :sticks, :grafter, :wrap,
                 Sequel[:trees][:species], Sequel[:trees][:id].as(:tree),
                 Sequel[:varieties][:name].as(:variety)].freeze
      private_constant :COLUMNS

      # Grafts with the last word on each, in few questions however many there are.
      def facts
        told = GraftOutcomeSql.beside(made.from_self(alias: :grafts).join(:limbs, id: :limb_id).join(:trees,
          id: :tree_id).join(:varieties, id: Sequel[:grafts][:variety_id]), today: @today)
                   .select(*COLUMNS,
                           Sequel[:counted][:sticks_alive], GraftOutcomeSql.lost(today: @today).as(:lost),
                           take.as(:take))
        told.from_self.order(Sequel.desc(:grafted_on), Sequel.desc(:id))
      end

      # Whether it ever took; NULL while nobody knows.
      def take = Sequel.case([[GraftOutcomeSql.took, true], [GraftOutcomeSql.lost(today: @today), false]], nil)

      def stub(row)
        take = row[:take]
        book = Core::Rulebook.shipped
        { **row.slice(:take, :tree, :sticks), lost_later: take && row[:lost],
          sticks_alive: row[:sticks_alive] && [row[:sticks_alive], row[:sticks]].min,
          method: book.book("methods").dig(row[:technique], "name"), species: row[:species], technique: row[:technique],
          variety: row[:variety], grafter: row[:grafter],
          season: @orchard.season.name_of(row[:grafted_on]),
          week: "from #{(row[:grafted_on] - row[:grafted_on].cwday + 1).strftime('%-d %b')}",
          stub: size(row[:stub_mm].to_f), wrap: wrap(row), wood: wood_age(row), weather: warmth(row[:grafted_on]) }
      end

      # What it was bound with; nil where its kind is tied.
      def wrap(row)
        book = Core::Rulebook.shipped
        return unless Core::Graft::GraftKind.finishes(row[:technique], rulebook: book).include?("wrap")

        book.book("schools").dig("points", "wrap", "choices", row[:wrap], "name")
      end

      def size(mm)
        edges = @orchard.rulebook.value("reckoning.take.stub_edges").fetch("from")
        low, high = [*edges, nil].each_cons(2).find { |from, to| mm >= from && (to.nil? || mm < to) }
        say = ->(edge) { Core::Measure.say(edge, @orchard.units) }
        high ? "#{say[low]} to #{say[high]}" : "#{say[low]} and over"
      end

      # How old its wood was on the day, where a bundle was logged.
      def wood_age(row)
        @cut ||= DB[:sticks].join(:bundles, id: :bundle_id).where(Sequel[:sticks][:orchard_id] => @orchard.id)
          .exclude(Sequel[:sticks][:graft_id] => nil).select_hash(Sequel[:sticks][:graft_id], :cut_on)
        cut = @cut[row[:id]] or return "not recorded"

        "#{[(row[:grafted_on] - cut).to_i / 30, 6].min} months"
      end

      def warmth(day)
        days, known, step = %w[early_days early_known warmth_step].map do |name|
          @orchard.rulebook.value("reckoning.take.#{name}")
        end
        means = (day...(day + days)).filter_map { |each| daily_means[each] }
        return "not recorded" if means.size < known

        low = (means.sum / means.size / step).floor * step
        between(low, low + step)
      end

      def daily_means
        @daily_means ||= @orchard.weather(@today).days(Date.new(2000, 1, 1))
          .to_h { |each| [each[:date], (each[:min_c] + each[:max_c]) / 2] }
      end

      def between(*ends)
        from, to = ends.map { |celsius| Core::Measure.say_warmth(celsius, @orchard.units) }
        "#{from[/\A\S+/]} to #{to}"
      end
    end
  end
end
