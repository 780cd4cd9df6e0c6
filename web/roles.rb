# frozen_string_literal: true

module Vestry
  module Web
    # Which role an address needs. The one place that decides; the gate asks it for every request.
    module Roles
      # Written by stewards alone: what decides rather than records.
      STEWARD_WRITES = %w[plan varieties settings rulebook people share].freeze
      # What is recorded among a steward's decisions: whoever has the saw says that it was cut.
      GRAFTER_RECORDS = %r{\A/o/[^/]+/plan/limbs/\d+/headed\z}
      # Decisions among what grafters write.
      STEWARD_DECIDES = [%r{\A/o/[^/]+/repair/\d+/course\z}, %r{\A/o/[^/]+/files/orchard\z},
                         %r{\A/o/[^/]+/wood/nursery\z}].freeze
      # What only a steward writes, a steward alone takes out of sight or brings back.
      STEWARD_HIDES = %r{/history/(trees|varieties)/}
      # Files of tables that hold a steward's decisions.
      STEWARD_FILES = %w[varieties wood_promises plans plan_limbs plan_sites].freeze
      # Read by stewards alone.
      STEWARD_READS = [%r{\A/o/[^/]+/people/(outbox|door|invites)}, %r{\A/o/[^/]+/files/orchard/},
                       %r{\A/o/[^/]+/share/trees/\d+\z}].freeze

      # @param method [String] GET, POST and so on
      # @param station [String] the first part of the address inside the orchard
      # @param path [String] the whole address
      # @return [String] the least role that may
      def self.needed(method, station, path)
        # What asks whether it is meant is for those who may.
        reading = %w[GET HEAD].include?(method) && !path.end_with?("/hide")
        return "steward" if STEWARD_READS.any? { |pattern| pattern.match?(path) }
        return "viewer" if reading || station == "practice" || path.end_with?("/people/leave")

        return "steward" if STEWARD_HIDES.match?(path)
        return "grafter" if GRAFTER_RECORDS.match?(path)

        STEWARD_WRITES.include?(station) || STEWARD_DECIDES.any? { |pattern| pattern.match?(path) } ? "steward" :
          "grafter"
      end
    end
  end
end
