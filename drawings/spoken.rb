# frozen_string_literal: true

module Vestry
  module Drawings
    # Counts in words, as a drawing is read aloud and as pages and sheets say them.
    module Spoken
      module_function

      # So many of a thing: "1 stick", "3 sticks".
      def counted(number, one, many = "#{one}s") = "#{grouped(number)} #{number == 1 ? one : many}"

      # Where a stick sits on a leaning stub, seen from its cut end.
      #
      # @param deg [Numeric] from the upper side, to the right
      def on_leaning(deg)
        turn = ((deg + 180) % 360 - 180).round
        return "on the upper side" if turn.zero?
        return "on the under side" if turn.abs == 180

        "#{turn.abs} degrees #{turn.positive? ? 'right' : 'left'} of the upper side"
      end

      # A method by its name: "rind graft".
      def method_name(technique)
        (Core::Rulebook.shipped.method_fact(technique, "name") || technique.tr("-", " ")).downcase
      end

      # A long number in threes, with a narrow space that does not break.
      def grouped(number) = number.abs < 10_000 ? number.to_s : number.to_s.gsub(/(?<=\d)(?=(?:\d{3})+\z)/, "\u202F")
    end
  end
end
