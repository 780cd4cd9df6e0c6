# frozen_string_literal: true

module Vestry
  module Deeds
    # A graft that was set into a bare stretch has died, and nothing grows there: the stretch is bare again, and its
    # limb is none until another graft stands in the same place.
    module BareAgain
      # @param graft [Records::Graft] a lost one
      # @return [Records::Site]
      def self.call(graft, on:, by:)
        DB.transaction do
          limb = graft.limb
          limb.tree.locked
          limb = limb.locked
          next site(limb, graft, by) if limb.gone_on

          Ledger.change(limb, { gone_on: on }, by: by, why: "its graft died, and the stretch is bare again")
          site(limb, graft, by)
        end
      end

      # The stretch that was filled, in sight again; another of its kind where that is not on record.
      #
      # @return [Records::Site]
      def self.site(limb, graft, by)
        bare = Records::Site.bare_at(limb) and return bare
        filled = Records::Site.filled_by(limb)
        return Ledger.restore(filled, by: by, why: "no graft stands in it") if filled

        Ledger.add(Records::Site, { orchard_id: limb.orchard_id, tree_id: limb.tree_id, limb_id: limb.parent_id,
                                    tag: limb.tag, at_mm: limb.fork_mm, bearing_deg: limb.bearing_deg,
                                    diameter_mm: graft.stub_mm }, by: by)
      end
    end
  end
end
