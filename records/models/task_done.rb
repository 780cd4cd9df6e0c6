# frozen_string_literal: true

module Vestry
  module Records
    # What a person did or waived about a reckoned task.
    class TaskDone < Sequel::Model(DB[:tasks_done])
      include Row
      many_to_one :graft
      many_to_one :wound

      # The word on a task of a graft or a wound.
      #
      # @param owner [Hash] the column that names it, and its number
      def self.settled(owner, key) = in_sight.first(owner.merge(key: key))
    end
  end
end
