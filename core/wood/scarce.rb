# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # Where few sticks do most.
      module Scarce
        extend Reckoning

        # Additions that differ by less are alike, and go in the order of the stubs.
        ALIKE = 1e-12

        contract "scarce", "Where few sticks do most: how many each stub gets" do
          list :stubs, unique: :id, help: "in the order in which equals are served" do
            key :id
            number :worth, least: 0, help: "of the stub: its share of the head, or what it is wanted for"
            number :take, least: 0, most: 1, help: "share of single sticks that take"
            integer :most_sticks, least: 0, most: 12, help: "it has room for"
          end
          integer :sticks, least: 0, most: 100_000, help: "there are"
        end

        # Maximises the sum of worth x (1 - (1 - take)^k). Each further stick on a stub adds less than the one before,
        # so that the greatest addition next, one by one, is the best that can be done.
        #
        # @return [Hash] +stubs+, each +id+ and +sticks+; +used+; +expected+, the sum that is reached; and +without+,
        #   ids of those that could take a stick and get none
        def self.call(stubs:, sticks:, rulebook: nil)
          given = additions(stubs).first(sticks).map(&:last).tally
          served = stubs.each_with_index.map { |stub, place| [stub, given.fetch(place, 0)] }
          { stubs: served.map { |stub, count| { id: stub[:id], sticks: count } }, used: given.values.sum,
            expected: served.sum(0.0) { |stub, count| worth(stub, count) },
            without: served.select { |stub, count| count.zero? && stub[:most_sticks].positive? }
              .map { |stub, _| stub[:id] } }
        end

        def self.worth(stub, count) = stub[:worth] * (1 - (1 - stub[:take])**count)

        # What every stick on every stub adds, greatest first.
        def self.additions(stubs)
          stubs.each_with_index.flat_map do |stub, place|
            Array.new(stub[:most_sticks]) do |before|
              [-(stub[:worth] * stub[:take] * (1 - stub[:take])**before / ALIKE).round, place]
            end
          end.select { |worth, _| worth.negative? }.sort
        end
        private_class_method :worth, :additions
      end
    end
  end
end
