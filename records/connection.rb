# frozen_string_literal: true

module Vestry
  module Records
    # The database as such.
    module Connection
      # So long a statement may take until the transaction ends.
      #
      # @param time [String] as "15min"
      def self.allow(time) = DB.run("SET LOCAL statement_timeout = #{DB.literal(time)}")

      # Whether it answers.
      def self.up?
        DB.get(1) == 1
      rescue Sequel::Error
        false
      end
    end
  end
end
