# frozen_string_literal: true

module Vestry
  module Records
    # Questions about the trees of an orchard: where they are, and how each stands.
    module TreeQueries
      module_function

      # Trees of an orchard in a state, as SQL over a dataset of them: trouble (a graft was lost
      # and not made again), grafted, planned, or open (no plan, and something to be planned).
      #
      # @param within [Array<Integer>, nil] ids of the only trees it is asked of
      def in_state(orchard_id, dataset, state, within: nil)
        grafted = Limb.join(:grafts, limb_id: Sequel[:limbs][:id])
          .where(Sequel[:grafts][:hidden_at] => nil, Sequel[:grafts][:orchard_id] => orchard_id)
        grafted = grafted.where(Sequel[:limbs][:tree_id] => within) if within
        grafted = grafted.select(Sequel[:limbs][:tree_id])
        planned = Plan.where(orchard_id: orchard_id, superseded_at: nil, hidden_at: nil).select(:tree_id)
        case state
        when "trouble"
          dataset.where(id: GraftQueries.lost(orchard_id, within: within).select(Sequel[:limbs][:tree_id]))
        when "grafted" then dataset.where(id: grafted)
        when "planned" then dataset.where(id: planned).exclude(id: grafted)
        when "open" then to_be_planned(dataset.exclude(id: planned))
        else dataset
        end
      end

      LATEST = 2_000

      # The first tree, in walking order, of which no limb is surveyed: of one row, or among the latest
      # that were added.
      def bare_tree(orchard, row: nil)
        trees = Tree.in_sight.where(orchard_id: orchard.id)
        trees = row ? trees.where(row: row) : trees.order(Sequel.desc(:id)).limit(LATEST)
        without_limbs(trees).exclude(wood_cut).order(:row, :number).limit(1).select_all(:trees).first
      end

      def without_limbs(trees)
        limb = DB[:limbs].where(Sequel[:limbs][:tree_id] => Sequel[:trees][:id], hidden_at: nil).limit(1)
          .select(Sequel.as(1, :one))
        trees.from_self(alias: :trees).left_join(limb.lateral.as(:limb), true).where(Sequel[:limb][:one] => nil)
      end

      # Trees that are there for their wood: some was cut from them, and no limb of them was ever surveyed.
      def giving_wood
        Sequel.&(wood_cut, Sequel.~(surveyed_limbs.exists))
      end

      # Trees without a plan of which something can be planned: not those that are there for their wood, nor those on
      # whose every limb a graft was made.
      def to_be_planned(unplanned)
        unplanned.exclude(giving_wood).exclude(id: grafted_whole(unplanned.select(:id)))
      end

      # Which of some trees have limbs, and on each of those a graft was made: what was lost of them is asked about by
      # itself.
      #
      # @param ids [Array<Integer>, Sequel::Dataset]
      # @return [Sequel::Dataset] their ids
      def grafted_whole(ids)
        made = DB[:grafts].where(Sequel[:grafts][:limb_id] => Sequel[:limbs][:id], Sequel[:grafts][:hidden_at] => nil)
        DB[:limbs].where(tree_id: ids, hidden_at: nil, gone_on: nil).group(:tree_id)
          .having { bool_and(made.select(1).exists) }.select(:tree_id)
      end

      # The limbs of a tree that is asked about.
      def surveyed_limbs
        DB[:limbs].where(Sequel[:limbs][:tree_id] => Sequel[:trees][:id], Sequel[:limbs][:hidden_at] => nil).select(1)
      end

      # Whether wood was cut from a tree.
      def wood_cut
        DB[:bundles].where(Sequel[:bundles][:tree_id] => Sequel[:trees][:id], Sequel[:bundles][:hidden_at] => nil)
          .select(1).exists
      end

      # Whether a limb of any tree is surveyed.
      def limbs?(orchard) = !DB[:limbs].where(orchard_id: orchard.id, hidden_at: nil).empty?

      # Trees whose limbs may be surveyed next: those without any first, then in walking order.
      #
      # @return [Array<Integer>] their ids
      def to_survey(orchard, most)
        limb = DB[:limbs].where(Sequel[:limbs][:tree_id] => Sequel[:trees][:id], hidden_at: nil).select(1)
        trees = Tree.in_sight.where(orchard_id: orchard.id).order(:row, :number).limit(most)
        bare = trees.exclude(limb.exists).select_map(:id)
        (bare + trees.select_map(:id)).uniq.first(most)
      end

      # The species of some trees, each once.
      def species_of(orchard, ids) = orchard.trees_dataset.where(id: ids).unordered.distinct.select_map(:species)

      # Holds trees until the transaction ends, all in the same order.
      def hold(ids) = Tree.where(id: ids).order(:id).for_update.select_map(:id)

      # Which numbers of a row are taken, by trees in sight or not.
      def taken(orchard, row, numbers)
        Tree.where(orchard_id: orchard.id, row: row, number: numbers).order(:number).select_map(:number)
      end

      # The state of each of these trees.
      def tree_states(orchard_id, ids)
        states = Hash.new("open")
        Plan.where(orchard_id: orchard_id, superseded_at: nil, hidden_at: nil, tree_id: ids).select_map(:tree_id)
          .each do |id|
          states[id] = "planned"
        end
        GraftQueries.latest_grafts(orchard_id, within: ids).group(Sequel[:limbs][:tree_id])
          .select_map([Sequel[:limbs][:tree_id], Sequel.function(:bool_or,
                                                                 GraftOutcomeSql.lost(as: :latest)).as(:lost)])
                                              .each { |id, lost| states[id] = lost ? "trouble" : "grafted" }
        states
      end

      # Rows with how many trees stand in each, and how many of those have a plan.
      #
      # @return [Array<Hash>] +row+, +trees+, +planned+
      def row_counts(orchard)
        standing = Tree.in_sight.where(Sequel[:trees][:orchard_id] => orchard.id).unordered
        planned = standing.join(:plans, tree_id: Sequel[:trees][:id], superseded_at: nil)
          .where(Sequel[:plans][:hidden_at] => nil).group_and_count(:row).as_hash(:row, :count)
        standing.group_and_count(:row).order(:row).limit(400).map do |each|
          { row: each[:row], trees: each[:count], planned: planned.fetch(each[:row], 0) }
        end
      end

      # Trees of an orchard or of one row, a page at a time, and one more where there are more.
      def trees_page(orchard, row:, page:, size:)
        trees = Tree.in_sight.where(orchard_id: orchard.id)
        trees = trees.where(row: row) if row
        trees.order(:row, :number).limit(size + 1).offset((page - 1) * size).all
      end
    end
  end
end
