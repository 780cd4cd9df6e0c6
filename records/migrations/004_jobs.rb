# frozen_string_literal: true

require "que"

# Long work is queued in the database.
Sequel.migration do
  up do
    Que.connection = self
    Que.migrate!(version: 7)
  end

  down do
    Que.connection = self
    Que.migrate!(version: 0)
  end
end
