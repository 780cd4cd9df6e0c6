# frozen_string_literal: true

module Vestry
  module Records
    # A standing tree, found by its row and number.
    class Tree < Sequel::Model(DB[:trees])
      include Row
      many_to_one :orchard
      many_to_one :variety
      one_to_many :limbs, order: :tag, conditions: { hidden_at: nil },
                          after_load: ->(tree, limbs) { Limb.join_up(tree, limbs) }
      one_to_many :sites, order: :tag, conditions: { hidden_at: nil }
      one_to_many :photos, order: Sequel.desc(:taken_on), conditions: { hidden_at: nil }
      one_to_many :wounds, order: Sequel.desc(:found_on), conditions: { hidden_at: nil }
      one_to_many :plans, order: Sequel.desc(:id)
      one_to_one :plan, conditions: { superseded_at: nil }, read_only: true

      FORMS = %w[standard bush open-vase central-leader wall-trained].freeze

      # Whether its arms are tied to wires: its form is kept.
      def trained? = form == "wall-trained"

      # How people name it: row and number.
      def label = "#{row}#{number}"

      # Whether a limb or a bare stretch of it has this tag.
      def tag_taken?(tag)
        !Site.in_sight.where(tree_id: id, tag: tag).empty? || !limbs_dataset.where(tag: tag).empty?
      end

      # The school by which it is worked and looked after: its plan's own, else the orchard's.
      def school = Tree.school(plan&.school, orchard)

      # @param own [String, nil] what its plan names; a word that the rulebook does not know is none
      def self.school(own, orchard) = Core::Rulebook.shipped.school_names.find { |name| name == own } || orchard.school

      # What is done on it at a practice point.
      def practice(point) = orchard.rulebook.practice(point, school)

      # Its limbs that have not come off.
      def standing_limbs = limbs.reject(&:gone_on)
      def standing_sites = sites.select(&:stands?)

      # The tags of its limbs, and which limb each is.
      #
      # @return [Hash{String=>Integer}]
      def limb_ids_by_tag = limbs_dataset.select_hash(:tag, :id)

      # Whether its trunk is taken to run to the top, which is known.
      def to_tip? = %w[central-leader wall-trained].include?(form) && !height_mm.nil?

      # The trunk itself above a height, where that was recorded as a limb and stands.
      def standing_leader = Limb.first(tree_id: id, leader: true, gone_on: nil, hidden_at: nil)

      # Whether a limb of it, in sight or not, has this tag, however it is written.
      def limb_tag_taken?(tag) = !Limb.where(tree_id: id).where(Sequel.function(:upper, :tag) => tag.upcase).empty?
    end
  end
end
