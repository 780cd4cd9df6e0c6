# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # What frost takes of a kind's swelling buds, flowers and fruitlets, each by the nights that its kind bears at
      # that stage.
      module FrostStages
        STAGES = %w[swelling bloom fruitlets].freeze

        module_function

        # Buds swell from a share of the warmth that opens the bloom, and fruitlets are tender for some warmth after it.
        #
        # @param history [Array<Array<Hash>>] past years, as Frost takes them
        # Of flowers of one stage some bear a colder night than others: what a night takes is a logistic curve through
        # both of a kind's thresholds, a tenth at the one and nine tenths at the other.
        #
        # @return [Hash] Frost's answer for the bloom with the losses by that curve, with +stages+: the mean loss (0..1,
        #   or nil) by stage, +lost+: the mean over the years of what is lost by the end of them all, and +spread+:
        #   between which that lies in eight years of ten (nearest rank)
        def of(species:, base_c:, from_dd:, to_dd:, history:, rulebook: Rulebook.shipped)
          nights = STAGES.zip(rulebook.value("species.#{species}.frost")).to_h
          spans = spans(from_dd, to_dd, rulebook)
          stages = STAGES.to_h do |stage|
            ten, ninety = nights.fetch(stage)
            from, to = spans.fetch(stage)
            frost = Frost.call(base_c: base_c, from_dd: from, to_dd: to, history: history, ten_percent_c: ten,
                               ninety_percent_c: ninety)
            [stage, by_curve(frost, ten, ninety)]
          end
          stages["bloom"].merge(stages: stages.transform_values { |each| each[:expected_loss] }, **lost(stages))
        end

        # What a night takes of flowers of one stage.
        #
        # @return [Float] 0..1
        def taken(night_c, ten_percent_c, ninety_percent_c)
          steep = 2 * Math.log(9) / (ten_percent_c - ninety_percent_c)
          1 / (1 + Math.exp(steep * (night_c - (ten_percent_c + ninety_percent_c) / 2)))
        end

        def by_curve(frost, ten, ninety)
          years = frost[:years].map { |year| year.merge(loss: taken(year[:coldest_c], ten, ninety)) }
          { expected_loss: years.empty? ? nil : years.sum { |year| year[:loss] } / years.size, years: years }
        end

        # @return [Hash{String=>Array(Float, Float)}] degree-days from and to
        def spans(from_dd, to_dd, rulebook)
          { "swelling" => [from_dd * rulebook.value("reckoning.frost.swells_from"), from_dd],
            "bloom" => [from_dd, to_dd], "fruitlets" => [to_dd, to_dd + rulebook.value("reckoning.frost.tender_for")] }
        end

        # Year by year what one stage leaves is what the next can lose.
        def lost(stages)
          by_year = stages.values.flat_map { |each| each[:years] }.group_by { |year| year[:bloom_from].year }
          return { lost: nil, spread: nil } if by_year.empty?

          sums = by_year.values.map { |years| 1 - years.reduce(1.0) { |left, year| left * (1 - year[:loss]) } }.sort
          { lost: sums.sum / sums.size, spread: [0.1, 0.9].map { |share| ranked(sums, share) } }
        end

        def ranked(sorted, share) = sorted[[(share * sorted.size).ceil, 1].max - 1]
        private_class_method :spans, :lost, :by_curve, :ranked
      end
    end
  end
end
