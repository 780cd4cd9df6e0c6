# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Work that is done again and again: the next time waits in the queue once, whatever became of this one.
      class Recurring < Que::Job
        class << self
          # Begins, unless it goes on already.
          def begin = following(nil, at: Time.now)

          # One more time, unless one waits already. Two that ask at once wait for each other.
          #
          # @param present [Integer, nil] the job that is being done, which is over with this
          def following(present, at:)
            DB.transaction do
              Records::AdvisoryLock.hold(:rounds)
              enqueue(job_options: { run_at: at }) unless Records::QueuedJobs.any?(name, except: present)
            end
          end
        end

        # What breaks in one part is logged and keeps none of the others from its turn.
        def run
          self.class::PARTS.each do |name, part|
            part.call
          rescue StandardError => e
            Outside::FailureLog.record(e, job: self.class.name, part: name)
          end
          return if Settings.test?

          DB.transaction do
            self.class.following(que_attrs[:id], at: Time.now + self.class::EVERY)
            destroy
          end
        end
      end
    end
  end
end
