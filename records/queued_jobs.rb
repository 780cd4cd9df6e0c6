# frozen_string_literal: true

module Vestry
  module Records
    # Jobs that are queued.
    module QueuedJobs
      # @param job_class [String]
      # @param except [Integer, nil] a job that does not count: the one that asks
      # @return [Boolean] whether one of this class is still to be done
      def self.any?(job_class, except: nil)
        to_do = DB[:que_jobs].where(job_class: job_class, finished_at: nil, expired_at: nil)
        to_do = to_do.exclude(id: except) if except
        !to_do.empty?
      end

      # @return [Hash] +waiting+, those whose time has come, and +failed+, those that failed and are tried again or were
      #   given up
      def self.counted
        open = DB[:que_jobs].where(finished_at: nil)
        { waiting: open.where(expired_at: nil, error_count: 0).where { run_at <= Sequel::CURRENT_TIMESTAMP }.count,
          failed: open.where { error_count > 0 }.count }
      end
    end
  end
end
