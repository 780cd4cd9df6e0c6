# frozen_string_literal: true

module Vestry
  module Records
    # A file on its way in: previewed, then read as a whole or not at all.
    class Import < Sequel::Model(DB[:imports])
      many_to_one :orchard
    end
  end
end
