# frozen_string_literal: true

module Vestry
  module Outside
    # Where knocks at the door are counted, so that every server counts together.
    class DoorCounts
      def increment(key, amount = 1, options = {})
        ends = Time.now.utc + (options[:expires_in] || 60)
        swept if rand < 0.01
        DB[:door_counts].returning(:value).insert_conflict(
          target: :key,
          update: { value: Sequel.case([[Sequel[:door_counts][:expires_at] < Sequel::CURRENT_TIMESTAMP, amount.to_s]],
                                       (Sequel[:door_counts][:value].cast(Integer) + amount).cast(String)),
                    expires_at: Sequel.case([[Sequel[:door_counts][:expires_at] < Sequel::CURRENT_TIMESTAMP, ends]],
                                            Sequel[:door_counts][:expires_at]) }
        ).insert(key: key, value: amount.to_s, expires_at: ends).first[:value].to_i
      end

      def read(key) = DB[:door_counts].where(key: key).where { expires_at > Sequel::CURRENT_TIMESTAMP }.get(:value)

      def write(key, value, options = {})
        DB[:door_counts].insert_conflict(target: :key, update: { value: value.to_s })
          .insert(key: key, value: value.to_s, expires_at: Time.now.utc + (options[:expires_in] || 60))
      end

      def delete(key) = DB[:door_counts].where(key: key).delete

      private

      def swept = DB[:door_counts].where { expires_at < Sequel::CURRENT_TIMESTAMP }.delete
    end
  end
end
