# frozen_string_literal: true

module Vestry
  module Deeds
    # A person closes their account: nothing opens with it any more and its address is forgotten. What they recorded
    # belongs to the orchards and keeps their name.
    module CloseAccount
      module_function

      # @return [Records::Orchard, nil] one that would be left without a steward
      def held_by(account)
        stewards = Records::Membership.in_sight.where(role: "steward")
        mine = stewards.where(account_id: account.id).select_map(:orchard_id)
        alone = mine - stewards.where(orchard_id: mine).exclude(account_id: account.id).select_map(:orchard_id)
        Records::Orchard.in_sight.first(id: alone)
      end

      # @raise [Refused] for the last steward of an orchard
      def call(account)
        DB.transaction do
          Records::Membership.in_sight.where(account_id: account.id).all.each do |member|
            ChangeMember.call(member.orchard, member.id, nil, by: member.known_as)
          end
          end_access(account)
          Records::Account.where(id: account.id).update(email: "closed-#{account.id}@closed.invalid",
                                                        password_hash: nil, closed_at: Time.now.utc)
        end
      end

      def end_access(account)
        %i[account_active_session_keys account_webauthn_keys known_devices].each do |table|
          DB[table].where(account_id: account.id).delete
        end
        %i[account_otp_keys account_recovery_codes account_webauthn_user_ids account_login_change_keys
           account_password_reset_keys account_lockouts]
          .each { |table| DB[table].where(id: account.id).delete }
        now = Time.now.utc
        [Records::ApiToken, Records::CalendarKey].each do |keys|
          keys.where(account_id: account.id, revoked_at: nil).update(revoked_at: now)
        end
        DB[:letters].where(account_id: account.id, orchard_id: nil).delete
      end
      private_class_method :end_access
    end
  end
end
