# frozen_string_literal: true

require "rbconfig"
require "timeout"
require "tmpdir"

module Vestry
  module Outside
    # Shrinks what was sent as a picture in a process of its own, one at a time: whatever it holds, it takes no more
    # than so much room and time.
    module PictureShrinker
      SCRIPT = File.join(__dir__, "shrink_picture.rb")
      MOST_PIXELS = 30_000_000
      # Of the processor's time; by the clock as often again, for a host that serves others too.
      MOST_SECONDS = 20
      # Of address space: the decoder's libraries take a third of it.
      MOST_MEMORY = 1536 * 1024 * 1024
      # Waiting for those before it.
      PATIENCE = 30
      GATE = Thread::SizedQueue.new(1)
      SAID = { 2 => "is not a whole photo; JPEG, PNG and WebP are",
               3 => "has more than #{MOST_PIXELS / 1_000_000} million points: send a smaller one" }.freeze

      module_function

      # @param bytes [String] as they were sent
      # @param sides [Hash{String=>Integer}] longest side by name: the large first
      # @return [Hash{String=>String}] JPEG bytes by name
      # @raise [PhotoStore::NotAPicture]
      def call(bytes, sides)
        one_at_a_time do
          Dir.mktmpdir("picture") do |folder|
            File.binwrite(File.join(folder, "sent"), bytes)
            run(folder, sides)
            sides.keys.to_h { |name| [name, File.binread(File.join(folder, name))] }
          end
        end
      rescue Errno::ENOSPC, Errno::EDQUOT
        raise PhotoStore::NotAPicture, "cannot be kept: there is no room left for photos here"
      end

      def one_at_a_time
        entered = begin
          Timeout.timeout(PATIENCE) { GATE.push(true) }
        rescue Timeout::Error
          raise PhotoStore::NotAPicture, "has to wait: other photos are being taken in. Send it again"
        end
        yield
      ensure
        GATE.pop if entered
      end

      def run(folder, sides)
        named = sides.flat_map { |name, side| [File.join(folder, name), side.to_s] }
        child = Process.spawn(RbConfig.ruby, SCRIPT, File.join(folder, "sent"), *named, MOST_PIXELS.to_s,
                              in: File::NULL, out: File::NULL, err: File::NULL,
                              close_others: true, pgroup: true, rlimit_as: MOST_MEMORY, rlimit_cpu: MOST_SECONDS,
                              rlimit_fsize: PhotoStore::MOST_BYTES)
        status = wait(child)
        unless status&.success?
          raise PhotoStore::NotAPicture, SAID.fetch(status&.exitstatus,
                                                    "cannot be read within the room and time there is")
        end
      end

      # @return [Process::Status, nil] nil where it was ended
      def wait(child)
        watching = Process.detach(child)
        return watching.value if watching.join(MOST_SECONDS * 2)

        Process.kill("KILL", child)
        watching.join
        nil
      end
      private_class_method :one_at_a_time, :run, :wait
    end
  end
end
