# frozen_string_literal: true

module Vestry
  module Deeds
    # Moves a limb's work to another season.
    module MoveLimb
      FURTHEST = 9
      # What comes off, or is headed back, has a season and keeps its role.
      UNWORKED = %w[lift renew].freeze
      private_constant :UNWORKED

      # @param season [Integer]
      # @param first [Integer] the season that is planned for now
      # @raise [Refused]
      def self.call(limb, season, by:, first:, why: nil)
        unless season.between?(first, first + FURTHEST)
          raise Refused, season: ["is from #{first} to #{first + FURTHEST}"]
        end

        row = limb.planned
        return Ledger.change(row, { season: season }, by: by, why: why) if row && UNWORKED.include?(row.role)

        role = row&.role == "backup" ? "backup" : (season == first ? "work" : "later")
        DecideLimb.call(limb, { role: role, season: season }, by: by, season: first, why: why)
      end
    end
  end
end
