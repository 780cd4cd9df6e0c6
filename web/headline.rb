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

      # What a sentence asks for: the words of the button that leads there, and the least that may press it.
      Act = Struct.new(:words, :station, :path, :role, keyword_init: true)

      attr_reader :orchard
      # @return [Act, nil] of the sentence that was asked for last; nil where it asks for nothing
      attr_reader :act

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end

      private

      def leading(sentence, words, station, path = "", role: "viewer")
        @act = Act.new(words: words, station: station, path: path, role: role)
        sentence
      end
    end
  end
end
