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
      STANDS = Sequel.&({ Sequel[:sites][:gone_on] => nil },
                        Sequel.|({ Sequel[:sites][:limb_id] => nil },
                                 Sequel.&({ Sequel[:limbs][:gone_on] => nil, Sequel[:limbs][:hidden_at] => nil },
                                          Sequel.|({ Sequel[:limbs][:length_mm] => nil },
                                                   Sequel[:sites][:at_mm] <= Sequel[:limbs][:length_mm]))))

      # The one that a limb began in, out of sight since.
      def self.filled_by(limb)
        exclude(hidden_at: nil).where(tree_id: limb.tree_id, tag: limb.tag, at_mm: limb.fork_mm).order(:id).last
      end

      # Those that a cut takes off.
      #
      # @param at_mm [Numeric] where the limb is cut, from its fork
      def self.on_wood_above(limb, at_mm) = in_sight.where(limb_id: limb.id, gone_on: nil) { self.at_mm >= at_mm }.all

      # Those that went with the top of their limb on a day.
      def self.gone_with(limb, day) = in_sight.where(limb_id: limb.id, gone_on: day).all

      # The one in sight that is where a limb began.
      def self.bare_at(limb) = in_sight.first(tree_id: limb.tree_id, tag: limb.tag, at_mm: limb.fork_mm)

      # The limb of its name that is none now: its graft died, or it was taken away.
      #
      # @return [Limb, nil]
      def grown_before = Limb.exclude(gone_on: nil, hidden_at: nil).first(tree_id: tree_id, tag: tag)

      # Whether its wood was not cut off, and the limb it is on stands and reaches so far.
      def stands?
        return gone_on.nil? if gone_on || limb.nil?

        limb.gone_on.nil? && !limb.hidden? && (limb[:length_mm].nil? || at_mm <= limb[:length_mm])
      end
    end
  end
end
