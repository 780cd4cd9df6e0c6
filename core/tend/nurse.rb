# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # A nurse limb of a tree that was worked: when it is shortened, and when it comes off, by the school's practice.
      module Nurse
        module_function

        # @param practice [String] the choice at the point +nurse-off+: first-autumn, second-year or when-closed
        # @param since [Date] the latest graft of the tree
        # @param closed [Float] the share of its stub that the least closed graft has grown over
        # @param season [Season]
        # @return [Hash] +on+, the day from which it may come off, nil while its stubs are not closed; and +advice+:
        #   nurse_off, nurse_wait_closed, nurse_shorten or nurse_keep
        def advice(practice:, since:, closed:, season:, today:, rulebook:)
          on = off_on(practice, since, closed, season, today, rulebook)
          { on: on, advice: word(on, since, today, rulebook) }
        end

        def off_on(practice, since, closed, season, today, rulebook)
          calendar = ->(name) { season.next_day(rulebook.value("care.calendar.#{name}"), since) }
          case practice
          when "first-autumn" then calendar["autumn"]
          when "second-year" then calendar["winter"] >> 12
          else Near.at_least?(closed, 1) ? today : nil
          end
        end

        def word(on, since, today, rulebook)
          return "nurse_wait_closed" if on.nil?
          return "nurse_off" if today >= on

          today - since > rulebook.value("reckoning.nurse.shorten_after") ? "nurse_shorten" : "nurse_keep"
        end
        private_class_method :off_on, :word
      end
    end
  end
end
