# frozen_string_literal: true

module Vestry
  module Records
    # Questions that every page asks: to word one costs as much as to ask it, so each is worded once.
    module Worded
      KEPT = Kept.new(1024)

      # @param facts [Array] what question it is, and everything it is worded from
      # @yieldreturn [Sequel::Dataset]
      # @return [Sequel::Dataset]
      def self.ask(*facts) = DB.fetch(KEPT.fetch(facts) { yield.sql.freeze })
    end
  end
end
