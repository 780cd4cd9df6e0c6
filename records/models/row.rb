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

      # The orchard that the request is about is not asked for again.
      def load_associated_objects(opts, ...)
        if opts[:name] == :orchard && !associations.include?(:orchard)
          current = Orchard.current
          associations[:orchard] = current if current && current.id == orchard_id
        end
        super
      end
    end
  end
end
