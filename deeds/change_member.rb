# frozen_string_literal: true

module Vestry
  module Deeds
    # A member's role is changed, or they leave. An orchard always keeps one steward.
    module ChangeMember
      # @param role [String, nil] nil when they leave
      # @raise [Refused] for the last steward
      def self.call(orchard, member_id, role, by:)
        DB.transaction do
          orchard.locked
          member = orchard.member!(member_id)
          if member.role == "steward" && role != "steward" && stewards(orchard) == 1
            raise Refused, role: ["#{member.known_as} is the last steward; make someone else a steward first"]
          end

          role ? Ledger.change(member, { role: role }, by: by) : Ledger.hide(member, by: by, why: "left")
        end
      end

      def self.stewards(orchard) = Records::Membership.stewards(orchard)
      private_class_method :stewards
    end
  end
end
