# frozen_string_literal: true

module Vestry
  module Records
    # What a person did or waived about a reckoned task.
    class TaskDone < Sequel::Model(DB[:tasks_done])
      include Row
      many_to_one :graft
      many_to_one :wound
    end
  end
end
