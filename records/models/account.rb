# frozen_string_literal: true

module Vestry
  module Records
    # A person who signs in.
    class Account < Sequel::Model(DB[:accounts])
      one_to_many :memberships, conditions: { hidden_at: nil }

      # @return [String, nil] their role in this orchard
      def role_in(orchard) = standing_in(orchard)&.fetch(:role)

      # What they are called in this orchard: nobody else there has that name.
      def name_in(orchard) = standing_in(orchard)&.fetch(:known_as) || name

      # Their role and their name in this orchard; nil where they do not belong to it.
      def standing_in(orchard)
        Membership.in_sight.where(account_id: id, orchard_id: orchard.id).naked.select(:role, :known_as).first
      end

      # @return [Integer, nil] whose address this is
      def self.id_by(address) = where(email: address).get(:id)

      # Whether a letter of a kind went to someone within so many seconds.
      #
      # @param table [Symbol] where rodauth keeps the keys of such letters
      def self.written_lately?(table, id, seconds)
        since = Sequel.date_sub(Sequel::CURRENT_TIMESTAMP, seconds: seconds)
        !DB[table].where(id: id).where { email_last_sent > since }.empty?
      end

      def self.locked?(id) = !DB[:account_lockouts].where(id: id).empty?

      # Whether signing in takes more than a password.
      def second_factor?
        %i[account_otp_keys account_webauthn_keys].any? do |table|
          !DB[table].where((table == :account_otp_keys ? :id : :account_id) => id).empty?
        end
      end

      # Where they are signed in, latest first: +created_at+ and +last_use+.
      def sign_ins = DB[:account_active_session_keys].where(account_id: id).order(Sequel.desc(:last_use)).all

      # Ends one of them, known by what stands in the list.
      def self.end_session(account, id)
        DB[:account_active_session_keys].where(account_id: account.id, session_id: id.to_s[0, 200]).delete
      end

      def orchards
        @orchards ||= Orchard.in_sight.where(id: Membership.in_sight.where(account_id: id).select(:orchard_id))
          .order(:name).all
      end
    end
  end
end
