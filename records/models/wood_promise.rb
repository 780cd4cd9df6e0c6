# frozen_string_literal: true

module Vestry
  module Records
    # Sticks of a variety that are promised for a season: to be cut here, or to come from elsewhere.
    class WoodPromise < Sequel::Model(DB[:wood_promises])
      include Row
      many_to_one :orchard
      many_to_one :variety
    end
  end
end
