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
        set || (Settings.today && Date.iso8601(Settings.today)) || zone(time_zone).now.to_date
      end

      # One that is not known, in a row written past every form, is taken for UTC: the rest of its orchard stands.
      def zone(name)
        TZInfo::Timezone.get(name)
      rescue TZInfo::InvalidTimezoneIdentifier
        TZInfo::Timezone.get("Etc/UTC")
      end

      # This moment; on a day that is set, as late in it as it is now.
      #
      # @return [Time] UTC
      def now
        Time.now.utc.then do |time|
          Settings.today ? Date.iso8601(Settings.today).then { |day| Time.utc(day.year, day.month, day.day, time.hour,
            time.min, time.sec) } : time
        end
      end

      # The moment a wall clock there shows this time: when it shows it twice, the first.
      #
      # @param time [Time] as the clock shows it, whatever its own zone
      # @return [Time] UTC
      # @raise [TZInfo::PeriodNotFound] when the clock skips it
      def moment(time_zone, time)
        zone(time_zone).local_to_utc(Time.utc(*time.to_a.first(6).reverse)) { |periods| periods.first }
      end

      # When a day begins there.
      def start_of(time_zone, day) = moment(time_zone, Time.utc(day.year, day.month, day.day))
    end
  end
end
