# frozen_string_literal: true

module Vestry
  module Deeds
    # Corrects what a limb measures, keeping what it corrected.
    module MeasureLimb
      # @param values [Hash] columns of a limb
      # @return [Records::Limb]
      def self.call(limb, values, by:, version: nil, why: nil)
        Ledger.change(limb, values, by: by, version: version, why: why)
      end
    end
  end
end
