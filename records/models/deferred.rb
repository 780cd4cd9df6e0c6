# frozen_string_literal: true

module Vestry
  module Records
    # A decision to work a place in its season: now, or later.
    module Deferred
      # The two roles that differ by the season alone.
      ROLES = %w[work later].freeze

      # A row's role, as it is read while a season is planned: what was kept for later is worked once its season has
      # come, and what waits for a coming one is kept until then.
      #
      # @param planning [Integer] the season that is planned for now
      def role_in(planning) = Deferred.role(role, season, planning)

      # The role that is kept for one that is asked for: what a row has already, where it comes to the same.
      #
      # @param row [#role_in, nil] what is decided so far
      def self.kept(row, role, season, planning)
        wanted = role(role, season, planning)
        row && row.season == season && row.role_in(planning) == wanted ? row.role : wanted
      end

      # @param role [String] as it is asked for
      # @return [String] as it is, for that season
      def self.role(role, season, planning)
        return role unless season && ROLES.include?(role)

        season > planning ? "later" : "work"
      end
    end
  end
end
