# frozen_string_literal: true

module Vestry
  module Web
    module Stack
      # How many requests this process answered, and how long they took together.
      module RequestCount
        GATE = Mutex.new
        @counts = Hash.new(0)
        @milliseconds = 0.0
        private_constant :GATE

        module_function

        def add(status, taken)
          GATE.synchronize do
            @counts["#{status.to_i / 100}xx"] += 1
            @milliseconds += taken
          end
        end

        # @return [Array(Hash, Float)] requests by class of status, and milliseconds in all
        def read = GATE.synchronize { [@counts.dup, @milliseconds] }
      end
    end
  end
end
