# frozen_string_literal: true

module Vestry
  module Records
    # An orchard's daily weather, as the reckonings take it. What lies after +today+ is not seen.
    class SiteWeather
      # A year with fewer days than this after the biofix, or with a long gap in so many, tells nothing of its spring.
      LEAST_DAYS = 120
      # How long after the biofix a spring is followed.
      SPRING_DAYS = 240

      # A row that no station can have measured, however it came to stand here, is passed over.
      BELIEVABLE = Core::Slip::DayOfWeather::RANGES.map do |name, range|
        Sequel.function(:coalesce, name, 0).then { |figure| (figure >= range.first) & (figure <= range.last) }
      end.reduce(Sequel[:min_c] <= Sequel[:max_c]) { |all, one| all & one }

      # Keeps days; one that was measured is never replaced by a forecast.
      #
      # @param rows [Array<Hash>] +day+, +min_c+, +max_c+, +rain_mm+, +gust_ms+, and +forecast+
      def self.keep(orchard, rows)
        kept = %i[min_c max_c rain_mm gust_ms forecast].to_h { |name| [name, Sequel[:excluded][name]] }
        newer = Sequel.|({ Sequel[:weather_days][:forecast] => true }, { Sequel[:excluded][:forecast] => false })
        rows.to_h { |row| [row[:day], row] }.values.each_slice(1000) do |slice|
          DB[:weather_days].insert_conflict(target: %i[orchard_id day], update: kept, update_where: newer)
            .multi_insert(slice.map { |row| { orchard_id: orchard.id, forecast: false, rain_mm: nil, gust_ms: nil }
              .merge(row) })
        end
      end

      # The last day before another for which weather was measured.
      def self.last_measured(orchard, before:)
        DB[:weather_days].where(orchard_id: orchard.id, forecast: false).where(Sequel[:day] < before).max(:day)
      end

      # @param today [Date]
      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end

      def any? = !known_to.nil?

      # The last day for which weather was measured; nil without any.
      def known_to
        @known_to ||= DB[:weather_days].where(orchard_id: @orchard.id, forecast: false).where(Sequel[:day] <= @today)
          .max(:day)
      end

      # @return [Array<Hash>] +date+, +min_c+, +max_c+, +rain_mm+, +gust_ms+, in order
      def days(from, to = @today)
        return read(from, to) unless @all_days

        first = @all_days.bsearch_index { |day| day[:date] >= from } || @all_days.size
        after = @all_days.bsearch_index { |day| day[:date] > to } || @all_days.size
        @all_days[first...after]
      end

      # Reads all of them in one question, for whoever asks for many stretches.
      #
      # @return [SiteWeather] itself
      def read_ahead = tap { all_days }

      def read(from, to)
        measured(from, to).order(:day).select_map(%i[day min_c max_c rain_mm gust_ms])
          .map do |day, min, max, rain, gust|
          { date: day, min_c: min, max_c: max, rain_mm: rain, gust_ms: gust }
        end
      end

      private :read

      # The same as grafts live through it.
      #
      # @return [Core::Tend::Climate]
      def climate(from)
        (@climates ||= {})[from] ||= climate_of(days(from), earlier: -> { all_days })
      end

      # Some days as unions live through them, at the pace at which callus was seen to knit here.
      #
      # @param days [Array<Hash>]
      # @param earlier [#call] the days of earlier years
      def climate_of(days, earlier:)
        Core::Tend::Climate.new(days, @orchard.own_callus(@today).rulebook, earlier: earlier)
      end

      # The same days of earlier years.
      #
      # @param many [Integer] days from a day on
      # @return [Array<Hash>]
      def earlier(from, many)
        (1..Core::Tend::Climate::YEARS_BACK).flat_map do |years|
          first = from << 12 * years
          read_ahead.days(first, first + many - 1)
        end
      end

      # Today and the ten days after it, as forecast; today as measured where it was.
      def forecast
        DB[:weather_days].where(orchard_id: @orchard.id, day: @today..(@today + 10)).where(BELIEVABLE).order(:day)
                         .select_map(%i[day min_c max_c rain_mm gust_ms]).map do |day, min, max, rain, gust|
                           { date: day, min_c: min, max_c: max, rain_mm: rain, gust_ms: gust }
                         end
      end

      # The strongest gust of an ordinary summer here: the middle of the last years' strongest.
      #
      # @return [Float, nil]
      def usual_gust
        years = DB[:weather_days].where(orchard_id: @orchard.id, forecast: false).where(BELIEVABLE)
          .exclude(gust_ms: nil).where(Sequel[:day] <= @today)
          .where(Sequel.extract(:month, :day) => @orchard.southern? ? [11, 12, 1, 2, 3] : [5, 6, 7, 8, 9])
          .select_group(Sequel.extract(:year, :day).as(:year))
          .select_append { max(:gust_ms).as(:most) }.map { |row| row[:most] }.sort
        years[years.size / 2]
      end

      # The gust that a summer's shoots must stand here; the rulebook's gale where none was measured.
      #
      # @return [Float]
      def gust_to_expect = usual_gust || @orchard.rulebook.value("care.figures.gale_ms").to_f

      # Degree-days from when warmth counts in its spring to a day; nil where little weather is kept for it.
      #
      # @param portions [Numeric] of chill that buds want first
      def gathered(base_c, day, portions)
        known = (@gathered ||= {})[[base_c, portions]] ||= {}
        known.fetch(day) { known[day] = gather(base_c, day, portions) }
      end

      # How much of the winter before a day buds have slept through by it, and since when it was enough.
      #
      # @return [Hash] +portions+ and +on+, the day from which warmth counts: the biofix, or the day by which they had
      #   slept enough where that is later; nil while they have not. Without a winter's weather it is the biofix
      def chill(portions, day)
        biofix = @orchard.season.bark_day(1, day)
        start = @orchard.season.year_start(day)
        return { portions: nil, on: biofix } unless mild?(start, biofix)

        winter = winter_of(start)
        slept = winter.take_while { |date, _| date <= day }
        enough = winter.find { |_, banked| Core::Near.at_least?(banked, portions) }&.first
        { portions: slept.last&.last || 0.0, on: enough && enough <= day ? [enough, biofix].max : nil }
      end

      # The middle of the dates on which something first came in past years.
      #
      # @yield [Array<Hash>] a working year's days, from the biofix on
      # @return [Date, nil] in the year after +from+
      def usual(from, &found)
        days = whole_years.filter_map(&found).map(&:yday).sort
        return nil if days.empty?

        [from.year, from.year + 1].map { |year| Date.new(year, 1, 1) + days[days.size / 2] - 1 }
          .find { |date| date >= from }
      end

      # Past years whole, each from its biofix on.
      def whole_years
        month = @orchard.southern? ? 8 : 2
        @whole_years ||= all_days.group_by { |each| (each[:date] << (month - 1)).year }.values.select do |year|
          year.size > 300
        end
      end

      # Past springs; the present one is left out.
      #
      # @return [PastSprings]
      def past
        @past ||= PastSprings.new(past_springs)
      end

      def years = past.years
      def usual_dd(base_c, month_day) = past.usual_dd(base_c, month_day)
      def reached(base_c, degree_days) = past.reached(base_c, degree_days)

      # Expected frost loss of a variety here, from its usual bloom and the past years: of its flowers, and of swelling
      # buds and fruitlets beside.
      #
      # @return [Hash, nil] see Core::Plan::FrostStages, with +base_c+, +from_dd+ and +to_dd+
      def frost(variety)
        unless variety.bloom_from && variety.bloom_to && years.any? && Core::Rulebook.shipped.species_names
          .include?(variety.species)
          return nil
        end

        base = @orchard.rulebook.value("species.#{variety.species}.slip_base")
        from, to = usual_dd(base, variety.bloom_from), usual_dd(base, variety.bloom_to)
        return nil unless from && to && to >= from

        @cold ||= years.map { |year| year.map { |each| each.slice(:date, :min_c, :max_c) } }
        Core::Plan::FrostStages.of(species: variety.species, base_c: base, from_dd: from, to_dd: to, history: @cold,
                                   rulebook: @orchard.rulebook).merge(base_c: base, from_dd: from, to_dd: to)
      end

      private

      # Whether a winter is known, and so mild that buds may not have slept enough by its end.
      def mild?(start, biofix)
        known = (@mild ||= {})
        known.fetch(start) do
          span = days(start, biofix - 1)
          mean = span.sum { |each| (each[:min_c] + each[:max_c]) / 2 } / [span.size, 1].max
          known[start] = span.size >= LEAST_WINTER && mean > @orchard.rulebook.value("reckoning.slip.cold_winter")
        end
      end

      # Each day of a winter with what was banked by it.
      def winter_of(start)
        (@winters ||= {})[start] ||= begin
          span = days(start, start + WINTER_DAYS)
          span.map { |each| each[:date] }.zip(Core::Slip::Chill.call(days: span)[:daily])
        end
      end
      # From the beginning of the working year on; with fewer days known before the biofix it says nothing.
      WINTER_DAYS, LEAST_WINTER = 200, 60
      private_constant :WINTER_DAYS, :LEAST_WINTER

      def gather(base_c, day, portions)
        from = chill(portions, day)[:on] || day
        spring = (@springs ||= {})[[base_c, from]] ||= begin
          span = Core::Slip::Gaps.filled(days(from, from + 299), @orchard.rulebook)
          sums = PastSprings.running(base_c, span)
          span.each_with_index.to_h { |each, i| [each[:date], [sums[i], i + 1]] }
        end
        sum, kept = spring[day]
        sum && kept >= ((day - from).to_i + 1) * 0.8 ? sum : nil
      end

      def measured(from, to)
        DB[:weather_days].where(orchard_id: @orchard.id, forecast: false, day: from..[to, @today].min).where(BELIEVABLE)
      end

      def all_days = @all_days ||= read(Date.new(1990, 1, 1), @today)

      # Each past spring's days from the biofix on, oldest first.
      def past_springs
        season = @orchard.season
        springs = all_days.group_by { |each| season.name_of(each[:date]) }
          .reject { |name, _| name >= season.name_of(@today) }.sort.map do |_, days|
          from = season.bark_day(1, days.first[:date])
          after = from + SPRING_DAYS
          [from, days.select { |each| each[:date] >= from && each[:date] < after }]
        end
        springs.filter_map { |from, days| whole_spring(from, days) }
      end

      # Its days, with short gaps filled; nil where too few are known, or too many in a row are not while bark opens.
      def whole_spring(from, days)
        return if days.size < LEAST_DAYS
        return if Core::Slip::Gaps.broken?(days.take_while { |day| day[:date] < from + LEAST_DAYS }, from,
                                           @orchard.rulebook)

        Core::Slip::Gaps.filled(days, @orchard.rulebook)
      end
    end
  end
end
