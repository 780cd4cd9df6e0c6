# frozen_string_literal: true

module Vestry
  module Records
    # A bare stretch of trunk or limb that could take a graft in its side.
    class Site < Sequel::Model(DB[:sites])
      include Row
      many_to_one :orchard
      many_to_one :tree
      many_to_one :limb
    end
  end
end
