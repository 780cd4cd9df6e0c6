# frozen_string_literal: true

module Vestry
  module Records
    # One scion of a bridge, or one young stock inarched: where it goes, and since when it is there.
    class BridgeScion < Sequel::Model(DB[:bridge_scions])
      include Row
      many_to_one :orchard
      many_to_one :wound
      many_to_one :bundle
    end
  end
end
