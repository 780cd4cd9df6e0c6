# frozen_string_literal: true

module Vestry
  module Records
    # The database as such.
    module Connection
      # Whether it answers.
      def self.up?
        DB.get(1) == 1
      rescue Sequel::Error
        false
      end
    end
  end
end
