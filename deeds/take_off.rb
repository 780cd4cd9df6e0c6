# frozen_string_literal: true

module Vestry
  module Deeds
    # A limb that came off: it stands in the records with its day, and no longer on the tree. What grows on it goes
    # with it.
    module TakeOff
      # @param on [Date]
      # @return [Records::Limb]
      # @raise [Refused] where a living graft stands on it, or the day is to come
      def self.call(limb, on:, today:, by:)
        return limb.refresh if limb.gone_on

        RecordLimbEvent.call(limb, { kind: "taken-off", happened_on: on, left_mm: 0 }, by: by, today: today)
        limb.refresh
      end
    end
  end
end
