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
        end

        # Each reading holds until the next; they are taken in order of time. Equivalent days at
        # 1 °C: the sum of days x 2.5^((T - 1) / 10), by the usual doubling and a half of breathing
        # for every ten degrees. Warm degree-hours count above 4.5 °C. Life left is the lesser of
        # what age and warmth leave: 1 - equivalent / 180, 1 - warm / 3000.
        #
        # @return [Hash] +equivalent_days+, +life_left_share+ (0..1), +warm_degree_hours+, +frozen+
        #   (any reading below -2 °C), +longest_gap_hours+ and +reasons+
        def self.call(readings:, rulebook: Rulebook.shipped)
          book = ->(key) { rulebook.value("reckoning.storage.#{key}") }
          ordered = in_order(readings)
          q10, at_c, warm_c, frozen_c = %w[q10 at_c warm_c frozen_c].map(&book)
          equivalent = warm = gap = 0.0
          ordered.each_cons(2) do |one, after|
            hours = (after[:at] - one[:at]) / 3600.0
            over = one[:celsius] - warm_c
            equivalent += hours / 24 * q10**((one[:celsius] - at_c) / 10.0)
            warm += hours * over if over.positive?
            gap = hours if hours > gap
          end
          left = [0.0, [1 - equivalent / book["life_days"], 1 - warm / book["life_warm"]].min].max
          frozen = ordered.any? { |each| each[:celsius] < frozen_c }
          { equivalent_days: equivalent, life_left_share: left, warm_degree_hours: warm, frozen: frozen,
            longest_gap_hours: gap, reasons: reasons(left, warm, frozen, gap, ordered, book) }
        end

        # As a thermometer tells them they are in order already.
        def self.in_order(readings)
          return readings if readings.each_cons(2).all? { |one, after| one[:at] <= after[:at] }

          readings.each_with_index.sort_by { |each, place| [each[:at], place] }.map(&:first)
        end

        def self.reasons(left, warm, frozen, gap, ordered, book)
          found = []
          found << { code: "storage_frozen", celsius: ordered.map { |each| each[:celsius] }.min } if frozen
          found << { code: "storage_spent" } if left <= Near::TOLERANCE
          found << { code: "storage_use_first", left: left } if left > Near::TOLERANCE && left < book["use_first"]
          if ordered.any? && ordered.last[:celsius] > book["warm_c"]
            found << { code: "storage_too_warm", celsius: ordered.last[:celsius] }
          end
          found << { code: "storage_was_warm", hours: warm } if warm.positive? && found.empty?
          found << { code: "storage_gap", hours: gap } if gap > book["gap_hours"]
          found
        end
        private_class_method :reasons, :in_order
      end
    end
  end
end
