# frozen_string_literal: true

module Vestry
  module Records
    # The number of a row, as an address or a form names it.
    module RowNumber
      MOST = 2_147_483_647

      # @param typed [Object] whatever came
      # @return [Integer] 0, which no row has, where it is no number of one
      def self.read(typed)
        (typed.is_a?(Integer) || typed.is_a?(String) ? Core::Values.whole(typed).to_i : 0).clamp(0, MOST)
      end
    end
  end
end
