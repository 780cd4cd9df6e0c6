# frozen_string_literal: true

module Vestry
  module Web
    # The page that a tree or a limb wants now: its plan, its log, its visit or its count.
    class NextDeed
      # @param role [String] of whoever asks
      def initialize(orchard, today, role)
        @orchard = orchard
        @today = today
        @role = role
      end

      # @param of [Records::Tree, Records::Limb]
      # @return [String] an address
      def of(row)
        path = row.is_a?(Records::Tree) ? "survey/trees/#{row.id}" : limb(row)
        "/o/#{@orchard.slug}/#{path}"
      end

      private

      def limb(limb)
        graft = limb.graft
        return grafted(graft) if graft && !again?(limb, graft)
        return "graft/limbs/#{limb.id}" if limb.planned&.complete? && due?(limb.planned) && may?("grafter")

        "#{may?('steward') ? 'plan' : 'survey'}/trees/#{limb.tree_id}?limb=#{limb.id}"
      end

      # A lost graft that is planned to be made again waits for the knife.
      def again?(limb, graft) = graft.fate == "lost" && !limb.planned.nil?
      def due?(planned) = planned.season <= @orchard.season.name_of(@today)

      def grafted(graft) = "#{counting?(graft) ? 'tally' : 'tend'}/grafts/#{graft.id}"

      # From the day growth stops until it is counted.
      def counting?(graft)
        Records::CountRow.open?(@orchard, @today) && may?("grafter") &&
          Records::CountRow.waits?(graft, @orchard.season_to_count(@today))
      end

      def may?(role) = Records::Membership.enough?(@role, role)
    end
  end
end
