# frozen_string_literal: true

module Vestry
  module Drawings
    # What drawings of a whole tree share: it as points, from the limbs that are drawn.
    module OfTree
      private

      # What the points follow from, besides the rulebook.
      def facts = @facts ||= Records::CoreInputs.figure_facts(@tree, @stands.map(&:limb))
      def figure = @figure ||= Core::Survey::Figure.new(**facts, rulebook: @tree.orchard.rulebook)
      def limb(stand) = figure.limb(stand.limb.id)
    end
  end
end
