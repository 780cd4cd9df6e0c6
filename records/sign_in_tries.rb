# frozen_string_literal: true

require "digest"

module Vestry
  module Records
    # Wrong tries at signing in, and how long they make the next one wait. Counted for an address at one place (or on
    # one known device), and for the address from everywhere, whether or not anyone is known by it.
    module SignInTries
      # So many tries are free at one place, and from all places together.
      FREE_HERE = 5
      FREE_ALTOGETHER = 20
      LONGEST_WAIT = 900
      # After so many seconds without a try, counting begins anew.
      FORGOTTEN_AFTER = 86_400

      module_function

      # Takes one try, when it need not wait. Two at once are counted one after the other.
      #
      # @param address [String] the address as typed, in small letters
      # @param place [String] where it comes from
      # @param device [String, nil] the token of a device on which this person signed in before; its tries count for it
      #   alone, so that nobody elsewhere can shut it out
      # @return [Integer] seconds to wait; 0 where the try was taken
      def take(address, place, device: nil)
        waiting = step(here(address, place, device), FREE_HERE)
        return waiting if waiting.positive? || device

        step(everywhere(address), FREE_ALTOGETHER)
      end

      # Forgets the tries of whoever got in. From a device that is not known yet, only the try that was right is taken
      # back from those of everywhere: what others tried in vain still counts.
      def clear(address, place, device: nil)
        DB[:sign_in_tries].where(key: [here(address, place, device), (everywhere(address) if device)].compact).delete
        return if device

        DB[:sign_in_tries].where(key: everywhere(address)).where { failures > 0 }
          .update(failures: Sequel[:failures] - 1)
      end

      # Drops what is forgotten anyway.
      def purge(now = Time.now.utc) = DB[:sign_in_tries].where { last_at < now - FORGOTTEN_AFTER }.delete

      def here(address, place, device) = digest(device ? "device:#{device}" : "place:#{place}", address)
      def everywhere(address) = digest("everywhere", address)
      def digest(kind, address) = Digest::SHA256.hexdigest("#{kind}\n#{address}")

      # Counts one more where none has to wait: the wait doubles with each beyond the free ones. A free one never waits,
      # also where it began before another that was counted sooner.
      def step(key, free)
        wait = "CASE WHEN t.failures < #{free} THEN 0 ELSE least(#{LONGEST_WAIT}, power(2, least(t.failures " \
               "- #{free}, 12))) END"
        taken = DB[<<~SQL, key].all
          INSERT INTO sign_in_tries AS t (key) VALUES (?)
          ON CONFLICT (key) DO UPDATE
            SET failures = CASE WHEN t.last_at < localtimestamp - interval '#{FORGOTTEN_AFTER} s' THEN 1
                                ELSE t.failures + 1 END,
                last_at = localtimestamp
            WHERE t.failures < #{free} OR t.last_at + make_interval(secs => #{wait}) <= localtimestamp
          RETURNING failures
        SQL
        return 0 if taken.any?

        DB["SELECT ceil(extract(epoch FROM t.last_at + make_interval(secs => #{wait}) - localtimestamp)) AS left " \
           "FROM sign_in_tries t WHERE key = ?", key]
          .get(:left).to_i.clamp(1, LONGEST_WAIT)
      end
      private_class_method :here, :everywhere, :digest, :step
    end
  end
end
