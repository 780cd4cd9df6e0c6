# frozen_string_literal: true

module Vestry
  module Deeds
    # Adds limbs to a tree, from limb lines or a form: all of those given, or none.
    module SurveyLimbs
      COLUMNS = %i[tag girth_mm wide_mm narrow_mm length_mm fork_mm bearing_deg rise_deg flat_deg bark bark_mm straight damage].freeze

      # @param reads [Array<Hash>] each a limb's values, +parent+ by its tag
      # @return [Array<Records::Limb>]
      # @raise [Refused] when a tag is taken or a parent is not there
      def self.call(tree, reads, by:, today:)
        DB.transaction do
          Records::Tree.where(id: tree.id).for_update.first
          known = tree.limbs_dataset.to_hash(:tag, :id).transform_keys(&:upcase)
          reads.map do |values|
            parent = values[:parent] && known.fetch(values[:parent].upcase) { raise Refused, parent: ["#{values[:parent]} is not a limb of #{tree.label}"] }
            raise Refused, tag: ["#{tree.label} has a limb #{values[:tag]} already"] if known.key?(values[:tag].upcase) || hidden?(tree, values[:tag])

            row = Ledger.add(Records::Limb, values.slice(*COLUMNS).compact.merge(orchard_id: tree.orchard_id, tree_id: tree.id, parent_id: parent, surveyed_on: today,
                                                                                 thickness_typed: values[:typed]), by: by)
            known[row.tag.upcase] = row.id
            row
          end
        end
      end

      def self.hidden?(tree, tag) = Records::Limb.where(tree_id: tree.id, tag: tag).any?
      private_class_method :hidden?
    end
  end
end
