# frozen_string_literal: true

module Vestry
  module Web
    module Api
      # Who writes, into which orchard, about which of its rows: what a deed wants beside the body.
      class Sender
        attr_reader :orchard, :by, :today, :id, :reading, :member

        # @param member [Records::Membership] who they are there
        # @param id [String, nil] the row in the address
        # @param reading [Contracts::FormResult] the body, read
        def initialize(orchard:, member:, by:, today:, id:, reading:)
          @orchard = orchard
          @member = member
          @by = by
          @today = today
          @id = id
          @reading = reading
        end

        def who = { by: by, today: today }
        def season = orchard.season_to_plan(today)

        # @raise [Records::Missing]
        %i[tree limb graft variety site bundle store wound planned_limb].each do |kind|
          define_method(kind) { orchard.public_send(:"#{kind}!", id) }
        end

        # @param on [Records::Limb]
        # @raise [Records::Missing] where nothing is planned
        def planned(on = limb) = on.planned || raise(Records::Missing)
      end
    end
  end
end
