# frozen_string_literal: true

module Vestry
  module Deeds
    # Moves every limb that was not grafted by its last sensible day to the season that follows, and what was to follow
    # on its tree by as many.
    module MoveMissed
      # @return [Array(Integer, Integer, Array<String>, Integer)] how many were moved, to which season, labels of those
      #   that could not be, and how many moved on with them
      def self.call(orchard, by:, today:)
        DB.transaction do
          Records::TreeQueries.hold(missed(orchard, today).map { |row| row.limb.tree_id }.uniq)
          # Whoever moved some meanwhile is done now.
          rows = missed(orchard, today)
          moved, stuck = move(rows, windows(orchard, today), by, orchard.season_to_plan(today))
          own = moved.count { |row| rows.include?(row) }
          [own, windows(orchard, today).following(rows), stuck.map { |row| row.limb.label }, moved.size - own]
        end
      end

      # @return [Array(Array<Records::PlanLimb>, Array<Records::PlanLimb>)] what could be moved, and what could not
      def self.move(rows, windows, by, first)
        shifts = windows.moves_on(rows)
        [*rows, *windows.following_missed(rows)].partition do |row|
          moved?(row, shifts.fetch(row.limb.tree_id), by, first)
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

      def self.moved?(row, shift, by, first)
        DB.transaction(savepoint: true) do
          MoveLimb.call(row.limb, row.season + shift, by: by, first: first, why: Records::PlanQueries::MISSED)
        end
        true
      rescue Refused
        false
      end
      private_class_method :move, :windows, :missed, :moved?
    end
  end
end
