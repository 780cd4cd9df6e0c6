# frozen_string_literal: true

module Vestry
  module Records
    # A photo of a tree, a limb or a visit.
    class Photo < Sequel::Model(DB[:photos])
      include Row
      many_to_one :orchard
      many_to_one :tree
      many_to_one :limb
    end
  end
end
