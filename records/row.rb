# frozen_string_literal: true

module Vestry
  module Records
    # What every row of an orchard shares: a version that tells of a change by someone else,
    # and hiding in place of deleting.
    module Row
      def self.included(model)
        model.plugin :dirty
        model.dataset_module do
          def in_sight = where(Sequel[model.table_name][:hidden_at] => nil)
        end
      end

      def hidden? = !hidden_at.nil?

      # The row as it is now, which nobody else changes until the transaction ends.
      def locked = self.class.where(id: id).for_update.first

      private

      # What a row that stays as it is was read with is at hand; the orchard at hand is not asked for again.
      def load_associated_objects(opts, ...)
        name = opts[:name]
        return associations[name] if frozen? && associations.include?(name)

        at_hand = Orchard.at_hand if name == :orchard && !associations.include?(:orchard)
        at_hand = nil unless at_hand && at_hand.id == orchard_id
        return at_hand if at_hand && frozen?

        associations[:orchard] = at_hand if at_hand
        super
      end
    end
  end
end
