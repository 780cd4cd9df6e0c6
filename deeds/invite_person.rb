# frozen_string_literal: true

require "securerandom"

module Vestry
  module Deeds
    # A steward lets someone in by a link that works once.
    module InvitePerson
      DAYS = 14

      # @return [String] the token for the link; it is shown once and not kept
      # @raise [Refused] where whoever invites is no steward any more
      def self.call(orchard, role:, name:, by:, now: Time.now.utc)
        token = SecureRandom.urlsafe_base64(24)
        DB.transaction do
          raise Refused, role: ["is a steward's to give"] unless Records::Membership.still?(orchard.id, by, "steward")

          Records::Invite.create(orchard_id: orchard.id, token_digest: Records::Invite.digest(token), role: role,
                                 name: name, invited_by: by, expires_at: now + DAYS * 86_400)
        end
        token
      end

      # The invited person joins: with the account they are signed in to, or a new one.
      #
      # @return [Records::Account]
      # @raise [Refused]
      def self.accept(token, account: nil, name: nil, email: nil, password_hash: nil, now: Time.now.utc)
        DB.transaction do
          invite = Records::Invite.good(token, now)&.lock! or raise Refused,
              token: ["has been used, revoked or is too old; ask for a new one"]
          raise Refused, token: ["has been used already"] if invite.used_at

          account ||= new_account(name, email, password_hash)
          join(invite, account)
          invite.update(used_at: now, used_by: account.id)
          account
        end
      end

      def self.new_account(name, email, password_hash)
        address = email.to_s.strip.downcase
        if Records::Account.id_by(address)
          raise Refused, email: ["has an account already; sign in first, then open the link again"]
        end

        Records::Account.create(name: name.strip, email: address, password_hash: password_hash)
      end

      def self.join(invite, account)
        member = Records::Membership.ever_between(account, invite.orchard)
        why = "invited by #{invite.invited_by}"
        if member.nil?
          Ledger.add(Records::Membership, { orchard_id: invite.orchard_id, account_id: account.id, role: invite.role },
                     by: account.name, why: why)
        elsif member.hidden?
          Ledger.restore(member, by: member.known_as, why: why)
          Ledger.change(member.reload, { role: invite.role }, by: member.known_as)
        elsif !Records::Membership.enough?(member.role, invite.role)
          Ledger.change(member, { role: invite.role }, by: member.known_as, why: why)
        end
      end
      private_class_method :new_account, :join
    end
  end
end
