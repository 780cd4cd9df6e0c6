# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # How much of the bloom frost is expected to take, from this site's own past years. Warm
      # years bloom early: that is the danger this shows.
      module Frost
        extend Reckoning

        contract "frost", "How much of the bloom frost is expected to take, from past years here" do
          number :base_c, unit: "°C"
          number :from_dd, unit: "degree-days", least: 0, help: "at which bloom begins"
          number :to_dd, unit: "degree-days", least: 0, help: "at which it ends"
          list :history, series { day_of_weather }, help: "past years, each its days from the biofix"
          number :ten_percent_c, unit: "°C", default: -2.2, help: "a night that takes a tenth of the flowers"
          number :ninety_percent_c, unit: "°C", default: -3.9, help: "a night that takes nine tenths"
        end

        # A year's bloom runs from the first day with accumulated degree-days at or over +from_dd+ to
        # the first at or over +to_dd+, both included; a year that does not get there is left
        # out. The loss is 0 when its coldest night is above +ten_percent_c+, else
        # min(1, 0.1 + 0.8 (t10 - coldest) / (t10 - t90)).
        #
        # @return [Hash] +expected_loss+ (share of the flowers, the mean over years; nil without
        #   any) and +years+, each with +bloom_from+, +bloom_to+, +coldest_c+ and +loss+
        # @raise [BadInput] when the limits are crossed
        def self.call(base_c:, from_dd:, to_dd:, history:, ten_percent_c: -2.2, ninety_percent_c: -3.9, rulebook: nil)
          raise BadInput.new("to_dd", "a number in degree-days from from_dd, #{from_dd}, up") if to_dd < from_dd
          if ninety_percent_c >= ten_percent_c
            raise BadInput.new("ninety_percent_c", "a number in °C below ten_percent_c, #{ten_percent_c}")
          end

          years = history.filter_map { |days| year(days, base_c, from_dd, to_dd, ten_percent_c, ninety_percent_c) }
          { expected_loss: years.empty? ? nil : years.sum { |each| each[:loss] } / years.size, years: years }
        end

        def self.year(days, base, from, to, ten, ninety)
          sum = 0.0
          sums = Slip::DegreeDays.call(days: days, base_c: base)[:daily].map { |each| sum += each }
          first = sums.index { |each| Near.at_least?(each, from) }
          last = sums.index { |each| Near.at_least?(each, to) }
          return nil unless first && last

          coldest = days[first..last].map { |day| day[:min_c] }.min
          { bloom_from: days[first][:date], bloom_to: days[last][:date], coldest_c: coldest,
            loss: loss(coldest, ten, ninety) }
        end

        def self.loss(coldest, ten, ninety)
          return 0.0 if coldest > ten + Near::TOLERANCE

          [1.0, 0.1 + 0.8 * (ten - coldest) / (ten - ninety)].min
        end
        private_class_method :year, :loss
      end
    end
  end
end
