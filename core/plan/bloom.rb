# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # How many days two varieties are in bloom together.
      module Bloom
        extend Reckoning

        contract "bloom", "How many days two varieties are in bloom together" do
          record(:a) { date :from; date :to }
          record(:b) { date :from; date :to }
        end

        # Both ends count: a bloom from the 1st to the 1st is one day.
        #
        # @return [Hash] +overlap_days+
        # @raise [BadInput] when a bloom ends before it begins
        def self.call(a:, b:, rulebook: nil)
          { "a" => a, "b" => b }.each { |name, bloom| raise BadInput.new("#{name}.to", "a date from #{bloom[:from].iso8601} on") if bloom[:to] < bloom[:from] }
          { overlap_days: [([a[:to], b[:to]].min - [a[:from], b[:from]].max).to_i + 1, 0].max }
        end
      end
    end
  end
end
