# frozen_string_literal: true

module Vestry
  module Records
    # A packed orchard on its way in: its zip is tried, then brought in; it can be taken back.
    class Upload < Sequel::Model(DB[:uploads])
      many_to_one :account
      many_to_one :orchard
      UNDER_WAY = %w[waiting trying sent bringing].freeze

      # Someone's latest, newest first.
      def self.of(account, most: 10) = where(account_id: account.id).reverse_order(:id).limit(most).all

      # @raise [Missing] when it is not theirs
      def self.of!(account, token)
        (token.to_s.match?(/\A[0-9a-f-]{36}\z/) && first(account_id: account.id, token: token)) || raise(Missing)
      end

      def under_way? = UNDER_WAY.include?(state)
      def path = File.join(Settings.var, "uploads", "#{token}.zip")
    end
  end
end
