# frozen_string_literal: true

module Vestry
  module Records
    # How often grafts took in this orchard, by kind of stock and method, weighed with the rulebook's
    # first figures. Methods of one kin count together.
    class OwnSuccess
      # The latest so many stubs: far more than the first figures weigh.
      MOST = 600

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @book = orchard.rulebook
      end

      # @param hand [String, nil] the name of who took it on; a new hand is judged by itself
      # @return [Hash] +stick+: the chance that a single stick takes; +takes+ and +trials+ in stubs
      def of(species, technique, hand: nil)
        return new_hand(hand, species, technique) if hand && hand(hand).beginner?

        (@of ||= {})[[species, technique]] ||= reckoned(species, technique)
      end

      # What was counted on a kind of stock, method by method, as the ranking takes it.
      def by_method(species)
        @by_method ||= {}
        @by_method[species] ||= @book.stub_methods.map do |method|
          { method: method, **counted(species) { |technique| technique == method } }
        end.select { |each| each[:trials].positive? }
      end

      # Stubs of which it is known whether they took, whatever became of them later.
      #
      # @return [Array<Hash>] +species+, +technique+, +takes+, +trials+, +sticks+
      def record
        @record ||= Derived.fetch(@orchard, "own success", @today, from: FROM) do |orchard|
          Outcomes.new(orchard, @today, most: MOST).counted
        end
      end

      # What the record follows from, besides its orchard and day.
      FROM = %w[trees limbs grafts observations tallies].freeze
      private_constant :FROM

      private

      def hand(name) = (@hands ||= {})[name] ||= OwnHand.new(@orchard, name, @today)

      def new_hand(name, species, technique)
        { stick: hand(name).expected(species, technique), takes: hand(name).record[:took], trials: hand(name).trials }
      end

      def reckoned(species, technique)
        first = technique ? Core::Plan::Methods.expected_take(species, technique, @book) :
          @book.value("species.#{species}.take")
        counted = counted(species) { |other| technique.nil? || kin(other) == kin(technique) }
        { stick: Core::Tally::Take.of_stick(first, **counted, rulebook: @book), **counted.slice(:takes, :trials) }
      end

      def kin(technique) = @book.method_fact(technique, "kin")

      # @yieldparam technique [String] whether stubs made by it are counted
      def counted(species)
        found = record.select { |row| row[:species] == species && yield(row[:technique]) }
        trials = found.sum { |row| row[:trials] }
        { takes: found.sum { |row| row[:takes] }, trials: trials,
          sticks: trials.zero? ? 1.0 : found.sum { |row| row[:sticks] } / trials.to_f }
      end
    end
  end
end
