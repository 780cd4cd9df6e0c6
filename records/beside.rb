# frozen_string_literal: true

module Vestry
  module Records
    # Beside a row that stays as it was read: what is worked out of it, once while that follows from the same.
    module Beside
      # Makes room for it, before the row is frozen (see Still).
      def make_room = @worked_out = {}

      # @param what [Symbol]
      # @param mark [Object] everything it follows from besides the row
      # @yieldreturn what follows; it is not kept for a row that may still change
      def worked_out(what, mark)
        return yield unless @worked_out

        known = @worked_out[what]
        known = @worked_out[what] = [mark, yield].freeze unless known && known.first == mark
        known.last
      end
    end
  end
end
