# frozen_string_literal: true

module Vestry
  module Records
    # Locks on what is no row of its own: held until the transaction ends, one holder at a time over all processes.
    # A bundle's number is given under the number 1, by the database itself.
    module AdvisoryLock
      NUMBERS = { care: 2, rounds: 3, day_sheet: 4, places: 5, weather: 6, crew: 7 }.freeze

      # @return [Boolean] whether nobody held it; now it is held
      def self.free?(what, id = 0) = DB.get(Sequel.function(:pg_try_advisory_xact_lock, NUMBERS.fetch(what), id))

      # @param what [Symbol] one of NUMBERS
      # @param id [Integer] an orchard's, where each has its own
      def self.hold(what, id = 0) = DB.get(Sequel.function(:pg_advisory_xact_lock, NUMBERS.fetch(what), id))
    end
  end
end
