# frozen_string_literal: true

module Vestry
  module Deeds
    # Days as refusals say them, and pages that name the year.
    module SaidDay
      module_function

      # @param day [Date]
      # @return [String] "18 May 2026"
      def of(day) = day.strftime("%-d %B %Y")

      # Why a day after today is refused.
      def ahead(today) = "lies in the future; #{of(today)} is the latest"
    end
  end
end
