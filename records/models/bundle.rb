# frozen_string_literal: true

module Vestry
  module Records
    # Sticks of one variety, one source, one date.
    class Bundle < Sequel::Model(DB[:bundles])
      include Row
      many_to_one :orchard
      many_to_one :variety
      many_to_one :tree
      many_to_one :parent, class: self
      one_to_many :sticks, order: :number
      one_to_many :checks, class: "Vestry::Records::BundleCheck", order: %i[seen_on id]

      # The ids of itself and of what was split from it, of those parts too.
      def parts
        found = [id]
        found += (split = Bundle.where(parent_id: split || found).exclude(id: found).select_map(:id)) until split == []
        found
      end

      # What was found by a day.
      def checks_by(day) = checks.select { |check| check.seen_on <= day }

      # Whether it is taken as dead: by what was found by a day, or because leafy wood keeps no longer.
      def dead?(day) = Core::Wood::Viability.dead?(checks_by(day).map(&:as_test)) || withered?(day)

      # Whether it is leafy wood that was kept beyond its life.
      def withered?(day) = Core::Wood::Viability.withered?(variety.species, day - cut_on, orchard.rulebook)

      # The last word on how it looks, and not what a test alone says.
      #
      # @return [BundleCheck, nil]
      def last_look(day) = checks_by(day).reject { |check| check.found == TESTED }.last

      ENDS = { "sealed" => "sealed with wax", "trimmed" => "left open, trimmed fresh later" }.freeze
      DIPS = { "bleach" => "weak bleach dip", "none" => "no dip" }.freeze
      PACKINGS = { "damp" => "barely damp wrap", "evergreen" => "evergreen sprig", "dry-bag" => "dry bag" }.freeze
      FINDINGS = %w[sound mould shrivelled swelling frozen].freeze
      # Said of one that was only tested.
      TESTED = "tested"

      # What is written on its label; numbered within its orchard, and never taken for a tree.
      def code = "Wood #{number}"
      def from = tree ? tree.label : source
      def left = sticks.count(&:here?)
      # Itself and what was split from it, held until the transaction ends; a part is younger than its whole.
      def hold_parts = Bundle.where(id: parts).order(:id).for_update.all
      # The grafts in sight that were set of any of them, held in the same way.
      def hold_grafts
        set = Stick.where(bundle_id: parts).exclude(graft_id: nil).select(:graft_id)
        Graft.in_sight.where(id: set).order(:id).for_update.all
      end

      def stays = DB[:bundle_stays].where(bundle_id: id, orchard_id: orchard_id).order(:since).all
      # Lies in a store from a moment on.
      def lay_in(store, since)
        DB[:bundle_stays].insert(orchard_id: orchard_id, bundle_id: id, store_id: store.id, since: since)
      end

      # Where it was laid in as it was cut, it was laid in on the day that is said now; and nowhere before it.
      #
      # @param was [Time] when the day began on which it was said to be cut, and +now+ of the one that is said now
      def lies_since(was, now)
        *before, first = stays.select { |stay| stay[:since] == was || stay[:since] < now }
        return if first.nil?

        DB[:bundle_stays].where(id: before.map { |stay| stay[:id] }).delete
        DB[:bundle_stays].where(id: first[:id]).update(since: now)
      end

      # Has lain wherever another has, and was looked at whenever that was; what the other weighed is not its weight.
      def lie_with(other)
        other.stays.each { |stay| DB[:bundle_stays].insert(stay.except(:id).merge(bundle_id: id)) }
        other.checks.reject(&:only_weighed?).each do |check|
          facts = check.values.except(:id, :created_at, :weight_g, :weighed_sticks)
          DB[:bundle_checks].insert(facts.merge(bundle_id: id))
        end
      end

      # Notes what was found when it was looked at.
      #
      # @param tests [Hash] +cut+, +forced+, +forced_moved+ and +weight_g+, those that were made
      def note_check(found, on:, note:, by:, tests: {})
        weighed = tests[:weight_g] && Stick.hold_here(self).size
        DB[:bundle_checks].insert(orchard_id: orchard_id, bundle_id: id, seen_on: on, found: found, note: note,
                                  seen_by: by, weighed_sticks: (weighed if weighed&.positive?), **tests)
      end

      # What was found never was.
      #
      # @return [Boolean]
      def drop_check(id) = DB[:bundle_checks].where(bundle_id: pk, id: id).delete == 1

      # It was not moved, where it was not moved on since.
      #
      # @return [Boolean]
      def drop_stay(id) = stays.last&.fetch(:id) == id && DB[:bundle_stays].where(id: id).delete == 1

      # The day of the first graft that a stick of it is on.
      def first_used_on
        Graft.where(id: Stick.where(bundle_id: id).exclude(graft_id: nil).select(:graft_id)).min(:grafted_on)
      end

      def store = stays.last&.then { |stay| Store[stay[:store_id]] }
      def season = orchard.season.name_of(cut_on)
    end
  end
end
