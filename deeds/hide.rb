# frozen_string_literal: true

module Vestry
  module Deeds
    # Takes a fact out of sight with what hangs on it, so that it can be brought back whole.
    module Hide
      KINDS = { "limbs" => "Limb", "grafts" => "Graft", "observations" => "Visit", "tallies" => "Tally",
                "varieties" => "Variety", "trees" => "Tree",
                "sites" => "Site", "photos" => "Photo", "wounds" => "Wound" }.freeze

      # What would go: counts by kind, for saying so beforehand.
      def self.reach(row) = with_dependants(row).group_by { |each| each.class.table_name.to_s }.transform_values(&:size)

      def self.call(row, by:, why: nil)
        DB.transaction do
          at = Time.now.utc
          with_dependants(row).each { |each| Ledger.hide(each, by: by, why: why, at: at) }
          row
        end
      end

      # Brings back the row, and what was hidden with it.
      #
      # @raise [Refused] where what it stands on is out of sight itself, or its place is taken
      def self.undo(row, by:)
        DB.transaction do
          hidden = above(row).map(&:locked).find(&:hidden_at)
          raise Refused, hidden: ["#{hidden.label} is out of sight itself: bring that back first"] if hidden

          at = row.hidden_at
          Ledger.restore(row, by: by)
          hidden_with(row, at).each { |each| Ledger.restore(each, by: by) }
          row
        end
      rescue Sequel::UniqueConstraintViolation
        raise Refused, hidden: ["another of that name stands there now: give it another name, or take it away first"]
      end

      # What a row stands on, nearest first.
      def self.above(row)
        on = case row
             when Records::Limb then row.parent || row.tree
             when Records::Graft then row.limb
             when Records::Visit, Records::Tally then row.graft
             when Records::Wound, Records::Site, Records::Photo then row.tree
             end
        on ? [on, *above(on)] : []
      end

      # A row of this orchard, hidden or not.
      def self.find!(orchard, kind, id)
        model = KINDS[kind] or raise Records::Missing
        Records.const_get(model).first(orchard_id: orchard.id,
                                       id: Records::RowNumber.read(id)) or raise Records::Missing
      end

      def self.with_dependants(row) = [row, *below(row) { |dataset| dataset.where(hidden_at: nil) }]
      def self.hidden_with(row, at) = below(row) { |dataset| dataset.where(hidden_at: at) }

      def self.below(row, &seen)
        near = case row
               when Records::Tree then seen.call(Records::Limb.where(tree_id: row.id, parent_id: nil)).all +
                 seen.call(Records::Wound.where(tree_id: row.id)).all
               when Records::Limb then seen.call(Records::Limb.where(parent_id: row.id)).all +
                 seen.call(Records::Graft.where(limb_id: row.id)).all
               when Records::Graft then seen.call(Records::Visit.where(graft_id: row.id)).all +
                 seen.call(Records::Tally.where(graft_id: row.id)).all
               else []
               end
        near.flat_map { |each| [each, *below(each, &seen)] }
      end
      private_class_method :with_dependants, :above, :hidden_with, :below
    end
  end
end
