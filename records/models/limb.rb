# frozen_string_literal: true

require "zlib"

module Vestry
  module Records
    # A limb of a tree, as it was surveyed. What was not measured yet is taken from the
    # rulebook's assumptions, so that the limb can be drawn and reckoned with meanwhile;
    # +unmeasured+ says which.
    class Limb < Sequel::Model(DB[:limbs])
      include Row
      many_to_one :orchard
      many_to_one :tree
      many_to_one :parent, class: self
      many_to_one :variety
      one_to_many :children, class: self, key: :parent_id
      one_to_many :grafts, order: %i[grafted_on id], conditions: { hidden_at: nil }
      one_to_many :plan_limbs

      MEASURES = %i[length_mm fork_mm bearing_deg rise_deg].freeze

      # Tells the limbs of a tree of each other, so that nobody asks again who grows from whom.
      def self.join_up(tree, limbs)
        by_id = limbs.to_h { |limb| [limb.id, limb] }
        limbs.each { |limb| limb.associations.update(tree: tree, children: []) }
        limbs.each do |limb|
          limb.associations[:parent] = by_id[limb.parent_id] if limb.parent_id.nil? || by_id.key?(limb.parent_id)
        end
        limbs.each { |limb| by_id[limb.parent_id]&.children&.push(limb) }
      end

      # Those that grow from it and have not come off.
      def standing_children = children.reject { |each| each.gone_on || each.hidden? }

      # What comes off with its top: the limbs that leave it there, and those on them.
      #
      # @param at_mm [Numeric] where it is cut, from its fork
      # @return [Array<Limb>]
      def top_from(at_mm)
        found = standing_children.select { |each| each.fork_mm >= at_mm }
        found.flat_map { |each| [each, *each.top_from(0)] }
      end

      # Whether it had come off by a day.
      def gone_by?(day) = !gone_on.nil? && gone_on <= day

      # Whether it still stood at the end of a season.
      def outlasted?(season) = gone_on.nil? || orchard.season.name_of(gone_on) > season

      # Those of a tree that stand.
      def self.standing(tree_id) = where(tree_id: tree_id, gone_on: nil, hidden_at: nil).all
      def self.standing_ids(trees) = where(tree_id: trees.map(&:id), gone_on: nil, hidden_at: nil).select_map(:id)

      def label = "#{tree.label} #{tag}"

      def measured?(name) = !self[name].nil?
      def unmeasured = (leader ? MEASURES - %i[bearing_deg rise_deg] : MEASURES).reject { |name| measured?(name) }

      def fork_mm = super || (parent ? parent.length_mm / 2 : assumed("fork"))
      def rise_deg = super || (leader ? 90 : assumed("rise"))
      def bearing_deg = super || (leader ? 0 : Zlib.crc32(tag.to_s) % 360)
      def length_mm = super || above_fork || assumed("length_diameters") * (girth_mm ? girth_mm / Math::PI :
        narrow_mm || 60)

      # How long it grew, by which it tapers: it may have been cut or broken since.
      def grown_mm = [whole_mm, length_mm].compact.max

      # To which side it draws the head: the leader to none.
      def leans_to_deg = leader ? nil : bearing_deg.to_f

      # What follows from its thickness and bark alone, worked out once while they stand.
      def as_measured
        known = [girth_mm, wide_mm, narrow_mm, bark_mm, bark]
        @as_measured = nil unless @measured == known
        @measured = known
        @as_measured ||= yield
      end

      # Its diameter at the fork, bark and all.
      def across_mm = girth_mm ? girth_mm.to_f / Math::PI : Math.sqrt(wide_mm.to_f * narrow_mm.to_f)

      # The limb's place in the plan in use.
      def planned = tree.plan && plan_limbs_dataset.first(plan_id: tree.plan.id, hidden_at: nil)

      # The graft that stands on it now: the latest, but for what was set beside one and came to nothing.
      def graft
        last = grafts.last
        grafts.size < 2 ? last : grafts.reject(&:set_aside?).last || last
      end

      # Whether it is there by that graft alone, which was set into a bare stretch.
      def began_with?(graft) = graft.filled? && gone_on.nil? && grafts_dataset.select_map(:id) == [graft.id]

      # Height of the fork above the ground, in mm, by way of the limbs it grows from; a limb that hangs to the ground
      # lies on it.
      def fork_height_mm
        return fork_mm.to_f unless parent

        [parent.fork_height_mm + fork_mm.to_f * Math.sin(parent.rise_deg * Math::PI / 180), 0.0].max
      end

      # Height of a place on it, in mm; nil where there is none.
      def height_at(mm) = mm && fork_height_mm + mm.to_f * Math.sin(rise_deg * Math::PI / 180)

      # Height of its far end, in mm.
      def tip_height_mm = [height_at(length_mm), 0.0].max

      private

      # A leader is as long as the tree is high above where it begins.
      def above_fork
        return nil unless leader && tree.height_mm && fork_mm < tree.height_mm

        tree.height_mm - fork_mm
      end

      # By the orchard's own figures; while a new row is filled in, it may have no orchard yet.
      def assumed(name) = (orchard_id ? orchard.rulebook : Core::Rulebook.shipped).value("reckoning.assumed.#{name}")
    end
  end
end
