# frozen_string_literal: true

module Vestry
  module Deeds
    # Takes a fact out of sight with what hangs on it, so that it can be brought back whole.
    module Hide
      KINDS = { "limbs" => "Limb", "grafts" => "Graft", "observations" => "Visit", "tallies" => "Tally",
                "varieties" => "Variety", "trees" => "Tree",
                "sites" => "Site", "photos" => "Photo", "wounds" => "Wound",
                "picture_measures" => "PictureMeasure", "wound_visits" => "WoundVisit",
                "phenology_seen" => "PhenologySeen" }.freeze

      # On which sticks are set.
      SET = [Records::Graft, Records::Wound].freeze
      private_constant :SET

      # What would go: counts by kind, for saying so beforehand.
      def self.reach(row)
        with_dependants(first_of(row)).group_by { |each| each.class.table_name.to_s }.transform_values(&:size)
      end

      # Whether nothing hangs on it.
      def self.alone?(row) = (with_dependants(first_of(row)) - [first_of(row), row]).empty?

      # Whether sticks lie in their bundle again when it goes, and what hangs on it.
      def self.frees_sticks?(row)
        with_dependants(first_of(row)).any? { |each| SET.include?(each.class) && Records::Stick.used_for?(each) }
      end

      def self.call(row, by:, why: nil)
        DB.transaction do
          # Whoever logs on the same limb waits: first the limb, then what stands on it.
          row.limb.locked if row.is_a?(Records::Graft)
          next row if row.lock!.hidden?
          next bare(row, by, why) unless first_of(row) == row

          at = Time.now.utc
          going = with_dependants(row).each { |each| Ledger.hide(each, by: by, why: why, at: at) }
          going.each { |each| MoveSticks.give_back(each, by: by) if SET.include?(each.class) }
          LogGraft.stand_again(row, by) if row.is_a?(Records::Graft)
          row
        end
      end

      # What goes with a row, and goes first: the limb that began with a graft set into a bare stretch goes with it.
      def self.first_of(row) = row.is_a?(Records::Graft) && row.limb.began_with?(row) ? row.limb : row

      # The stretch that such a graft was set into is bare again.
      def self.bare(graft, by, why)
        call(graft.limb, by: by, why: why)
        BareAgain.site(graft.limb, graft, by)
        graft.refresh
      end

      # Brings back the row, and what was hidden with it.
      #
      # @raise [Refused] where what it stands on is out of sight itself, or its place is taken
      def self.undo(row, by:, why: nil)
        DB.transaction do
          row.limb.locked if row.is_a?(Records::Graft)
          next row unless row.lock!.hidden?

          hidden = above(row).map(&:locked).find(&:hidden_at)
          raise Refused, hidden: ["#{hidden.label} is out of sight itself: bring that back first"] if hidden

          bring_back(row, by, why)
          row
        end
      rescue Sequel::UniqueConstraintViolation
        raise Refused, hidden: ["another of that name stands there now: give it another name, or take it away first"]
      end

      def self.bring_back(row, by, why)
        unmerge(row, by, why) if row.is_a?(Records::Variety)
        back = [row, *hidden_with(row, row.hidden_at)].each { |each| Ledger.restore(each, by: by, why: why) }
        back.each { |each| MoveSticks.take_again(each, by: by) if SET.include?(each.class) }
        back.grep(Records::Graft).select(&:filled?).filter_map { |graft| Records::Site.bare_at(graft.limb) }
          .each { |site| Ledger.hide(site, by: by, why: "it carries a graft now") }
        LogGraft.fell(row.limb, row, by) if row.is_a?(Records::Graft) && row.head_cut_mm
      end

      # A variety that was merged into another stands for itself again.
      def self.unmerge(variety, by, why)
        Ledger.change(variety, { same_as_id: nil }, by: by, why: why)
        variety.refresh
      end

      # What a row stands on, nearest first.
      def self.above(row)
        on = case row
             when Records::Limb then row.parent || row.tree
             when Records::Graft then row.limb
             when Records::Visit, Records::Tally then row.graft
             when Records::WoundVisit then row.wound
             when Records::PictureMeasure then row.photo
             when Records::Wound, Records::Site, Records::Photo, Records::PhenologySeen then row.tree
             end
        on ? [on, *above(on)] : []
      end

      # A row of this orchard, hidden or not.
      def self.find!(orchard, kind, id)
        Records.const_get(KINDS[kind] || raise(Records::Missing)).of_orchard!(orchard, id)
      end

      def self.with_dependants(row) = [row, *below(row, nil)]
      def self.hidden_with(row, at) = below(row, at)

      # What hangs on a row and is hidden since then, or in sight.
      def self.below(row, hidden_at)
        row.hangs_on_it(hidden_at).flat_map { |each| [each, *below(each, hidden_at)] }
      end
      private_class_method :first_of, :bare, :bring_back, :unmerge, :with_dependants, :above, :hidden_with,
                           :below
    end
  end
end
