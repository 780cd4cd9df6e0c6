# frozen_string_literal: true

require "que"
require "timeout"

module Vestry
  module Deeds
    module Jobs
      # Does background work in this process. The queue's threads end when the database goes away, and one of them may
      # end while the others go on: whichever ends, all begin anew, with connections of their own.
      class Worker
        POLL_SECONDS = 5
        # How long it waits before it begins anew, and for what it was doing to end.
        PAUSE = 3
        PATIENCE = 30

        def self.begin = new.tap(&:start)

        # The queue's threads say of themselves, as they begin, that what ends them ends the process. In this group, to
        # which the threads of its threads belong too, it does not.
        GROUP = ThreadGroup.new
        module EndsAlone
          def abort_on_exception=(takes)
            super(takes && !GROUP.equal?(group))
          end
        end
        Thread.prepend(EndsAlone)
        private_constant :GROUP, :EndsAlone

        # In a thread of its own.
        def start
          @thread = Thread.new do
            GROUP.add(Thread.current)
            keep_working
          end
        end

        # Ends, once what is being done is done.
        def stop
          @stopping = true
          @locker&.stop!
          @thread&.join
        end

        # Whether every one of its threads is at work.
        def alive? = !@locker.nil? && threads(@locker).all?(&:alive?)

        private

        def keep_working
          until @stopping
            begin
              @locker = begin_locker
              watch(@locker)
            rescue StandardError => e
              Que.logger.warn("background work waits: #{e.message.lines.first}")
            ensure
              sleep PAUSE unless @stopping
            end
          end
        end

        def begin_locker
          Que::Locker.new(worker_priorities: [nil], poll_interval: POLL_SECONDS).tap do |locker|
            threads(locker).each { |thread| thread.report_on_exception = false }
          end
        end

        def watch(locker)
          until locker.thread.join(1)
            next if locker.workers.all? { |worker| worker.thread.alive? }

            Que.logger.warn("a thread of background work ended; all begin anew")
            return let_go(locker)
          end
        end

        # What it had locked is free again only when its connection is closed.
        def let_go(locker)
          Timeout.timeout(PATIENCE) { locker.stop! }
        rescue StandardError
          locker.thread.kill
          DB.disconnect
        end

        def threads(locker) = [locker, *locker.workers].map(&:thread)
      end
    end
  end
end
