# frozen_string_literal: true

module Vestry
  module Records
    # How often grafts took in this orchard, weighed with the rulebook's first figures.
    class OwnSuccess
      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @book = orchard.rulebook
      end

      # @return [Hash] +stick+: the chance that a single stick takes; +takes+ and +trials+ in stubs
      def of(species, technique)
        kin = technique ? @book.book("methods").dig(technique, "kin") : nil
        first = technique ? Core::Plan::Methods.expected_take(species, technique, @book) : @book.value("species.#{species}.take")
        found = record.select { |each| each[:species] == species && (kin.nil? || each[:kin] == kin) }
        return { stick: first, takes: 0, trials: 0 } if found.empty?

        # What was counted are stubs: a stub takes when one of its sticks does.
        sticks = found.sum { |each| each[:sticks] } / found.size.to_f
        takes = found.count { |each| each[:took] }
        stub = Core::Tally::Take.reckon({ takes: takes, trials: found.size, prior_mean: 1 - (1 - first)**sticks, prior_strength: @book.value("reckoning.take.prior_strength") })[:expected]
        { stick: 1 - (1 - stub)**(1 / sticks), takes: takes, trials: found.size }
      end

      private

      # Stubs about which it is known whether they took, whatever became of them later.
      def record
        @record ||= Outcomes.new(@orchard, @today).stubs.map { |row| { species: row[:species], kin: @book.book("methods").dig(row[:technique], "kin"), sticks: row[:sticks], took: row[:take] } }
      end
    end
  end
end
