# frozen_string_literal: true

module Vestry
  module Web
    # The one sentence each page opens with: what matters here today, and what to do.
    class Headline
      include Helpers::Words
      include Helpers::Pictures
      include Sentences
      include OfTrees
      include OfPlans
      include OfWood
      include OfBark
      include OfGrafting
      include OfCare
      include OfToday

      attr_reader :orchard

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end
    end
  end
end
