# frozen_string_literal: true

module Vestry
  module Deeds
    # Records that a limb was cut long in winter, so that it can be cut back fresh on the day.
    module HeadBack
      # @param row [Records::PlanLimb]
      # @raise [Refused] when it was not to be cut long, or on a day to come
      def self.call(row, on:, by:, today:)
        raise Refused, headed_on: ["#{row.limb.label} is not to be cut long"] unless row.long_cut_mm
        raise Refused, headed_on: [SaidDay.ahead(today)] if on > today

        Ledger.change(row, { headed_on: on, headed_by: by }, by: by)
      end

      # It was not cut after all.
      def self.undo(row, by:) = Ledger.change(row, { headed_on: nil, headed_by: nil }, by: by)
    end
  end
end
