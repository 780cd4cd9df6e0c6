# frozen_string_literal: true

module Vestry
  module Records
    # Limbs to head this winter for wood of next winter, by variety: standing limbs that carry it, by their own graft
    # or as their tree does.
    class HeadingLimbs
      # So many trees of a variety are looked at.
      TREES = 12
      # A graft is headed for wood once it has stood so many growing seasons.
      SEASONS = 2

      # From when on a graft is too young to be cut from.
      def self.young_since(orchard, today)
        orchard.season.span(orchard.season.name_of(today) - SEASONS + 1).begin
      end

      # @param wanted [Hash{Integer=>Integer}] shoots by variety
      def initialize(orchard, wanted, today)
        @orchard = orchard
        @wanted = wanted
        @today = today
      end

      # @return [Hash] as Core::Wood::Heading answers, with the limbs themselves
      def of(variety_id)
        told = Core::Wood::Heading.choose(carrying.fetch(variety_id, []), shoots: @wanted.fetch(variety_id),
                                          reach_mm: @orchard.reach_mm.to_f, rulebook: @orchard.rulebook)
        by_id = trees.flat_map(&:limbs).to_h { |limb| [limb.id, limb] }
        told.merge(limbs: told[:limbs].map { |id| by_id.fetch(id) })
      end

      private

      def carrying
        @carrying ||= trees.flat_map { |tree| of_tree(tree) }.group_by(&:first)
          .transform_values { |pairs| pairs.map(&:last) }
      end

      def of_tree(tree)
        tree.associations[:orchard] = @orchard
        standing = tree.standing_limbs
        busy = (tree.plan&.plan_limbs || []).select { |row| %w[work later backup lift].include?(row.role) }
          .map(&:limb_id)
        standing.reject { |limb| busy.include?(limb.id) && limb.graft.nil? }.filter_map do |limb|
          variety = variety_of(limb, tree)
          [variety, facts(limb, tree, standing.size)] if @wanted.key?(variety)
        end
      end

      # What stands on a limb now; nothing of a graft that is young or lost.
      def variety_of(limb, tree)
        graft = limb.graft or return limb.variety_id || tree.variety_id

        graft.variety_id if graft.grafted_on < HeadingLimbs.young_since(@orchard, @today) &&
                            graft.fate(@today) == "took"
      end

      def facts(limb, tree, on_tree)
        own = limb.graft&.tallies.to_a.filter_map(&:above_mm).last&.to_f
        { id: limb.id, tree: tree.id, diameter_mm: own || CoreInputs.section(limb)[:diameter_mm],
          fork_height_mm: limb.fork_height_mm, on_tree: on_tree }
      end

      def trees
        @trees ||= Tree.in_sight.where(id: tree_ids).order(:row, :number)
          .eager({ limbs: { grafts: %i[visits tallies] } }, { plan: :plan_limbs }).all
      end

      def tree_ids
        @wanted.keys.flat_map do |variety|
          Tree.in_sight.where(orchard_id: @orchard.id, variety_id: variety).order(:row, :number).limit(TREES)
            .select_map(:id) + grafted(variety)
        end.uniq
      end

      def grafted(variety)
        DB[:grafts].where(Sequel[:grafts][:orchard_id] => @orchard.id, Sequel[:grafts][:variety_id] => variety)
          .where(Sequel[:grafts][:hidden_at] => nil).join(:limbs, id: :limb_id).order(:grafted_on).limit(TREES)
          .select_map(:tree_id)
      end
    end
  end
end
