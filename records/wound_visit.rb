# frozen_string_literal: true

module Vestry
  module Records
    # A look at a wounded trunk: its leaves, and each scion's fate.
    class WoundVisit < Sequel::Model(DB[:wound_visits])
      include Row
      many_to_one :wound

      # @return [Hash{Integer=>Hash}] +fate+ and +thickness_mm+ by scion
      def fates = @fates ||= DB[:scion_fates].where(orchard_id: orchard_id, visit_id: id).as_hash(:scion_id)
    end
  end
end
