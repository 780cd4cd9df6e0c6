# frozen_string_literal: true

module Vestry
  module Records
    # A tree in short, limb by limb, as its card and its open address tell it: without anyone's name.
    class TreeCard
      # +since+ is the day of the graft that stands; +state+ took, waiting, lost, planned or open; +season+ where it is
      # planned.
      Line = Struct.new(:tag, :variety, :since, :state, :season, keyword_init: true)
      attr_reader :tree

      def initialize(tree, today)
        @tree = tree
        @today = today
      end

      # Those that stand.
      #
      # @return [Array<Line>] in the order of their tags
      def lines = tree.standing_limbs.sort_by { |limb| [limb.tag.size, limb.tag] }.map { |limb| line(limb) }

      private

      def line(limb)
        made, row = limb.graft, limb.planned
        planned = row if row && TreePlan::WORKED.include?(row.role) && row.variety && (made.nil? || row.again?(made))
        standing = made unless made&.fate(@today) == "lost"
        facts = standing ? { since: standing.grafted_on, state: standing.fate(@today) } :
          { state: made ? "lost" : "open" }
        facts = { **facts, state: "planned", season: planned.season } if planned
        Line.new(tag: limb.tag, variety: (standing || planned || limb).variety&.name, **facts)
      end
    end
  end
end
