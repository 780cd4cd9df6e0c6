# frozen_string_literal: true

module Vestry
  module Records
    # A photo of a tree, a limb or a visit.
    class Photo < Sequel::Model(DB[:photos])
      include Row
      many_to_one :orchard
      many_to_one :tree
      many_to_one :limb

      # Where one of its pictures lies.
      #
      # @param size [String] large or small
      # @raise [Missing]
      def picture!(size) = (image[size] if Outside::PhotoStore::SIDES.key?(size)) || raise(Missing)
    end
  end
end
