# frozen_string_literal: true

module Vestry
  module Records
    # A visit to a graft.
    class Visit < Sequel::Model(DB[:observations])
      include Row
      many_to_one :graft
    end
  end
end
