# frozen_string_literal: true

module Vestry
  module Deeds
    # Records what a tree was seen to do in spring.
    module SeeStage
      # @param stage [String, nil] what the buds do; may be left out where a test cut was made
      # @param slipping [Boolean, nil] whether bark lifted in a test cut; nil when none was made
      # @param closed [Boolean] bark that lifted lifts no longer
      # @param bleeds [Boolean] sap runs from the cut
      # @return [Records::PhenologySeen]
      # @raise [Refused]
      def self.call(tree, stage:, slipping:, on:, today:, by:, closed: false, bleeds: false, client_key: nil)
        stage = nil if stage.to_s.empty?
        check(stage, !slipping.nil? || closed || bleeds)
        raise Refused, seen_on: [SaidDay.ahead(today)] if on > today

        # Seen again on the same day, the later look stands.
        same = Records::PhenologySeen.of_day(tree, on)
        return same if same && client_key && same.client_key == client_key
        seen = { slipping: closed ? nil : slipping, closed: closed, bleeds: bleeds, seen_by: by }
        return Ledger.change(same, { stage: stage || same.stage, **seen }, by: by) if same

        Ledger.add(Records::PhenologySeen, { orchard_id: tree.orchard_id, tree_id: tree.id, stage: stage,
                                             seen_on: on, client_key: client_key, **seen }, by: by)
      end

      # @param cut [Boolean] whether a test cut says something
      def self.check(stage, cut)
        unless stage.nil? || Records::PhenologySeen::STAGES.key?(stage)
          raise Refused, stage: ["is one of #{Records::PhenologySeen::STAGES.values.join(', ')}"]
        end

        raise Refused, stage: ["Tap the stage you see, or say whether bark slips."] if stage.nil? && !cut
      end
      private_class_method :check
    end
  end
end
