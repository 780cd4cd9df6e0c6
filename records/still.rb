# frozen_string_literal: true

module Vestry
  module Records
    # Rows that many may look at and none may change: what they were read with is theirs for good.
    module Still
      module_function

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
          row.associations.each_value { |beside| beside.is_a?(Array) ? waiting.concat(beside.freeze) : (waiting << beside if beside) }
        end
        met.each_key do |row|
          [row.values, row.associations].each(&:freeze)
          FREEZE.bind_call(row)
        end
        rows.freeze
      end
    end
  end
end
