# frozen_string_literal: true

module Vestry
  module Deeds
    # A member's role is changed, or they leave. An orchard always keeps one steward. What they may no longer do is let
    # go: links that let others in, limbs they took on and aftercare that was given to them.
    module ChangeMember
      # @param role [String, nil] nil when they leave
      # @raise [Refused] for the last steward
      def self.call(orchard, member_id, role, by:)
        DB.transaction do
          orchard.locked
          # Whoever takes something on meanwhile waits, and finds that they may no longer.
          member = orchard.member!(member_id).locked
          if member.role == "steward" && role != "steward" && stewards(orchard) == 1
            raise Refused, role: ["#{member.known_as} is the last steward; make someone else a steward first"]
          end

          let_go(orchard, member.known_as, role, by)
          role ? Ledger.change(member, { role: role }, by: by) : Ledger.hide(member, by: by, why: "left")
        end
      end

      def self.let_go(orchard, name, role, by)
        Records::Invite.revoke_those_of(orchard, name) unless role == "steward"
        return if Records::Membership.enough?(role, "grafter")

        why = role ? "#{name} is a #{role} now" : "#{name} left"
        Records::PlanQueries.taken_on(orchard, name).each { |row| Ledger.change(row, { hand: nil }, by: by, why: why) }
        [Records::Graft, Records::Wound].flat_map { |model| model.tended(orchard, name) }
          .each { |row| Ledger.change(row, { tended_by: nil }, by: by, why: why) }
      end

      def self.stewards(orchard) = Records::Membership.stewards(orchard)
      private_class_method :stewards, :let_go
    end
  end
end
