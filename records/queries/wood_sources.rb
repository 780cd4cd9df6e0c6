# frozen_string_literal: true

require "digest"

module Vestry
  module Records
    # The trees of an orchard from which wood of some varieties can be cut.
    class WoodSources
      # Whether wood of a variety can have been cut from a tree: it is the tree's own, or was grafted there once; or
      # nobody has said what the tree carries, and its stock bears it.
      def self.grows_on?(tree, variety)
        return true if tree.variety_id == variety.id
        return true if tree.variety_id.nil? && borne?(tree, variety)

        !Graft.in_sight.where(orchard_id: tree.orchard_id, variety_id: variety.id)
          .where(limb_id: Limb.where(tree_id: tree.id).select(:id)).empty?
      end

      def self.borne?(tree, variety)
        tree.orchard.rulebook.compatibility(tree.species, variety.species)["value"] != "refused"
      end
      private_class_method :borne?

      # So many trees of a variety are named.
      MOST = 6
      VIGOURS = { "strong" => 0, "middling" => 1, nil => 2, "weak" => 2 }.freeze
      private_constant :VIGOURS

      # @param varieties [Array<Variety>] that are asked for
      def initialize(orchard, varieties, today)
        @orchard = orchard
        @ids = varieties.map(&:id).sort
        @today = today
      end

      # Trees that carry it: on their own wood, the strongest first, and on grafts that are old enough.
      #
      # @return [Array<Tree>]
      def of(variety)
        own = carrying.fetch(variety.id, [])
        return own if own.size == MOST

        (own + on_grafts(variety)).uniq(&:id).first(MOST)
      end

      private

      # What those that carry it on their own wood follow from.
      FROM = %w[varieties trees limbs grafts].freeze
      # What those that carry it on grafts follow from.
      GRAFTS_FROM = (FROM + %w[observations tallies]).freeze
      private_constant :FROM, :GRAFTS_FROM

      def on_grafts(variety)
        ids = Derived.fetch(@orchard, "grafted wood of #{variety.id}", @today, from: GRAFTS_FROM) do |fresh|
          GraftQueries.trees_to_cut_from(fresh, variety.id, @today, most: MOST).map(&:id)
        end
        found = ids.empty? ? {} : Tree.where(id: ids).all.to_h { |tree| [tree.id, tree] }
        found.values_at(*ids)
      end

      # The first few of each variety, by id.
      def carrying
        return {} if @ids.empty?

        @carrying ||= begin
          ids = Derived.fetch(@orchard, "wood of #{asked}", @today, from: FROM) { first_of_each }
          trees = Tree.where(id: ids.values.flatten).all.to_h { |tree| [tree.id, tree] }
          ids.transform_values { |some| trees.values_at(*some) }
        end
      end

      # The varieties that are asked for, in a few letters: there may be hundreds.
      def asked = Digest::SHA256.hexdigest(@ids.join(" "))[0, 16]

      # Found along the index, in one question for them all.
      #
      # @return [Hash{Integer=>Array<Integer>}] ids of trees by variety
      def first_of_each
        source = Sequel[:source]
        DB[:varieties].where(orchard_id: @orchard.id, id: @ids).select(:id).from_self(alias: :wanted)
          .cross_join(by_vigour.lateral.as(:source)).order(source[:rank], source[:row], source[:number])
          .select_map([source[:variety_id], source[:id]]).group_by(&:first)
          .transform_values { |all| all.first(MOST).map(&:last) }
      end

      # The first few trees of each vigour that carry a wanted variety, each with the rank of its vigour.
      def by_vigour
        trees = with_own_wood(Tree.in_sight.where(orchard_id: @orchard.id, variety_id: Sequel[:wanted][:id]))
        ways = VIGOURS.map do |vigour, rank|
          trees.where(vigour: vigour).order(:vigour, :row, :number).limit(MOST).select_all(:trees)
            .select_append(Sequel.as(rank, :rank)).from_self
        end
        ways.reduce { |all, way| all.union(way, all: true, from_self: false) }
      end

      # Not those of which every limb was worked over.
      def with_own_wood(trees)
        limbs = DB[:limbs].where(tree_id: Sequel[:trees][:id], gone_on: nil, hidden_at: nil)
        worked = DB[:grafts].where(limb_id: Sequel[:limbs][:id], hidden_at: nil).select(1).exists
        trees.where(Sequel.|(limbs.exclude(worked).select(1).exists, Sequel.~(limbs.select(1).exists)))
      end
    end
  end
end
