# frozen_string_literal: true

module Vestry
  module Records
    # A colour of tape for each variety: the same all over the orchard, and never the same for two
    # varieties on one tree while there are colours enough.
    class TapeColours
      def initialize(orchard)
        @orchard = orchard
        @colours = orchard.rulebook.value("materials.colours")
        @rank = Variety.where(orchard_id: orchard.id).order(:id).select_map(:id).each_with_index.to_h
      end

      # @param variety_ids [Array<Integer>] those on one tree
      # @return [Hash{Integer=>String}] a colour by variety
      def on_tree(variety_ids)
        variety_ids.uniq.sort.each_with_object({}) do |id, given|
          first = @rank.fetch(id, 0)
          free = (0...@colours.size).map { |step| @colours[(first + step) % @colours.size] }.find do |colour|
            !given.value?(colour)
          end
          given[id] = free || @colours[first % @colours.size]
        end
      end

      # All the varieties grafted or to be grafted on a tree, each with its colour.
      def of(tree)
        grafted = tree.standing_limbs.filter_map { |limb| limb.graft&.variety_id }
        planned = (tree.plan&.plan_limbs || []).filter_map(&:variety_id)
        on_tree(grafted | planned)
      end
    end
  end
end
