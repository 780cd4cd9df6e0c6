# frozen_string_literal: true

require "json"
require "securerandom"

module Vestry
  module Outside
    # What broke, a line of JSON each on the server's error output. Whoever met it is told the id.
    module FailureLog
      LINES = 12

      module_function

      # @param error [Exception]
      # @param facts [Hash] where it was: a route, a job, an orchard; nothing of what people typed
      # @return [String] the id under which it stands in the log
      def record(error, **facts)
        @count = count + 1
        id = SecureRandom.hex(4)
        about = { error: error.class.name, message: plain(error.message.to_s), trace: trace(error) }
        output.puts(JSON.generate({ failure: id, at: Time.now.utc.iso8601, **facts, **about }))
        id
      end

      # Does something with each of many, so that one that breaks does not keep the others from their turn.
      #
      # @param what [String] what is done, for the log
      # @yield [Object] each of them
      def each_alone(many, what)
        many.each do |one|
          yield one
        rescue StandardError => e
          record(e, doing: what, of: one.class.name, id: one.respond_to?(:id) ? one.id : nil)
        end
      end

      # How much broke in this process.
      def count = @count || 0

      def output = @output || $stderr

      # Lines go elsewhere while the block runs.
      def writing_to(output)
        before, @output = @output, output
        yield
      ensure
        @output = before
      end

      # Without the insides of an object, which may hold what people typed.
      def plain(message) = message.scrub("?").sub(/#<.*/m, "an object")[0, 500]

      def trace(error) = (error.backtrace || []).map { |line| line.delete_prefix("#{ROOT}/") }.first(LINES)
      private_class_method :plain, :trace
    end
  end
end
