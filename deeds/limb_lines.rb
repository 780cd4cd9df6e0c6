# frozen_string_literal: true

module Vestry
  module Deeds
    # Limb lines typed for a tree: what each comes to, what is wrong, what is asked about; kept all
    # together or not at all.
    class LimbLines
      MOST = 20_000

      # @param text [String] a limb a line
      def initialize(tree, text)
        @tree = tree
        @text = text.to_s.scrub("?")[0, MOST]
      end

      # Every line as it was read.
      def reads = @reads ||= Core::Survey::LimbLine.read_all(@text, units: @tree.orchard.units, taken: @tree.limbs_dataset.select_map(:tag))

      # The same, with those that cannot be on this tree told so.
      def judged
        @judged ||= reads.map do |read|
          why = read.ok? && SurveyLimbs.impossible(@tree, read.values)
          why ? read.dup.tap { |each| each.word, each.why = "from", why } : read
        end
      end

      def faults = judged.reject(&:ok?)

      # Measures that are possible and not likely, in words.
      def doubts = @doubts ||= judged.select(&:ok?).flat_map { |read| SurveyLimbs.doubts(@tree, read.values) }

      # @param sure [Boolean] what is asked about is so
      def keepable?(sure:) = reads.any? && faults.empty? && (sure || doubts.empty?)

      # @return [Array<Records::Limb>]
      # @raise [Refused]
      def keep(by:, today:)
        SurveyLimbs.call(@tree, reads.map { |read| read.values.merge(typed: read.text[/girth\s+(.+?)(?=\s+[a-z]{2,}\b|\z)/i, 1]) }, by: by, today: today)
      end
    end
  end
end
