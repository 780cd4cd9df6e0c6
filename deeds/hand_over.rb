# frozen_string_literal: true

module Vestry
  module Deeds
    # Gives the aftercare of grafts and stripped trunks to someone of the orchard; to nobody gives it
    # back to whoever did the work.
    module HandOver
      # @param chosen [Array<Records::Graft, Records::Wound>] all of them, or none
      # @param to [String, nil] a member's name
      # @raise [Refused]
      def self.call(chosen, to:, by:)
        name = to.to_s.strip
        DB.transaction do
          chosen.uniq.each do |each|
            hands = Records::Membership.hands(each.orchard)
            unless name.empty? || hands.include?(name)
              raise Refused, to: ["is someone who grafts here: #{hands.join(', ')}"]
            end

            Ledger.change(each, { tended_by: name.empty? ? nil : name }, by: by)
          end
        end
      end
    end
  end
end
