# frozen_string_literal: true

module Vestry
  module Records
    # How many questions this thread asked of the database, for what is told of a request.
    module QueryCount
      KEY = :vestry_queries
      private_constant :KEY

      module_function

      def so_far = Thread.current[KEY] || 0
      def one_more = Thread.current[KEY] = so_far + 1

      # Counts from now on.
      #
      # @param database [Sequel::Database]
      def watch(database)
        database.extend(Watching)
      end

      # What a database is given to do passes here.
      module Watching
        def execute(...)
          QueryCount.one_more
          super
        end
      end
      private_constant :Watching
    end
  end
end
