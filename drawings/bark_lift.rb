# frozen_string_literal: true

module Vestry
  module Drawings
    # How bark came off the wood when it was lifted, small enough for a button.
    class BarkLift
      FLAPS = { "clean" => "M17 8V56M17 8C34 16 42 34 42 56H17",
                "reluctant" => "M17 8V56M17 8C26 12 32 18 36 26l-9 8l8 3l-3 19", "none" => "M26 8V56M34 8V56" }.freeze

      def initialize(state)
        @state = state
      end

      def svg
        %(<svg class="drawing bark-lift #{@state}" viewBox="0 0 60 64" aria-hidden="true">) +
          %(<path d="#{FLAPS.fetch(@state)}"/></svg>)
      end
    end
  end
end
