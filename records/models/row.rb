# frozen_string_literal: true

module Vestry
  module Records
    # What every row of an orchard shares: a version that tells of a change by someone else,
    # and hiding in place of deleting.
    module Row
      # What every such model can be asked.
      module ByKey
        # The row that was sent with a key; nil without one.
        #
        # @param key [String, nil] as a form or an outbox made it
        def sent_as(orchard_id, key) = key && first(orchard_id: orchard_id, client_key: key)

        # A row of an orchard, in sight or not.
        #
        # @param id [Object] as an address names it
        # @raise [Missing]
        def of_orchard!(orchard, id) = first(orchard_id: orchard.id, id: RowNumber.read(id)) || raise(Missing)
      end

      def self.included(model)
        model.plugin :dirty
        model.extend ByKey
        model.dataset_module do
          def in_sight = where(Sequel[model.table_name][:hidden_at] => nil)
        end
      end

      def hidden? = !hidden_at.nil?

      # What hangs on it and goes out of sight with it: by model, and by the column that names it.
      HANGS_ON = { "Tree" => { "Limb" => :tree_id, "Wound" => :tree_id },
                   "Limb" => { "Limb" => :parent_id, "Graft" => :limb_id },
                   "Graft" => { "Visit" => :graft_id, "Tally" => :graft_id } }.freeze
      private_constant :HANGS_ON

      # @param hidden_at [Time, nil] those hidden just then; nil for those in sight
      # @return [Array<Sequel::Model>]
      def hangs_on_it(hidden_at)
        HANGS_ON.fetch(self.class.name.split("::").last, {}).flat_map do |name, column|
          rows = Records.const_get(name).where(column => id, hidden_at: hidden_at)
          # A limb of a limb goes with that, and not with the tree as well.
          rows = rows.where(parent_id: nil) if column == :tree_id && name == "Limb"
          rows.all
        end
      end

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
