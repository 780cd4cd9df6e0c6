# frozen_string_literal: true

module Vestry
  module Records
    # One plan laid over many trees, and what it came to on each.
    class Pattern < Sequel::Model(DB[:patterns])
      many_to_one :orchard

      def over? = %w[done failed].include?(state)
      def outcomes = outcome.to_a
    end
  end
end
