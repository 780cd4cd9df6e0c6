# frozen_string_literal: true

module Vestry
  module Core
    module Repair
      # A stripped trunk: how much of it is girdled, what that calls for, and where each bridging
      # scion goes with its own length.
      module Bridge
        extend Reckoning

        VERDICTS = %w[dress advised needed inarch cut-back].freeze

        contract "bridge", "How much of a trunk is girdled, what that calls for, and the scions that would bridge it" do
          number :girth_mm, unit: "mm", above: 0, most: 20_000, help: "of the trunk at the wound"
          list :wound, longest: 720,
                       help: "its margins by bearing; between readings they run straight, round the back to the " \
                             "first" do
            number :bearing_deg, unit: "degrees", least: 0, below: 360
            number :low_mm, unit: "mm", help: "above the soil, below it negative"
            number :high_mm, unit: "mm", help: "at or below low_mm: bark lives here"
          end
          number :spacing_mm, unit: "mm", least: 10, default: 60.0, help: "of scions round the wound"
          number :seat_mm, unit: "mm", least: 0, default: 45.0, help: "under the bark at each end"
          number :bow, least: 0, most: 1, default: 0.12, help: "how far a scion stands out, as a share of its gap"
          flag :root_bark, default: true, help: "live bark is left above the roots"
        end

        # A scion spans its gap in a flat arc: length = gap (1 + 8/3 bow^2) + 2 seat, the arc of a
        # parabola of that rise to second order. Scions are placed whatever the verdict.
        #
        # @return [Hash] +girdled_share+ (0..1), +verdict+ (dress, advised, needed, inarch, cut-back), +count+,
        #   +scions+ in order of bearing, each +bearing_deg+, +gap_mm+, +length_mm+, +low_mm+ and +high_mm+;
        #   +runs+, +total_mm+, +extent_mm+ and +below_soil+
        def self.call(girth_mm:, wound:, spacing_mm: 60.0, seat_mm: 45.0, bow: 0.12, root_bark: true,
                      rulebook: Rulebook.shipped)
          margins = WoundShape.new(wound)
          share = margins.girdled_share
          scions = bearings(margins, girth_mm, spacing_mm, rulebook).sort
            .map { |bearing| scion(margins, bearing, seat_mm, bow) }
          { girdled_share: share, verdict: verdict(share, girth_mm, root_bark, rulebook), count: scions.size,
            scions: scions, runs: margins.runs,
            total_mm: scions.sum(0.0) { |each| each[:length_mm] }, extent_mm: margins.extent,
            below_soil: margins.below_soil? }
        end

        # One scion at a bearing.
        def self.scion(margins, bearing, seat_mm, bow)
          low, high = margins.margins(bearing)
          gap = margins.gap(bearing)
          { bearing_deg: bearing, gap_mm: gap, length_mm: gap * (1 + 8.0 / 3 * bow**2) + 2 * seat_mm, low_mm: low,
            high_mm: high }
        end

        # @param share [Float] of the girth without bark
        # @return [String]
        def self.verdict(share, girth_mm, root_bark, rulebook = Rulebook.shipped)
          advised, needed = rulebook.value("reckoning.bridge.advised"), rulebook.value("reckoning.bridge.needed")
          if Near.at_least?(share, needed) && girth_mm / Math::PI < rulebook
            .value("reckoning.bridge.thin") - Near::TOLERANCE
            return "cut-back"
          end
          return "inarch" if Near.at_least?(share, advised) && !root_bark
          return "dress" unless Near.at_least?(share, advised)

          Near.at_least?(share, needed) ? "needed" : "advised"
        end

        # A full ring starts where the wound is narrowest; a stretch is shared out evenly.
        def self.bearings(margins, girth_mm, spacing_mm, rulebook)
          return around(margins, round(girth_mm, spacing_mm, rulebook)) if margins.ring?

          margins.runs.flat_map do |from, to|
            count = Near.ceil((to - from) / 360.0 * girth_mm / spacing_mm)
            Array.new(count) { |i| (from + (i + 0.5) * (to - from) / count) % 360 }
          end
        end

        # How many go round a full ring: one alone, or two, would carry the whole head.
        def self.round(girth_mm, spacing_mm, rulebook)
          least, from_mm = rulebook.value("reckoning.bridge.ring")
          [Near.ceil(girth_mm / spacing_mm), Near.at_least?(girth_mm, from_mm) ? least : 1].max
        end

        def self.around(margins, count)
          gaps = (0...360).map { |degree| margins.gap(degree) }
          first = gaps.index { |gap| Near.at_most?(gap, gaps.min) }
          Array.new(count) { |i| (first + i * 360.0 / count) % 360 }
        end
        private_class_method :bearings, :round, :around
      end
    end
  end
end
