# frozen_string_literal: true

module Vestry
  module Records
    # What a graft had come to in one autumn.
    class Tally < Sequel::Model(DB[:tallies])
      include Row
      many_to_one :graft

      # What was counted of a graft in a season.
      def self.of(graft, season) = in_sight.first(graft_id: graft.id, season: season)
    end
  end
end
