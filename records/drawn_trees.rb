# frozen_string_literal: true

module Vestry
  module Records
    # Some trees as a drawing shows them, with their limbs and grafts, what is planned, and of visits and
    # counts what is drawn: each read once for everyone, and anew when anything of it is written.
    class DrawnTrees
      TREES = Kept.new(200)
      SEEN = { observations: %i[id orchard_id graft_id seen_on buds verdict longest_shoot_mm],
               tallies: %i[id orchard_id graft_id season tallied_on alive growth_mm] }.freeze

      # @param ids [Array<Integer>]
      def initialize(orchard, ids)
        @orchard = orchard
        @ids = ids
      end

      # What each is known by.
      #
      # @return [Hash{Integer=>String}]
      def marks = @marks ||= Mark.of_each(:drawn_trees, @orchard.cache_key, @ids) { sets }

      # @return [Hash{Integer=>Tree}] frozen, without those out of sight
      def trees = @trees ||= Still.known(TREES, marks.to_a) { |ids| read(ids) }.to_h { |tree| [tree.id, tree] }

      private

      def read(ids)
        seen = SEEN.transform_values { |columns| ->(all) { all.select(*columns) } }
        @orchard.trees_dataset.where(id: ids, hidden_at: nil).eager(:sites, plan: :plan_limbs, limbs: { grafts: seen })
          .all
      end

      # Everything that is read, by its table and by what names the tree.
      def sets
        limbs = DB[:limbs].where(Sequel[:limbs][:orchard_id] => @orchard.id, Sequel[:limbs][:tree_id] => @ids)
        grafts = limbs.join(:grafts, limb_id: Sequel[:limbs][:id])
        of_tree = ->(table) { DB[table].where(Sequel[table][:orchard_id] => @orchard.id,
                                              Sequel[table][:tree_id] => @ids) }
        of_limb = Sequel[:limbs][:tree_id]
        seen = SEEN.keys.to_h do |table|
          [[table, of_limb], grafts.join(table, Sequel[table][:graft_id] => Sequel[:grafts][:id],
                                                Sequel[table][:hidden_at] => nil)]
        end
        planned = of_tree[:plans].join(:plan_limbs, plan_id: Sequel[:plans][:id])
        { [:trees, Sequel[:trees][:id]] => DB[:trees].where(orchard_id: @orchard.id, id: @ids),
          [:limbs, of_limb] => limbs, [:grafts, of_limb] => grafts, **seen,
          [:sites, Sequel[:sites][:tree_id]] => of_tree[:sites], [:plans, Sequel[:plans][:tree_id]] => of_tree[:plans],
          [:plan_limbs, Sequel[:plans][:tree_id]] => planned }
      end
    end
  end
end
