# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # The top of a limb from which a side branch takes over: the branch is worked first, and the top comes off above
      # it some seasons later, once the branch feeds the roots.
      module TopOff
        module_function

        # Where it comes off: clear of the branch's own fork.
        #
        # @param fork_mm [Numeric] where the branch leaves, from the limb's own fork
        # @param branch_mm [Numeric] how thick the branch is
        # @return [Float] mm from the limb's fork
        def at(fork_mm, branch_mm, rulebook)
          fork_mm.to_f + [rulebook.value("reckoning.cut.clearance"), branch_mm].max
        end

        # Whether it stays on for now. What has nothing alive below it is not cut; what may yet come to live is
        # waited for in the season of the cut.
        #
        # @param branch [String] gone, lost (its graft died), unworked (it is to be grafted), waiting or took
        # @param due [Boolean] whether the season in which the top is to come off is planned for
        def waits?(branch, due:)
          case branch
          when "gone", "lost" then true
          when "unworked", "waiting" then due
          else false
          end
        end
      end
    end
  end
end
