# frozen_string_literal: true

module Vestry
  module Records
    # Rows that many may look at and none may change: what they were read with is theirs for good.
    module Still
      module_function

      # Rows of which those alone are read that are not known as they are now.
      #
      # @param kept [Kept]
      # @param marks [Array<Array>] the id of each, and what it is known by
      # @yieldparam ids [Array<Integer>] of those that are read
      # @yieldreturn [Array<Sequel::Model>]
      # @return [Array<Sequel::Model>] in the order of the marks, without those that are gone
      def known(kept, marks)
        kept.many(marks) do |wanted|
          read = all(yield(wanted.map(&:first))).to_h { |row| [row.id, row] }
          wanted.to_h { |mark| [mark, read[mark.first]] }
        end.values.compact
      end

      # As any object freezes: a row's own way words a question for each, to write it by.
      FREEZE = Kernel.instance_method(:freeze)
      private_constant :FREEZE

      # @param rows [Array<Sequel::Model>] with what was read beside them
      # @return [Array<Sequel::Model>] frozen, and all that hangs on them
      def all(rows)
        met = {}.compare_by_identity
        waiting = rows.dup
        while (row = waiting.pop)
          next if met[row] || row.frozen?

          met[row] = true
          row.associations.each_value do |beside|
            beside.is_a?(Array) ? waiting.concat(beside.freeze) : (waiting << beside if beside)
          end
        end
        met.each_key do |each|
          each.make_room if each.is_a?(Beside)
          [each.values, each.associations].each(&:freeze)
          FREEZE.bind_call(each)
        end
        rows.freeze
      end
    end
  end
end
