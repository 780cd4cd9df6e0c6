# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # How much of its life stored wood has used up, from the temperatures it lay at.
      module Storage
        extend Reckoning

        contract "storage", "How stored wood has aged, from the thermometer beside it" do
          list :readings, longest: 20_000 do
            time :at
            number :celsius, unit: "°C", least: -100
          end
          number :life_days, unit: "days", above: 0, most: 5000, optional: true, help: "of such wood at 1 °C"
          time :starts_at, optional: true, help: "when it was cut: until its first reading it is taken to have lain " \
                                                 "just above freezing"
          time :ends_at, optional: true, help: "until when it lay there: past the last reading it is taken to have " \
                                               "stayed as it was in the week before"
        end

        # Between two readings the temperature goes in a straight line; they are taken in order of time. Equivalent days
        # at 1 °C: the integral of g = 2.5^((T - 1) / 10), by the usual doubling and a half of breathing for every ten
        # degrees. Warm degree-hours: the integral of what lies above 4.5 °C. It ages, and warmth wakes it: life left is
        # 1 - equivalent / life - warm / 3000.
        #
        # A thermometer that fell silent more than a day before +ends_at+ does not keep wood young: from its last
        # reading on the wood is taken to have lain at the mean of the week before. What was cut more than a day before
        # its first reading is taken to have lain at 1 °C until then.
        #
        # @return [Hash] +equivalent_days+, +life_left_share+ (0..1), +warm_degree_hours+, +frozen+
        #   (any reading below -2 °C), +gaps+ (+from+, +to+ and +hours+ of stretches without a reading), +silent_hours+
        #   since the last one, +unmeasured_hours+ before the first, and +reasons+
        def self.call(readings:, life_days: nil, starts_at: nil, ends_at: nil, rulebook: Rulebook.shipped)
          book = ->(key) { rulebook.value("reckoning.storage.#{key}") }
          ordered = in_order(readings)
          before, silence = before(ordered, starts_at, book), silence(ordered, ends_at, book)
          equivalent, warm = used(before + ordered + silence, book)
          left = left(equivalent, warm, life_days || book["life_days"], book)
          { equivalent_days: equivalent, life_left_share: left, warm_degree_hours: warm,
            **found(ordered, left, warm, book), silent_hours: hours(silence), unmeasured_hours: hours(before) }
            .tap { |told| told[:reasons] += silent(silence) + unmeasured(before) }
        end

        # What its thermometer saw besides, and what there is to say of it.
        def self.found(ordered, left, warm, book)
          frozen, gaps = ordered.any? { |each| each[:celsius] < book["frozen_c"] }, gaps(ordered, book["gap_hours"])
          { frozen: frozen, gaps: gaps, longest_gap_hours: gaps.map { |gap| gap[:hours] }.max || 0.0,
            reasons: reasons(left, warm, frozen, gaps, ordered, book) }
        end

        def self.left(equivalent, warm, life_days, book)
          [0.0, 1 - equivalent / life_days - warm / book["life_warm"]].max
        end

        # Two readings that nobody took, from the cut to the first one.
        def self.before(ordered, starts_at, book)
          first = ordered.first
          return [] unless first && starts_at && (first[:at] - starts_at) / 3600.0 > book["gap_hours"] + Near::TOLERANCE

          [starts_at, first[:at]].map { |at| { at: at, celsius: book["at_c"] } }
        end

        # Two readings that nobody took, at the two ends of a silence; none without one.
        def self.silence(ordered, ends_at, book)
          last = ordered.last
          return [] unless last && ends_at && (ends_at - last[:at]) / 3600.0 > book["gap_hours"] + Near::TOLERANCE

          week = ordered.select { |each| each[:at] >= last[:at] - book["silence_days"] * 86_400 }
          mean = mean_of(week)
          [{ at: last[:at], celsius: mean }, { at: ends_at, celsius: mean }]
        end

        def self.hours(silence) = silence.empty? ? 0.0 : (silence.last[:at] - silence.first[:at]) / 3600.0

        def self.silent(silence)
          return [] if silence.empty?

          [{ code: "storage_silent", hours: hours(silence), celsius: silence.first[:celsius] }]
        end

        def self.unmeasured(before) = before.empty? ? [] : [{ code: "storage_unmeasured", hours: hours(before) }]

        # Over time, in a straight line from one reading to the next.
        def self.mean_of(readings)
          spans = readings.each_cons(2).map do |one, after|
            [after[:at] - one[:at], (one[:celsius] + after[:celsius]) / 2.0]
          end
          all = spans.sum(&:first)
          all.positive? ? spans.sum { |seconds, celsius| seconds * celsius } / all : readings.last[:celsius].to_f
        end

        # Days at 1 °C and degree-hours of warmth over all stretches.
        def self.used(ordered, book)
          q10, at_c, warm_c = %w[q10 at_c warm_c].map(&book)
          steep = Math.log(q10) / 10
          equivalent = warm = 0.0
          ordered.each_cons(2) do |one, after|
            hours = (after[:at] - one[:at]) / 3600.0
            from, to = one[:celsius], after[:celsius]
            equivalent += hours / 24 * breathed(from - at_c, to - at_c, steep)
            warm += hours * above(from - warm_c, to - warm_c)
          end
          [equivalent, warm]
        end

        # The mean of e^(steep x T) while T goes straight from one to the other.
        def self.breathed(from, to, steep)
          first, last = Math.exp(steep * from), Math.exp(steep * to)
          (to - from).abs < 1e-6 ? (first + last) / 2 : (last - first) / (steep * (to - from))
        end

        # The mean of what lies above nothing while it goes straight from one to the other.
        def self.above(from, to)
          low, high = [from, to].minmax
          return 0.0 if high <= 0

          low >= 0 ? (low + high) / 2 : high**2 / (2 * (high - low))
        end

        # Where the thermometer was silent for too long: stretches that follow on each other are one.
        def self.gaps(ordered, most)
          silent = ordered.each_cons(2).map { |one, after| [one[:at], after[:at]] }
            .select { |from, to| (to - from) / 3600.0 > most + Near::TOLERANCE }
          silent.slice_when { |one, after| one[1] != after[0] }.map do |run|
            from, to = run.first[0], run.last[1]
            { from: from, to: to, hours: (to - from) / 3600.0 }
          end
        end

        # As a thermometer tells them they are in order already.
        def self.in_order(readings)
          return readings if readings.each_cons(2).all? { |one, after| one[:at] <= after[:at] }

          readings.each_with_index.sort_by { |each, place| [each[:at], place] }.map(&:first)
        end

        def self.reasons(left, warm, frozen, gaps, ordered, book)
          found = [({ code: "storage_frozen", celsius: ordered.map { |each| each[:celsius] }.min } if frozen),
                   spent(left, book["use_first"]),
                   (too_warm(ordered.last, book["warm_c"]) if ordered.any?)].compact
          found << { code: "storage_was_warm", hours: warm } if warm.positive? && found.empty?
          found << { code: "storage_gap", hours: gaps.map { |gap| gap[:hours] }.max } if gaps.any?
          found
        end

        def self.spent(left, use_first)
          return { code: "storage_spent" } if left <= Near::TOLERANCE

          { code: "storage_use_first", left: left } if left < use_first
        end

        def self.too_warm(last, warm_c)
          { code: "storage_too_warm", celsius: last[:celsius] } if last[:celsius] > warm_c
        end
        private_class_method :before, :found, :unmeasured, :silence, :left, :hours, :silent, :mean_of, :reasons, :spent,
                             :too_warm, :in_order, :used, :breathed, :above, :gaps
      end
    end
  end
end
