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
        # @return [Hash] Frost's answer for the bloom, with +stages+: the mean loss (0..1, or nil) by stage, and
        #   +lost+: the mean over the years of what is lost by the end of them all
        def of(species:, base_c:, from_dd:, to_dd:, history:, rulebook: Rulebook.shipped)
          nights = STAGES.zip(rulebook.value("species.#{species}.frost")).to_h
          spans = spans(from_dd, to_dd, rulebook)
          told = STAGES.to_h do |stage|
            ten, ninety = nights.fetch(stage)
            from, to = spans.fetch(stage)
            [stage, Frost.call(base_c: base_c, from_dd: from, to_dd: to, history: history, ten_percent_c: ten,
                               ninety_percent_c: ninety)]
          end
          told["bloom"].merge(stages: told.transform_values { |each| each[:expected_loss] }, lost: lost(told))
        end

        # @return [Hash{String=>Array(Float, Float)}] degree-days from and to
        def spans(from_dd, to_dd, rulebook)
          { "swelling" => [from_dd * rulebook.value("reckoning.frost.swells_from"), from_dd],
            "bloom" => [from_dd, to_dd], "fruitlets" => [to_dd, to_dd + rulebook.value("reckoning.frost.tender_for")] }
        end

        # Year by year what one stage leaves is what the next can lose.
        def lost(told)
          by_year = told.values.flat_map { |each| each[:years] }.group_by { |year| year[:bloom_from].year }
          return nil if by_year.empty?

          by_year.values.sum { |years| 1 - years.reduce(1.0) { |left, year| left * (1 - year[:loss]) } } / by_year.size
        end
        private_class_method :spans, :lost
      end
    end
  end
end
