# frozen_string_literal: true

module Vestry
  module Records
    # A photo of a tree, a limb or a visit.
    class Photo < Sequel::Model(DB[:photos])
      include Row
      many_to_one :orchard
      many_to_one :tree
      many_to_one :limb
      one_to_many :measures, class: "Vestry::Records::PictureMeasure", key: :photo_id, order: :id,
                  conditions: { hidden_at: nil }

      # Every picture that a photo points at.
      #
      # @return [Set<String>]
      def self.picture_ids
        Outside::PhotoStore::SIDES.keys.flat_map { |size| select_map(Sequel.lit("image #>> '{#{size},id}'")) }.to_set
      end

      # Where one of its pictures lies.
      #
      # @param size [String] large or small
      # @raise [Missing]
      def picture!(size) = (image[size] if Outside::PhotoStore::SIDES.key?(size)) || raise(Missing)
    end
  end
end
