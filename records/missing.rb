# frozen_string_literal: true

module Vestry
  module Records
    # Asked for by a number this orchard does not have.
    class Missing < StandardError; end
  end
end
