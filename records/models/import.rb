# frozen_string_literal: true

module Vestry
  module Records
    # A file on its way in: previewed, then read as a whole or not at all.
    class Import < Sequel::Model(DB[:imports])
      include Advances
      many_to_one :orchard

      # The latest of an orchard, without what they hold.
      def self.latest(orchard, most: 20)
        where(orchard_id: orchard.id).order(Sequel.desc(:id)).limit(most)
          .select(:id, :kind, :file_name, :state, :lines, :good, :done, :by, :created_at, :undone_at).all
      end

      # A line of history about it.
      #
      # @param action [String] add or hide
      # @param lines [Integer]
      def note(action, lines, by:)
        told = { "file" => file_name, "lines" => lines }
        HistoryLog.add(orchard_id: orchard_id, table: :imports, row_id: id, action: action, who: by,
                       **(action == "add" ? { after: told } : { before: told }))
      end

      # Whether anything was done to the trees or limbs that it brought in.
      def touched?
        trees = kind == "limbs" ? [] : Limb.in_sight.where(orchard_id: orchard_id, tree_id: brought.select(:id))
        limbs = kind == "limbs" ? brought : trees
        !Graft.in_sight.where(limb_id: limbs.select(:id)).empty? || (kind != "limbs" && !trees.empty?)
      end

      # Takes them out of sight.
      #
      # @return [Integer] how many
      def hide_rows(now = Time.now.utc) = brought.update(hidden_at: now)

      # Whether what it held is still here: without that it is not taken back.
      def whole? = !content.empty?

      # Whether it is a table's, and not trees or limbs in their simpler layout.
      def by_table? = layout ? !TreeFile::KINDS.include?(kind) : TableFile.reads?(kind, content)

      private

      def brought = (kind == "limbs" ? Limb : Tree).in_sight.where(orchard_id: orchard_id, import_id: id)
    end
  end
end
