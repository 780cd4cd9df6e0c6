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
    end
  end
end
