# frozen_string_literal: true

module Vestry
  module Drawings
    # Words by which a drawing is read aloud.
    module Spoken
      module_function

      # So many of a thing: "1 stick", "3 sticks".
      def counted(number, one) = "#{number} #{number == 1 ? one : "#{one}s"}"
    end
  end
end
