# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Goes round the outside devices again and again.
      class Rounds < Que::Job
        EVERY = 600

        # Begins going round, unless it goes round already.
        def self.begin = following(nil, at: Time.now)

        # One more round, unless one waits already. Two that ask at once wait for each other.
        #
        # @param present [Integer, nil] the job that is being done, which is over with this
        def self.following(present, at:)
          DB.transaction do
            Records::AdvisoryLock.hold(:rounds)
            enqueue(job_options: { run_at: at }) unless Records::QueuedJobs.any?(name, except: present)
          end
        end

        PARTS = { "thermometers" => -> { AskThermometers.call }, "weather" => -> { AskWeather.all }, "letters" => -> { DailyLetters.all } }.freeze

        # What breaks in one part is logged and keeps none of the others from its turn; the next round comes once,
        # whatever became of this one.
        def run
          PARTS.each do |name, part|
            part.call
          rescue StandardError => e
            Outside::FailureLog.record(e, job: self.class.name, part: name)
          end
          return if Settings.test?

          DB.transaction do
            self.class.following(que_attrs[:id], at: Time.now + EVERY)
            destroy
          end
        end
      end
    end
  end
end
