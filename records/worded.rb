# frozen_string_literal: true

module Vestry
  module Records
    # Questions that every page asks: to word one costs as much as to ask it, so each is worded once.
    module Worded
      KEPT = Kept.new(2048)

      module_function

      # @param facts [Array] what question it is, and everything it is worded from
      # @yieldreturn [Sequel::Dataset]
      # @return [Sequel::Dataset] of plain rows
      def ask(*facts, &question) = KEPT.fetch(facts) { worded(question.call.naked) }

      # The same, of the rows' own kind.
      def rows(*facts, &question) = KEPT.fetch(facts) { worded(question.call) }

      def worded(set) = set.with_sql(set.sql.freeze)
      private_class_method :worded
    end
  end
end
