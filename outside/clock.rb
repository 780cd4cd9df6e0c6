# frozen_string_literal: true

require "date"
require "tzinfo"

module Vestry
  module Outside
    # What day it is where the orchard stands. A day may be set for a demonstration.
    module Clock
      module_function

      # @param time_zone [String] an IANA name
      # @param set [Date, nil] a day that is taken instead
      def today(time_zone = "Etc/UTC", set: nil)
        set || (Settings.today && Date.iso8601(Settings.today)) || TZInfo::Timezone.get(time_zone).now.to_date
      end
    end
  end
end
