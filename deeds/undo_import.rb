# frozen_string_literal: true

module Vestry
  module Deeds
    # Takes a file of a table back.
    module UndoImport
      # Takes back the rows a file brought, while nothing was done to them since and nothing else
      # points at them; out of sight where rows can be, else away.
      #
      # @raise [Refused]
      def self.call(import, by:)
        rows = Records::ImportedRows.new(import) unless import.kind == "station"
        DB.transaction do
          # Of two that take the same file back at once, one does.
          raise Refused, file: ["It was taken back already."] if import.lock!.undone_at

          count = import.kind == "station" ? station(import) : rows.numbered? ? hide(rows, import, by) : remove(rows)
          import.update(undone_at: Time.now.utc)
          import.note("hide", count, by: by)
        end
      end

      # @return [Integer] how many days
      def self.station(import)
        Records::StationFile.take_back(import) || 
          raise(Refused, file: ["Some of its days were measured anew since: they stay."])
      end

      CHANGED = "Some of its rows were changed since: they stay."

      # @return [Integer] how many rows
      def self.hide(rows, import, by)
        raise Refused, file: [CHANGED] if rows.changed?
        raise Refused, file: ["Other rows point at some of these now: they stay."] if rows.pointed_at?

        rows.hide(by: by, why: "#{import.file_name} was taken back")
      end

      # @return [Integer] how many
      def self.remove(rows)
        unless rows.known?
          raise Refused, file: ["What it wrote was not kept then, so it is not told from other rows now."]
        end

        rows.remove || raise(Refused, file: [CHANGED])
      end
      private_class_method :station, :hide, :remove
    end
  end
end
