# frozen_string_literal: true

module Vestry
  module Records
    # A file on its way in: previewed, then read as a whole or not at all.
    class Import < Sequel::Model(DB[:imports])
      many_to_one :orchard

      # The latest of an orchard, without what they hold.
      def self.latest(orchard, most: 20)
        where(orchard_id: orchard.id).order(Sequel.desc(:id)).limit(most)
          .select(:id, :kind, :file_name, :state, :lines, :good, :done, :by, :created_at, :undone_at).all
      end
    end
  end
end
