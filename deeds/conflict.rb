# frozen_string_literal: true

module Vestry
  module Deeds
    # Someone else changed the same row in the meantime.
    class Conflict < Refused
      attr_reader :row, :mine

      # @param row [Sequel::Model] as it stands now
      # @param mine [Hash] the values that were about to be written
      # @param fields [Array<Symbol>] where the two differ
      def initialize(row, mine, fields)
        @row = row
        @mine = mine
        super((fields - [:thickness_typed, :length_typed]).to_h { |field| [field,
          ["changed meanwhile to #{shown(row[field])}; yours was #{shown(mine[field])}. Save again to keep yours."]] })
      end

      private

      def shown(value)
        case value
        when nil then "nothing"
        when Numeric then value.to_f.to_s.delete_suffix(".0")
        else value.respond_to?(:to_ary) ? value.to_ary.map(&:to_f).join(", ") : "“#{value}”"
        end
      end
    end
  end
end
