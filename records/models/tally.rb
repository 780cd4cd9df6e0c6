# frozen_string_literal: true

module Vestry
  module Records
    # What a graft had come to in one autumn.
    class Tally < Sequel::Model(DB[:tallies])
      include Row
      many_to_one :graft

      # What was counted of a graft in a season.
      def self.of(graft, season) = in_sight.first(graft_id: graft.id, season: season)

      # The same, of a graft whose counts are read, where it was counted since growth stopped.
      def self.counted(graft, season)
        graft.tallies.find { |each| each.season == season && !early?(graft.orchard, season, each.tallied_on) }
      end

      # Its wood as thick as one stick of the section of all; nil where none lives or none was measured.
      #
      # @return [Float, nil] mm
      def across_mm
        Core::Tally::Scaffold.as_one(above_mm.to_f, sticks_alive) if alive && above_mm&.positive?
      end

      # Whether a season's growth still went on: what was measured then is no measure of it.
      def self.early?(orchard, season, day) = day < orchard.count_opens(season)
    end
  end
end
