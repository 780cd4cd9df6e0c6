# frozen_string_literal: true

module Vestry
  module Deeds
    # Marks a bare stretch that could take a graft in its side.
    module MarkSite
      # @raise [Refused] when the limb ends before it, or the tag is taken
      def self.call(tree, values, by:)
        limb = values[:limb_id] && tree.standing_limbs.find { |each| each.id == values[:limb_id] }
        raise Refused, limb: ["is not a limb of #{tree.label}"] if values[:limb_id] && limb.nil?
        raise Refused, at: ["is beyond the limb's end"] if limb && values[:at_mm] >= limb.length_mm
        if tree.tag_taken?(values[:tag])
          raise Refused, tag: ["#{tree.label} has a #{values[:tag]} already"]
        end

        Ledger.add(Records::Site, values.merge(orchard_id: tree.orchard_id, tree_id: tree.id), by: by)
      end
    end
  end
end
