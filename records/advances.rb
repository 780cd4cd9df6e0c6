# frozen_string_literal: true

module Vestry
  module Records
    # Rows of work that goes from state to state, with more than one who may move it on.
    module Advances
      # Moves on from a state, where it is still in it: asked twice, it goes once.
      #
      # @param from [String, Array<String>]
      # @return [Boolean] whether it went
      def advance(from, **columns) = self.class.where(id: id, state: from).update(columns) == 1

      # It came to its end, well or badly, whatever it was at.
      def finish(state, **columns)
        self.class.where(id: id).update(state: state, finished_at: Time.now.utc, **columns)
      end

      # It broke off.
      #
      # @param error [StandardError]
      def fail_with(error, most: 500, **columns)
        finish("failed", trouble: error.message.lines.first.to_s[0, most], **columns)
      end

      # Writes something of it, and does not wait where someone holds the row.
      def update_unless_held(columns)
        free = self.class.where(id: id).select(:id).for_update.skip_locked
        self.class.where(id: free).update(columns)
      end
    end
  end
end
