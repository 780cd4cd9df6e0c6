# frozen_string_literal: true

module Vestry
  module Records
    # A bare stretch of trunk or limb that could take a graft in its side.
    class Site < Sequel::Model(DB[:sites])
      include Row
      many_to_one :orchard
      many_to_one :tree
      many_to_one :limb

      # The same as +stands?+, asked of the database: of sites, with the limbs they are on where they are on one.
      STANDS = Sequel.|({ Sequel[:sites][:limb_id] => nil },
                        Sequel.&({ Sequel[:limbs][:gone_on] => nil, Sequel[:limbs][:hidden_at] => nil },
                                 Sequel.|({ Sequel[:limbs][:length_mm] => nil },
                                          Sequel[:sites][:at_mm] <= Sequel[:limbs][:length_mm])))

      # Whether the limb it is on stands, and reaches so far.
      def stands?
        return true unless limb

        limb.gone_on.nil? && !limb.hidden? && (limb[:length_mm].nil? || at_mm <= limb[:length_mm])
      end
    end
  end
end
