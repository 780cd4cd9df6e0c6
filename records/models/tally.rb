# frozen_string_literal: true

module Vestry
  module Records
    # What a graft had come to in one autumn.
    class Tally < Sequel::Model(DB[:tallies])
      include Row
      many_to_one :graft
    end
  end
end
