# frozen_string_literal: true

module Vestry
  module Core
    # How far an orchard may go with each number of the rulebook. An entry's own +range+ stands first; else the
    # range of its unit; else within twenty times of what ships, so that a slipped digit or unit is caught.
    module RulebookRanges
      TIMES = 20
      # Units whose numbers have natural ends, by how the unit begins.
      UNITS = {
        "share" => [0, 1], "likelihood" => [0, 1], "weight" => [0, 1], "per cent" => [0, 100], "degrees" => [0, 90],
        "°C" => [-40, 60], "days" => [0, 400], "day of the working year" => [0, 365], "weeks" => [0, 520],
        "hours" => [0, 168], "minutes" => [0, 600], "m/s" => [0.5, 60], "observations" => [0, 100],
        "points" => [-10, 10], "times" => [1, 20], "limbs" => [1, 50], "sticks" => [1, 12], "seasons" => [0, 20],
        "people" => [1, 50], "reasons" => [1, 10], "of the stock" => [0.05, 3]
      }.freeze

      module_function

      # @param entry [Rulebook::Entry] as it ships
      # @param own [Array(Numeric, Numeric), nil] what the book says itself
      # @return [Array(Numeric, Numeric), nil] the least and the most; nil for what is no number
      def of(entry, own)
        numbers = Array(entry.value).grep(Numeric)
        return nil if numbers.empty? || entry.value.is_a?(Hash)
        return own if own

        by_unit = UNITS.find { |begins, _| entry.unit.to_s.start_with?(begins) }&.last
        least, most = by_unit || [numbers.min / TIMES.to_f, numbers.max * TIMES]
        [[least, *numbers].min, [most, *numbers].max]
      end
    end
  end
end
