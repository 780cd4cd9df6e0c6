# frozen_string_literal: true

require "fileutils"

module Vestry
  module Deeds
    # Packs an orchard into one zip for download, in the background; the last few are kept.
    module PackOrchard
      KEPT = 3

      # @return [Integer] the export's id
      def self.begin(orchard, by:)
        id, fresh = DB.transaction do
          # Two who ask at once get the same one.
          orchard.locked
          under_way = Records::Export.under_way(orchard)
          under_way ? [under_way.id, false] : [Records::Export.create(orchard_id: orchard.id, by: by).id, true]
        end
        Jobs::PackFiles.enqueue(id) if fresh
        id
      end

      def self.path(id) = File.join(Settings.var, "exports", "#{id}.zip")

      # Writes it beside its place and moves it there when it is whole.
      def self.write(id)
        row = Records::Export[id] or return
        row.update(state: "running", rows: Records::Archive.rows(row.orchard), done: 0)
        FileUtils.mkdir_p(File.dirname(path(id)))
        far = Progress.new(row)
        Records::Archive.pack(row.orchard, "#{path(id)}.part") { |rows| far.tell(done: rows) }
        File.rename("#{path(id)}.part", path(id))
        row.update(state: "done", bytes: File.size(path(id)), finished_at: Time.now.utc)
        sweep(row.orchard_id)
      rescue SystemCallError, Sequel::DatabaseError => e
        FileUtils.rm_f("#{path(id)}.part")
        row.fail_with(e, most: 300)
      end

      def self.sweep(orchard_id)
        Records::Export.whole_but(orchard_id, KEPT).each do |old|
          FileUtils.rm_f(path(old.id))
          old.delete
        end
      end
      private_class_method :sweep
    end
  end
end
