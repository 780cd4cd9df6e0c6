# frozen_string_literal: true

module Vestry
  module Records
    class Variety < Sequel::Model(DB[:varieties])
      include Row
      many_to_one :orchard
    end
  end
end
