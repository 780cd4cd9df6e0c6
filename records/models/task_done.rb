# frozen_string_literal: true

module Vestry
  module Records
    # What a person did or waived about a reckoned task.
    class TaskDone < Sequel::Model(DB[:tasks_done])
      include Row
      many_to_one :graft
      many_to_one :wound

      # What tasks of stripped trunks were called before.
      RENAMED = { "whitewash" => "whitewash-trunk" }.freeze

      # Gives rows that were kept under an earlier name the name of now.
      #
      # @param rows [Sequel::Dataset] of tasks done
      def self.rename(rows)
        RENAMED.each { |was, now| rows.where(key: was).exclude(wound_id: nil).update(key: now) }
      end

      # The word on a task of a graft or a wound.
      #
      # @param owner [Hash] the column that names it, and its number
      def self.settled(owner, key) = in_sight.first(owner.merge(key: key))
    end
  end
end
