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
        end

        # push = min(4, 1 / max(0.1, kept + 0.04 stubs)); shoot = ordinary x push. A planning
        # figure: the roots fed the whole head, and feed what is left of it.
        #
        # @return [Hash] +push+ (times the ordinary), +shoot_mm+ (mm) and +reasons+: keep more
        #   nurse or more stubs, keep less, or neither
        def self.call(kept:, stubs:, ordinary_mm: 450.0, rulebook: Rulebook.shipped)
          each_stub = rulebook.value("reckoning.vigour.stub_share")
          push = [rulebook.value("reckoning.vigour.most_push"),
                  1 / [rulebook.value("reckoning.vigour.least_kept"), kept + each_stub * stubs].max].min.to_f
          shoot = ordinary_mm * push
          code = if shoot > rulebook.value("reckoning.vigour.long_shoot") + Near::TOLERANCE then "vigour_keep_more"
                 else
                   shoot < ordinary_mm - Near::TOLERANCE ? "vigour_keep_less" : "vigour_well"
                 end
          { push: push, shoot_mm: shoot, reasons: [{ code: code, shoot_mm: shoot, kept: kept, stubs: stubs }] }
        end
      end
    end
  end
end
