# frozen_string_literal: true

module Vestry
  module Drawings
    # Varieties through the months: when each blooms and when it is picked.
    class VarietyYear < YearRows
      # @param varieties [Array] with a +name+ and the days of bloom and harvest, "MM-DD"
      # @param season [Core::Season] where the drawn year begins
      # @param href [Proc] a variety to its address; nil where it has none
      def initialize(varieties, season, href: ->(_) {}, width: WIDE)
        super(season.first_month, width: width)
        @varieties = varieties
        @href = href
      end

      def kind = "variety-year"
      def title = "When each variety blooms and is picked"

      def rows
        @rows ||= @varieties.each_with_index.map do |variety, i|
          bloom, harvest = [%i[bloom_from bloom_to], %i[harvest_from harvest_to]]
            .map { |names| names.map { |name| variety.public_send(name) } }
          YearRow.new(name: short(variety.name), href: @href.call(variety), y: top(i),
                      bars: bars("bloom", i, *bloom, y: 5) + bars("harvest", i, *harvest, y: 18),
                      spoken: "#{variety.name}: blooms #{spoken(bloom)}, picked #{spoken(harvest)}")
        end
      end

      private

      def spoken(days) = days.map { |day| day || "unknown" }.join(" to ")
    end
  end
end
