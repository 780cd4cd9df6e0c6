# frozen_string_literal: true

module Vestry
  module Deeds
    # Says how far long work is: from a connection of its own, since what the work writes is not seen
    # before it ends; and never waiting for a row that is held.
    class Progress
      # Seconds between one word and the next.
      EVERY = 0.5

      # @param row [Sequel::Model] where it is kept
      def initialize(row)
        @row = row
      end

      def tell(**columns)
        now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        return if @told && now - @told < EVERY

        @told = now
        Thread.new { @row.update_unless_held(columns) }.join
      end
    end
  end
end
