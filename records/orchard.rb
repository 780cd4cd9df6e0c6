# frozen_string_literal: true

module Vestry
  module Records
    # An orchard, and the way to every row in it.
    class Orchard < Sequel::Model(DB[:orchards])
      one_to_many :trees, order: %i[row number]
      one_to_many :varieties, order: :name
      one_to_many :grafts

      # Height in mm below which each animal eats what it reaches, by the rulebook's browse lines.
      def browse_mm = rulebook.value("site.browse.#{grazing}")

      def rulebook = Core::Rulebook.shipped.overruled(overrides.to_h)
      def southern? = latitude.negative?
      def season = Core::Season.new(southern: southern?)

      # @raise [Missing] when this orchard has no such row
      def tree!(id) = find!(:trees, id)
      def limb!(id) = find!(:limbs, id)
      def graft!(id) = find!(:grafts, id)
      def variety!(id) = find!(:varieties, id)

      # The species that stand here.
      def species = @species ||= trees_dataset.where(hidden_at: nil).unordered.distinct.select_map(:species).sort

      def varieties_in_sight = varieties_dataset.where(hidden_at: nil).all

      private

      def find!(table, id)
        number = Integer(id.to_s, 10, exception: false)
        model = { trees: Tree, limbs: Limb, grafts: Graft, varieties: Variety }.fetch(table)
        row = model.in_sight.first(orchard_id: pk, id: number) if number && number.between?(1, 2_147_483_647)
        row or raise Missing, "no such #{table.to_s.chomp('s')} here"
      end
    end
  end
end
