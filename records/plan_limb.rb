# frozen_string_literal: true

module Vestry
  module Records
    # What was decided for one limb: its role, and if it is worked, where and how.
    class PlanLimb < Sequel::Model(DB[:plan_limbs])
      include Row
      ROLES = %w[work later backup nurse renew lift].freeze
      many_to_one :plan
      many_to_one :limb
      many_to_one :variety

      # Whether everything the grafting day needs has been chosen.
      def complete? = !(cut_mm.nil? || technique.nil? || variety_id.nil? || sticks.nil?)

      # Makes room beside a row that stays as it was read for what is worked out of it.
      def open = @worked_out = {}

      # What is worked out of it, once while that follows from the same.
      #
      # @param what [Symbol]
      # @param mark [Object] everything it follows from besides the row
      def worked_out(what, mark)
        return yield unless @worked_out

        known = @worked_out[what]
        known = @worked_out[what] = [mark, yield].freeze unless known && known.first == mark
        known.last
      end
    end
  end
end
