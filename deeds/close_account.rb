# frozen_string_literal: true

module Vestry
  module Deeds
    # A person closes their account: nothing opens with it any more and its address is forgotten. What they recorded
    # belongs to the orchards and keeps their name.
    module CloseAccount
      module_function

      # @return [Records::Orchard, nil] one that would be left without a steward
      def held_by(account)
        Records::Membership.left_alone_by(account).filter_map { |id| Records::Orchard[id] }.reject(&:hidden?).first
      end

      # @raise [Refused] for the last steward of an orchard
      def call(account)
        DB.transaction do
          account.memberships.each do |member|
            ChangeMember.call(member.orchard, member.id, nil, by: member.known_as)
          end
          account.end_access
          account.forget
        end
      end
    end
  end
end
