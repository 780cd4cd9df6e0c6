# frozen_string_literal: true

module Vestry
  module Deeds
    # Moves every limb that was not grafted by its last sensible day to the season that follows.
    module MoveMissed
      # @return [Array(Integer, Integer, Array<String>)] how many were moved, to which season, and labels of those that
      #   could not be
      def self.call(orchard, by:, today:)
        DB.transaction do
          Records::TreeQueries.hold(missed(orchard, today).map { |row| row.limb.tree_id }.uniq)
          # Whoever moved some meanwhile is done now.
          rows = missed(orchard, today)
          to = windows(orchard, today).following(rows)
          stuck = rows.reject { |row| moved?(row.limb, to, by, orchard.season_to_plan(today)) }
          [rows.size - stuck.size, to, stuck.map { |row| row.limb.label }]
        end
      end

      # Puts back those that were moved so these days, and not decided otherwise since.
      #
      # @return [Integer] how many
      def self.back(orchard, by:)
        DB.transaction do
          moved = -> { Records::PlanQueries.moved_for_missed(orchard) }
          Records::TreeQueries.hold(moved.call.keys.map { |row| row.limb.tree_id }.uniq)
          # Whoever put some back meanwhile is done now.
          moved.call.each { |row, before| Ledger.change(row, before, by: by, why: "moved back") }.size
        end
      end

      def self.windows(orchard, today) = Records::Orchard.with_pk!(orchard.id).stub_windows(today)
      def self.missed(orchard, today) = windows(orchard, today).missed

      def self.moved?(limb, to, by, first)
        DB.transaction(savepoint: true) do
          MoveLimb.call(limb, to, by: by, first: first, why: Records::PlanQueries::MISSED)
        end
        true
      rescue Refused
        false
      end
      private_class_method :windows, :missed, :moved?
    end
  end
end
