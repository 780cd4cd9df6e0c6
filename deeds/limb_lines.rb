# frozen_string_literal: true

module Vestry
  module Deeds
    # Limb lines typed for a tree: what each comes to, what is wrong, what is asked about. Lines that can be kept
    # are; the others stay to be mended.
    class LimbLines
      MOST = 20_000

      # @param text [String] a limb a line
      # @param units [String] of bare numbers
      def initialize(tree, text, units: tree.orchard.units)
        @tree = tree
        @units = units
        @text = text.to_s.scrub("?")[0, MOST]
      end

      # Every line as it was read.
      def reads
        @reads ||= Core::Survey::LimbLine.read_all(@text, units: @units,
            taken: @tree.limb_ids_by_tag.keys)
      end

      # The same, with those that cannot be on this tree told so.
      def judged
        @judged ||= reads.map do |read|
          others = reads.take_while { |other| !other.equal?(read) }.select(&:ok?).map(&:values)
          why = read.ok? && SurveyLimbs.impossible(@tree, read.values, others)
          why ? read.dup.tap { |each| each.word, each.why = "from", why } : read
        end
      end

      # Measures that are possible and not likely, in words.
      def doubts = @doubts ||= judged.select(&:ok?).flat_map { |read| doubts_of(read) }

      # Lines that can be kept now: read, believed, and growing from a limb that stands or is kept with them.
      #
      # @param sure [Boolean] what is asked about is so
      # @return [Array<Core::Survey::LimbLine::Read>]
      def good(sure:)
        left = judged.reject { |read| read.ok? && (sure || doubts_of(read).empty?) }.filter_map do |read|
          read.tag&.upcase
        end
        judged.select do |read|
          next false unless read.ok? && (sure || doubts_of(read).empty?)

          held = read.values[:parent] && left.include?(read.values[:parent].upcase)
          left << read.tag.upcase if held
          !held
        end
      end

      # What stays to be mended, as it was typed.
      #
      # @return [Array<Core::Survey::LimbLine::Read>]
      def rest(sure:) = judged - good(sure: sure)

      # Keeps the lines that can be.
      #
      # @return [Array<Records::Limb>]
      # @raise [Refused]
      def keep(by:, today:, sure:) = SurveyLimbs.call(@tree, good(sure: sure).map(&:values), by: by, today: today)

      private

      def doubts_of(read) = SurveyLimbs.doubts(@tree, read.values)
    end
  end
end
