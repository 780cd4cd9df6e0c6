# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # The weather since grafts were made, read once for many of them: when callus knits, the first
      # heat, the last gale, a dry spell, a frost. Days without a figure are passed over.
      class Climate
        NONE = [].freeze

        # @param days [Array<Hash>] in any order, each +date+, +min_c+, +max_c+ and perhaps +rain_mm+ and +gust_ms+
        # @param earlier [#call] the days of earlier years, read when they are first asked for
        def initialize(days, rulebook, earlier: -> { NONE })
          @earlier = earlier
          @days = days.sort_by { |day| day[:date] }
          @dates = @days.map { |day| day[:date] }
          @rulebook = rulebook
          @units = {}
          @figures = Hash.new { |known, name| known[name] = rulebook.value("care.figures.#{name}") }
        end

        def any? = @days.any?

        # The day a union's callus has knit: by the temperatures since it was made, where they are not in yet carried on
        # by those of the same days of earlier years, or at the pace of the last fortnight where there are none; and by
        # the calendar where none is known, or too many days in a row are not.
        #
        # @param offset_c [Float] what a cover adds
        # @return [Hash] +on+, +basis+ (temperature, temperature-so-far, calendar), +share+ of the way (nil by calendar)
        def knit(species, made_on, today, offset_c: 0.0)
          by_temperature(species, made_on, today, offset_c) ||
            { on: made_on + @rulebook.value("species.#{species}.knit_days"), basis: "calendar", share: nil }
        end

        # Between which days it is likely to have knit: where the union was somewhat warmer than the air, or colder, and
        # had less to do, or more.
        #
        # @return [Array(Date, Date)]
        def knit_span(species, made_on, today, offset_c: 0.0)
          degrees, share = %w[knit_degrees knit_share].map { |figure| @rulebook.value("care.figures.#{figure}") }
          warm, cold = [[degrees, 1 - share], [-degrees, 1 + share]].map do |more, times|
            by_temperature(species, made_on, today, offset_c + more, times)&.fetch(:on)
          end
          days = @rulebook.value("species.#{species}.knit_days")
          [warm || made_on + (days * (1 - share)).round, cold || made_on + (days * (1 + share)).round].minmax
        end

        # The first day from +from+ on that was at least so hot.
        def heat(from, today) = first("hot", from, today) { |day| day[:max_c] && day[:max_c] >= @figures["hot_c"] }

        # The last day up to today with such a gust.
        #
        # @param within [Integer] days back from today
        def gale(from, today, within:)
          last("gale", [from, today - within].max, today) do |day|
            day[:gust_ms] && day[:gust_ms] >= @figures["gale_ms"]
          end
        end

        # The last frost hard enough to kill soft growth.
        #
        # @yieldparam date [Date]
        # @yieldreturn [Boolean] whether there was soft growth on that day; without a block there was on all of them
        def frost(from, today, within:, &soft)
          found = between("frost", [from, today - within].max, today) do |day|
            day[:min_c] && day[:min_c] <= @figures["frost_c"]
          end
          soft ? found.reverse_each.find(&soft) : found.last
        end

        # The day on which it had been dry for too long, where it still is: the days before it, taken
        # together, brought less rain than wets the roots; +from+ where it was dry already then. nil where it is not, or
        # rain is not known.
        def dry(from, today)
          return nil unless rain_known?

          ends = (@dates.bsearch_index { |date| date > today } || @dates.size) - 1
          span = @figures["dry_days"].to_i
          first = ends
          first -= 1 while first >= span - 1 && parched?(first, span)
          start = first + 1
          start <= ends && @dates[ends] >= from ? [@dates[start], from].max : nil
        end

        private

        def rain_known? = @rain_known ||= @days.any? { |day| day[:rain_mm] }

        def parched?(index, span) = !Near.at_least?(rain[index + 1] - rain[index + 1 - span], @figures["wet_mm"])
        def rain = @rain ||= @days.each_with_object([0.0]) { |day, sums| sums << sums.last + (day[:rain_mm] || 0) }

        # Indices of marked days are found once, and then looked up.
        def marked(name, &test) = (@marked ||= {})[name] ||= @days.select(&test).map { |day| day[:date] }

        def first(name, from, today, &test)
          dates = marked(name, &test)
          found = dates.bsearch { |date| date >= from }
          found if found && found <= today
        end

        def last(name, from, today, &test) = between(name, from, today, &test).last

        def between(name, from, today, &test)
          dates = marked(name, &test)
          first = dates.bsearch_index { |date| date >= from } || dates.size
          after = dates.bsearch_index { |date| date > today } || dates.size
          dates[first...after] || NONE
        end

        def by_temperature(species, made_on, today, offset, times = 1)
          span = places(made_on, today) or return nil
          units = units(species, offset)
          wanted = @rulebook.value("species.#{species}.callus_units") * times
          upto, gathered = gather(made_on, span, wanted, units)
          return if Slip::Gaps.broken?(whole_days[span.begin..upto], made_on, @rulebook)

          on = whole_days[upto][:date]
          return { on: on, basis: "temperature", share: 1.0 } if Near.at_least?(gathered, wanted)

          on = carried_on(on, wanted - gathered, pace(units, span), usual_units(species, offset))
          on && { on: on, basis: "temperature-so-far", share: gathered / wanted }
        end

        # Where so many units were gathered, or the last day there is, and how many were by then.
        #
        # @return [Array(Integer, Float)]
        def gather(made_on, span, wanted, units)
          # The first day that is known stands for those before it.
          gathered = units[span.begin] * (whole_days[span.begin][:date] - made_on).to_i
          at = span.find { |i| Near.at_least?(gathered += units[i], wanted) }
          [at || span.end - 1, gathered]
        end

        # Days with the short gaps between them filled: a union knits on over them.
        def whole_days = @whole_days ||= Slip::Gaps.filled(@days, @rulebook)

        # Where the days from one to another stand among those; nil where there are none.
        def places(from, upto)
          first = whole_days.bsearch_index { |day| day[:date] >= from } or return nil
          after = whole_days.bsearch_index { |day| day[:date] > upto } || whole_days.size
          first...after if first < after
        end

        # Of the latest days.
        def pace(units, span)
          recent = ([span.end - @figures["recent_days"], span.begin].max...span.end)
          recent.sum { |i| units[i] } / recent.size
        end

        # So many days are looked ahead.
        LOOKED_AHEAD = 400
        private_constant :LOOKED_AHEAD

        # @param usual [Hash{Date=>Float}, nil] of days to come; where a day is in no earlier year, +pace+ stands for it
        # @return [Date, nil] when so many units more are gathered
        def carried_on(from, wanted, pace, usual)
          return pace.positive? ? from + Near.ceil(wanted / pace) : nil unless usual

          (1..LOOKED_AHEAD).each do |days|
            wanted -= usual[from + days] || pace
            return from + days if wanted <= Near::TOLERANCE
          end
          nil
        end

        # Years back that say what a day is like.
        YEARS_BACK = 12

        # What the same day of earlier years gave on the average, reckoned when first asked for; nil without any.
        def usual_units(species, offset)
          return if earlier_days.empty?

          limits = limits(species)
          (@usual_units ||= {})[[limits, offset]] ||= Hash.new do |known, date|
            same = (1..YEARS_BACK).filter_map { |years| earlier_days[date << 12 * years] }
            known[date] = same.any? ? same.sum { |day| Slip::Callus.of_day(day, limits, offset) } / same.size : nil
          end
        end

        def earlier_days = @earlier_days ||= @earlier.call.to_h { |day| [day[:date], day] }
        def limits(species) = @rulebook.value("species.#{species}.callus_limits").map(&:to_f)

        # Callus units of each day by its place, reckoned when first asked for.
        def units(species, offset)
          limits = limits(species)
          @units[[limits, offset]] ||= Hash.new do |known, i|
            known[i] = Slip::Callus.of_day(whole_days[i], limits, offset)
          end
        end
      end
    end
  end
end
