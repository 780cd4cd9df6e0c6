# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Goes round the outside devices again and again.
      class Rounds < Que::Job
        EVERY = 600

        # Begins going round, unless it goes round already.
        def self.begin
          DB.transaction do
            DB.run("LOCK TABLE que_jobs IN SHARE ROW EXCLUSIVE MODE")
            enqueue unless DB[:que_jobs].where(job_class: name, finished_at: nil, expired_at: nil).any?
          end
        end

        def run
          AskThermometers.call
          AskWeather.all
          DailyLetters.all
        ensure
          self.class.enqueue(job_options: { run_at: Time.now + EVERY }) unless Settings.test?
        end
      end
    end
  end
end
