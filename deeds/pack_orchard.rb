# frozen_string_literal: true

require "fileutils"

module Vestry
  module Deeds
    # Packs an orchard into one zip for download, in the background; the last few are kept.
    module PackOrchard
      KEPT = 3

      # @return [Integer] the export's id
      def self.begin(orchard, by:)
        under_way = DB[:exports].where(orchard_id: orchard.id, state: %w[waiting running]).where { created_at > Sequel.lit("now() - interval '1 hour'") }.get(:id)
        return under_way if under_way

        id = DB[:exports].insert(orchard_id: orchard.id, by: by)
        Jobs::PackFiles.enqueue(id)
        id
      end

      def self.path(id) = File.join(Settings.var, "exports", "#{id}.zip")

      # Writes it beside its place and moves it there when it is whole.
      def self.write(id)
        row = DB[:exports].first(id: id) or return
        DB[:exports].where(id: id).update(state: "running")
        FileUtils.mkdir_p(File.dirname(path(id)))
        Records::Archive.pack(Records::Orchard[row[:orchard_id]], "#{path(id)}.part")
        File.rename("#{path(id)}.part", path(id))
        DB[:exports].where(id: id).update(state: "done", bytes: File.size(path(id)), finished_at: Time.now.utc)
        sweep(row[:orchard_id])
      rescue SystemCallError, Sequel::DatabaseError => e
        FileUtils.rm_f("#{path(id)}.part")
        DB[:exports].where(id: id).update(state: "failed", trouble: e.message.lines.first.to_s[0, 300], finished_at: Time.now.utc)
      end

      def self.sweep(orchard_id)
        DB[:exports].where(orchard_id: orchard_id, state: "done").order(Sequel.desc(:id)).offset(KEPT).select_map(:id).each do |id|
          FileUtils.rm_f(path(id))
          DB[:exports].where(id: id).delete
        end
      end
      private_class_method :sweep
    end
  end
end
