# frozen_string_literal: true

module Vestry
  module Records
    # A graft that was made.
    class Graft < Sequel::Model(DB[:grafts])
      include Row
      many_to_one :orchard
      many_to_one :limb
      many_to_one :variety
      one_to_many :observations, order: %i[seen_on id], conditions: { hidden_at: nil }
      one_to_many :tallies, order: :season, conditions: { hidden_at: nil }
      one_to_many :tasks_done, class: "Vestry::Records::TaskDone", conditions: { hidden_at: nil }
    end
  end
end
