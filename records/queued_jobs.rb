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
    end
  end
end
