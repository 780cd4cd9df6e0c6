# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # How many days two varieties are in bloom together.
      module Bloom
        extend Reckoning

        contract "bloom", "How many days two varieties are in bloom together" do
          record(:a) { date :from; date :to; rising :from, :to }
          record(:b) { date :from; date :to; rising :from, :to }
        end

        # Both ends count: a bloom from the 1st to the 1st is one day.
        #
        # @return [Hash] +overlap_days+
        def self.call(a:, b:, rulebook: nil)
          { overlap_days: [([a[:to], b[:to]].min - [a[:from], b[:from]].max).to_i + 1, 0].max }
        end
      end
    end
  end
end
