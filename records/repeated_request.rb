# frozen_string_literal: true

require "digest"

module Vestry
  module Records
    # What a program was answered under an Idempotency-Key, so that the same request sent again is one deed.
    module RepeatedRequest
      LONGEST = 200
      # So long an answer is kept.
      DAYS = 3

      module_function

      def key?(text) = text.match?(/\A[[:print:]]{1,#{LONGEST}}\z/)

      # The answer that was given under a key, else what the block answers, which is then kept with the deed. Two
      # that come at once wait for each other.
      #
      # @param request [Object] what tells one request from another under the same key
      # @yieldreturn [Array(String, Integer)] an answer and its status
      # @return [Array(String, Integer), nil] nil where the key came with another request
      def answer(account, key, request)
        digest = Digest::SHA256.hexdigest(JSON.generate(request))
        DB.transaction do
          mine = { account_id: account.id, key: key }
          fresh = DB[:repeated_requests].insert_conflict.returning(:key).insert(**mine, digest: digest).any?
          next known(DB[:repeated_requests].first(mine), digest) unless fresh

          body, status = yield
          DB[:repeated_requests].where(mine).update(body: body, status: status)
          DB[:repeated_requests].where { created_at < Sequel.date_sub(Sequel::CURRENT_TIMESTAMP, days: DAYS) }.delete
          [body, status]
        end
      end

      # When a form of theirs was last answered: a form made before that has a key that is used up.
      #
      # @return [Float, nil]
      def latest(account) = DB[:repeated_requests].where(account_id: account.id).max(:created_at)&.to_f

      def known(row, digest) = row[:digest] == digest ? row.values_at(:body, :status) : nil
      private_class_method :known
    end
  end
end
