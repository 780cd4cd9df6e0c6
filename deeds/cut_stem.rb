# frozen_string_literal: true

module Vestry
  module Deeds
    # A stem that was cut across below its wound: what left it above there is gone, and what is grafted on the stump is
    # logged on the stump, which stands in the survey as the trunk itself.
    module CutStem
      # The stump's tag, or the first of these with a number that is free.
      TAG = "S"
      private_constant :TAG

      # Within the transaction of the repair, the tree locked.
      #
      # @param left_mm [Float] how high the stump stands
      # @param grafted [Boolean] whether wood was set on it
      # @return [void]
      # @raise [Refused]
      def self.call(wound, left_mm:, day:, grafted:, by:, today:)
        tree = wound.tree
        tree.standing_limbs.select { |limb| limb.parent_id.nil? && limb.surveyed_on <= day }
          .each { |limb| cut(limb, left_mm, day, by, today) }
        tree.sites.select { |site| site.limb_id.nil? && site.at_mm >= left_mm }
          .each { |site| Ledger.hide(site, by: by, why: "the stem was cut below it") }
        Ledger.change(tree, { height_mm: nil }, by: by) if tree.height_mm && tree.height_mm > left_mm
        stump(tree, wound, left_mm, day, by) if grafted && tree.standing_leader.nil?
      end

      # Where a stem is taken to be cut when nobody said: below the lowest margin, else at the soil; a stump that bears
      # wood is not guessed.
      #
      # @return [Float, nil] mm above the soil
      def self.usual(wound, course)
        low = wound.shape.extent&.first
        low ? [low, 0.0].max : (0.0 if course == "cut-back")
      end

      # What is wrong with a height at which a stem is said to have been cut, in words; nil where nothing is.
      #
      # @param left_mm [Float, nil]
      def self.wrong(left_mm, grafted:)
        return "say how high the stump stands above the soil" if left_mm.nil?

        "a stick is set on a stump that stands above the soil" if grafted && !left_mm.positive?
      end

      # The leader keeps what is below the cut; everything else goes whole that forks above it.
      def self.cut(limb, left_mm, day, by, today)
        above = left_mm - limb.fork_mm.to_f
        return if above.positive? && !limb.leader

        kept = [above, 0.0].max
        return if kept > limb.length_mm.to_f

        RecordLimbEvent.call(limb, { kind: "headed", happened_on: day, left_mm: kept }, by: by, today: today)
      end

      def self.stump(tree, wound, left_mm, day, by)
        tag = [TAG, *(2..99).map { |number| "#{TAG}#{number}" }].find { |each| free?(tree, each) }
        SurveyLimbs.call(tree, [{ tag: tag, girth_mm: wound.girth_mm.to_f, length_mm: left_mm, fork_mm: 0, leader: true,
                                  straight: "straight", outer_mm: wound.stump_top_mm, outer_at_mm: left_mm }],
                         by: by, today: day)
      end

      def self.free?(tree, tag)
        tree.limb_ids_by_tag.keys.none? { |each| each.casecmp?(tag) } && !tree.limb_tag_taken?(tag) &&
          !tree.tag_taken?(tag)
      end
      private_class_method :cut, :stump, :free?
    end
  end
end
