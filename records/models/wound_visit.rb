# frozen_string_literal: true

module Vestry
  module Records
    # A look at a wounded trunk: its leaves, and each scion's fate.
    class WoundVisit < Sequel::Model(DB[:wound_visits])
      include Row
      many_to_one :wound

      # The fates seen at many visits, asked for together.
      def self.read_fates(visits)
        read = visits.empty? ? {} : DB[:scion_fates].where(visit_id: visits.map(&:id)).all.group_by do |row|
          row[:visit_id]
        end
        visits.each { |visit| visit.lay_fates(read.fetch(visit.id, [])) }
      end

      # @param fates [Hash{Integer=>Hash}] +fate+ and perhaps +thickness_mm+, by scion
      def keep_fates(fates)
        DB[:scion_fates].multi_insert(fates.map do |scion_id, seen|
          { orchard_id: orchard_id, visit_id: id, scion_id: scion_id, fate: seen[:fate],
            thickness_mm: seen[:thickness_mm] }
        end)
        @fates = nil
      end

      def lay_fates(rows) = @fates = rows.to_h { |row| [row[:scion_id], row] }

      # @return [Hash{Integer=>Hash}] +fate+ and +thickness_mm+ by scion
      def fates = @fates ||= DB[:scion_fates].where(orchard_id: orchard_id, visit_id: id).as_hash(:scion_id)
    end
  end
end
