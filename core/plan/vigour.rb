# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # How hard the roots will push what is left, and the first-year shoot to expect.
      module Vigour
        extend Reckoning

        contract "vigour", "How hard the roots push what is left, and the first-year shoot to expect" do
          number :kept, least: 0, most: 1, help: "share of the head that stays"
          integer :stubs, least: 0, most: 10_000, help: "worked this season"
          number :ordinary_mm, unit: "mm", above: 0, default: 450.0, help: "a shoot on an unpruned tree of this kind"
          number :above, least: 0, most: 1, default: 0.0,
                         help: "share of the leaf that stays standing higher than the grafts"
          number :largest_kept, least: 0, most: 1, default: 0.0,
                                help: "share of the head on the largest limb that stays"
        end

        # push = min(4, 1 / max(0.1, kept + 0.04 stubs)); shoot = ordinary x push. A planning
        # figure: the roots fed the whole head, and feed what is left of it.
        #
        # @return [Hash] +push+ (times the ordinary), +shoot_mm+ (mm) and +reasons+: keep more nurse or more stubs,
        #   the grafts are overtopped, one nurse is too strong, or all is well
        def self.call(kept:, stubs:, ordinary_mm: 450.0, above: 0.0, largest_kept: 0.0, rulebook: Rulebook.shipped)
          book = ->(key) { rulebook.value("reckoning.vigour.#{key}") }
          push = push(kept, stubs, rulebook)
          shoot = ordinary_mm * push
          codes = [("vigour_keep_more" if shoot > book["long_shoot"] + Near::TOLERANCE),
                   ("vigour_overtopped" if above > book["above_most"] + Near::TOLERANCE),
                   ("vigour_nurse_too_strong" if largest_kept > book["nurse_most"] + Near::TOLERANCE)].compact
          codes << "vigour_well" if codes.empty?
          figures = { shoot_mm: shoot, kept: kept, stubs: stubs, above: above, largest_kept: largest_kept }
          { push: push, shoot_mm: shoot, reasons: codes.map { |code| { code: code, **figures } } }
        end

        # How hard the roots push, in times the ordinary.
        def self.push(kept, stubs, rulebook)
          { "most" => rulebook.value("reckoning.vigour.most_push"),
            "least" => 1 / rulebook.value("reckoning.vigour.least_kept") }
            .fetch(bound(kept, stubs, rulebook)) { 1 / fed(kept, stubs, rulebook) }.to_f
        end

        # Which bound of the rulebook's that is, where it is one.
        #
        # @return [String, nil] most (no shoot is pushed harder) or least (roots feed no less)
        def self.bound(kept, stubs, rulebook)
          most, least = %w[most_push least_kept].map { |name| rulebook.value("reckoning.vigour.#{name}") }
          fed = fed(kept, stubs, rulebook)
          return "most" if 1 / [least, fed].max > most

          "least" if fed < least
        end

        # What the roots feed, in heads: what stays, and what the stubs take up.
        def self.fed(kept, stubs, rulebook) = kept + rulebook.value("reckoning.vigour.stub_share") * stubs

        # A year's shoot of an unpruned tree of a kind.
        #
        # @param species [String]
        # @return [Float] mm
        def self.ordinary(species, rulebook)
          rulebook.value("reckoning.vigour.ordinary").fetch(species, contract.field(:ordinary_mm).default).to_f
        end
        private_class_method :push, :fed
      end
    end
  end
end
