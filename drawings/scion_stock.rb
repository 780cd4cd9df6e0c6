# frozen_string_literal: true

module Vestry
  module Drawings
    # A worked stub in its first summer: what grows from the sticks, and what from the stock below.
    class ScionStock
      def svg = Template.render("scion_stock", self)
    end
  end
end
