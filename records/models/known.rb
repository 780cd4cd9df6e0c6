# frozen_string_literal: true

module Vestry
  module Records
    # Columns whose words the rulebook owns: one that it does not know, or knows no more, reads as another, so that a
    # page shows the rest.
    module Known
      # @param column [Symbol]
      # @param otherwise [Object] what it reads as then; asked for when it is a proc
      # @yield the words there are
      def known(column, otherwise: nil, &words)
        define_method(column) do
          word = super()
          next word if word.nil? || words.call.include?(word)

          otherwise.respond_to?(:call) ? otherwise.call : otherwise
        end
      end
    end
  end
end
