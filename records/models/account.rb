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

      # Nothing opens with it any more: sign-ins, keys, devices, and letters on their way.
      def end_access(now = Time.now.utc)
        %i[account_active_session_keys account_webauthn_keys known_devices].each do |table|
          DB[table].where(account_id: id).delete
        end
        %i[account_otp_keys account_recovery_codes account_webauthn_user_ids account_login_change_keys
           account_password_reset_keys account_lockouts].each { |table| DB[table].where(id: id).delete }
        [ApiToken, CalendarKey].each do |keys|
          keys.where(account_id: id, revoked_at: nil).update(revoked_at: now)
        end
        DB[:letters].where(account_id: id, orchard_id: nil).delete
      end

      # Its address and its password are forgotten.
      def forget(now = Time.now.utc)
        Account.where(id: id).update(email: "closed-#{id}@closed.invalid", password_hash: nil, closed_at: now)
      end

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
