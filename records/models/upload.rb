# frozen_string_literal: true

module Vestry
  module Records
    # A packed orchard on its way in: its zip is tried, then brought in; it can be taken back.
    class Upload < Sequel::Model(DB[:uploads])
      include Advances
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

      # The files that are still wanted.
      def self.kept_paths = where(state: [*UNDER_WAY, "tried"]).map(&:path)

      # Someone's that are under way.
      def self.under_way(account) = where(account_id: account.id, state: UNDER_WAY).count

      # How many bytes someone has sent since a moment.
      def self.bytes_since(account, time) = where(account_id: account.id).where { created_at > time }.sum(:bytes).to_i

      # Those that were tried before a moment and not brought in.
      def self.tried_before(time) = where(state: "tried").where { created_at < time }.all

      # Counts a step of it that is begun.
      #
      # @return [Boolean] false where it was begun as often as it may be
      def count_try(most)
        Upload.where(id: id).where { tries < most }.update(tries: Sequel[:tries] + 1).positive?
      end

      # Whether others than who brought it belong to its orchard.
      def others? = Membership.of(orchard).any? { |member| member.account_id != account_id }
    end
  end
end
