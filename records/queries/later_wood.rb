# frozen_string_literal: true

module Vestry
  module Records
    # Wood of later seasons, by variety: what this season's plans leave over, what is cut off limbs that carry it, and
    # off the young grafts of it.
    class LaterWood
      # One stick of a stub at least.
      def self.lives(take, sticks) = 1 - (1 - take)**sticks

      def initialize(orchard, season, today)
        @orchard = orchard
        @season = season
        @today = today
      end

      # Whether it stands here on limbs from which wood is cut every winter.
      def standing?(variety_id) = stored[:standing].include?(variety_id)
      # Sticks that are over when this season's plans have theirs.
      def over(variety_id) = stored[:over].fetch(variety_id, 0)
      # How many young grafts of it are expected to live, made or planned for this season.
      def young(variety_id) = stored[:young].fetch(variety_id, 0.0)
      # Sticks that so many young grafts give in a winter.
      def given_by(young) = young * @orchard.rulebook.value("reckoning.foresee.gives")

      # What is stored, worked out.
      def reckoned
        lines = @orchard.wood_supply(@season, @today).lines.to_h { |line| [line.variety.id, line] }
        { over: lines.transform_values { |line| [line.have - line.wanted, 0].max }, young: grown(lines),
          standing: carried_by_trees(lines.keys) | carried_by_grafts(lines.keys) }
      end

      private

      # Visits and counts are left out: what they say of single grafts moves the expectation by too little to reckon it
      # anew after each.
      FROM = (WoodSupply::FROM - %w[observations tallies]).freeze
      private_constant :FROM

      def stored
        named = @orchard.stubs_in_time(@season, @today).stored_as("later wood")
        @stored ||= Derived.fetch(@orchard, named, @today, from: FROM) do |orchard|
          LaterWood.new(orchard, @season, @today).reckoned
        end
      end

      def grown(lines)
        made = not_lost.where(variety_id: lines.keys).where(Sequel[:grafted_on] >= young_since)
          .group_and_count(:variety_id).as_hash(:variety_id, :count)
        lines.to_h do |id, line|
          stubs = line.stubs.map { |row| WoodSupply.stub(row, @orchard, @today) }
          [id, stubs.sum(made.fetch(id, 0).to_f) { |stub| LaterWood.lives(stub[:take], stub[:sticks]) }]
        end
      end

      # Trees of a variety with a limb that stands, was not worked over and is not to be.
      def carried_by_trees(ids)
        having(ids, Tree.in_sight.where(orchard_id: @orchard.id).where(limbs_as_they_grew.select(1).exists))
      end

      # Of the trees that are asked for.
      def limbs_as_they_grew
        limb = Sequel[:limbs][:id]
        planned = DB[:plan_limbs].join(:plans, id: :plan_id, superseded_at: nil).where(role: TreePlan::WORKED)
          .where(Sequel[:plan_limbs][:limb_id] => limb, Sequel[:plan_limbs][:hidden_at] => nil)
        grafted = DB[:grafts].where(limb_id: limb, hidden_at: nil)
        DB[:limbs].where(tree_id: Sequel[:trees][:id], gone_on: nil, hidden_at: nil)
          .exclude(planned.select(1).exists).exclude(grafted.select(1).exists)
      end

      # Grafts that are limbs to cut from by now.
      def carried_by_grafts(ids)
        ids.select { |id| GraftQueries.trees_to_cut_from(@orchard, id, @today, most: 1).any? }
      end

      # Varieties of which there is any of some rows: the first that is found is enough.
      def having(ids, rows) = ids.select { |id| rows.unordered.where(variety_id: id).get(1) }

      def not_lost
        Graft.in_sight.where(Sequel[:grafts][:orchard_id] => @orchard.id, lost_on: nil).unordered
      end

      # Older ones are limbs to cut from.
      def young_since = HeadingLimbs.young_since(@orchard, @today)
    end
  end
end
