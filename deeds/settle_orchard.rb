# frozen_string_literal: true

module Vestry
  module Deeds
    # Changes where an orchard lies and how it works.
    module SettleOrchard
      def self.call(orchard, values, by:, version: nil) = Ledger.change(orchard, values, by: by, version: version)
    end
  end
end
