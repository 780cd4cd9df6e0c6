# frozen_string_literal: true

module Vestry
  module Records
    # What a variety would be on a tree, or along a row: how it lasts on the stock, who is in bloom
    # with it within reach, what frost takes, which months it picks, how it grows beside its neighbours.
    class VarietyFit
      VIGOURS = %w[weak middling strong].freeze
      Partner = Struct.new(:variety, :days, :metres, keyword_init: true)
      Line = Struct.new(:variety, :compatibility, :partners, :partner_need, :frost, :months, :adds, :beside,
                        :unpermitted, keyword_init: true)

      # @param trees [Array<Tree>] one, or those of a row
      def initialize(orchard, trees, today)
        @orchard = orchard
        @trees = trees
        @today = today
        @weather = orchard.weather(today)
      end

      # Every variety of the register that could be thought of here, best lasting first.
      #
      # @return [Array<Line>]
      def lines
        order = %w[good workable doubtful refused]
        varieties.map { |variety| line(variety) }.sort_by do |each|
          [order.index(each.compatibility["value"]), each.variety.name]
        end
      end

      def line(variety)
        Line.new(variety: variety, compatibility: compatibility(variety), partners: partners(variety),
                 partner_need: partner_need(variety), frost: @weather.frost(variety),
                 months: VarietyFit.months(variety), adds: VarietyFit
                   .months(variety) - standing_months(variety), beside: beside(variety),
                     unpermitted: VarietyFit.unpermitted?(variety))
      end

      # A protected variety without a recorded permission.
      def self.unpermitted?(variety) = variety.protected && variety.permission.to_s.strip.empty?

      # The months it is picked in, 1..12.
      def self.months(variety)
        return [] unless variety.harvest_from && variety.harvest_to

        from, to = variety.harvest_from.to_i, variety.harvest_to.to_i
        from <= to ? (from..to).to_a : [*from..12, *1..to]
      end

      # How two blooms overlap, in days; nil where either is not known.
      def self.overlap(one, other)
        return nil unless [one, other].all? { |each| each.bloom_from && each.bloom_to }

        a, b = [one, other].map { |each| span(each.bloom_from, each.bloom_to) }
        Core::Plan::Bloom.reckon({ a: a, b: b })[:overlap_days]
      end

      # In a year without a leap day; a bloom over New Year ends in the next.
      def self.span(from, to)
        first = Date.strptime("2025-#{from == '02-29' ? '02-28' : from}", "%Y-%m-%d")
        last = Date.strptime("2025-#{to == '02-29' ? '02-28' : to}", "%Y-%m-%d")
        { from: first.iso8601, to: (last < first ? last >> 12 : last).iso8601 }
      end

      private

      def varieties = @varieties ||= @orchard.varieties_in_sight

      # The worst among the stocks it would stand on.
      def compatibility(variety)
        @trees.map(&:species).uniq.map { |stock| @orchard.rulebook.compatibility(stock, variety.species) }
              .max_by { |pair| %w[good workable doubtful refused].index(pair["value"]) } ||
                { "value" => "refused", "why" => "No tree stands here." }
      end

      def partner_need(variety) = @orchard.rulebook.value_or_nil("species.#{variety.species}.partner")

      # Other varieties of its species that carry good pollen within reach, longest overlap first.
      def partners(variety)
        reachable.filter_map do |id, metres|
          other = varieties.find { |each| each.id == id }
          next if other.nil? || other.id == variety.id || other.species != variety.species || other.pollen == "none"

          days = VarietyFit.overlap(variety, other)
          Partner.new(variety: other, days: days, metres: metres) if days&.positive?
        end.sort_by { |each| [other_poor(each), -each.days, each.metres] }
      end

      def other_poor(partner) = partner.variety.pollen == "poor" ? 1 : 0

      # Varieties standing or grafted within a bee's way of these trees, with the least distance in metres.
      def reachable
        @reachable ||= begin
          reach = @orchard.rulebook.value("site.pollen_reach")
          found = Hash.new(Float::INFINITY)
          standing.each do |id, x, y|
            metres = @trees.map { |tree| Math.hypot(tree.map_x - x, tree.map_y - y) }.min
            found[id] = [found[id], metres].min if metres && metres <= reach
          end
          found.to_h
        end
      end

      # [variety, x, y] of each tree's own variety, of each that is grafted in it, and of each that is planned.
      def standing
        own = near.exclude(variety_id: nil).select_group(:variety_id, :map_x, :map_y)
          .select_map(%i[variety_id map_x map_y])
        own + grafted + planned
      end

      # Trees within a bee's way of these, and some more.
      def near
        reach = @orchard.rulebook.value("site.pollen_reach")
        xs, ys = @trees.map(&:map_x), @trees.map(&:map_y)
        Places.inside(Tree.in_sight.where(Sequel[:trees][:orchard_id] => @orchard.id),
                      [xs.min - reach, ys.min - reach, xs.max + reach, ys.max + reach])
      end

      def grafted
        on = GraftQueries.varieties_on(@orchard.id, within: near.select(Sequel[:trees][:id])).as(:on)
        near.join(on, tree_id: Sequel[:trees][:id]).select_group(Sequel[:on][:variety_id], :map_x, :map_y)
          .select_map([Sequel[:on][:variety_id], :map_x, :map_y])
      end

      # The same of what is planned and not made yet: it will be in bloom beside it.
      def planned
        near.join(:plans, tree_id: Sequel[:trees][:id], superseded_at: nil, Sequel[:plans][:hidden_at] => nil)
          .join(:plan_limbs, plan_id: Sequel[:plans][:id], Sequel[:plan_limbs][:hidden_at] => nil)
          .where(role: Core::Plan::Soundness::WORKED).exclude(Sequel[:plan_limbs][:variety_id] => nil)
          .select_group(Sequel[:plan_limbs][:variety_id], :map_x, :map_y)
          .select_map([Sequel[:plan_limbs][:variety_id], :map_x, :map_y])
      end

      # Varieties grafted or planned on these trees, and so beside it.
      def beside_it
        @beside_it ||= begin
          ids = @trees.map(&:id)
          grafted = GraftQueries.varieties_on(@orchard.id, within: ids).distinct
            .select_map(Sequel[:latest][:variety_id])
          planned = PlanLimb.in_sight.where(Sequel[:plan_limbs][:orchard_id] => @orchard.id)
            .join(:plans, id: :plan_id, superseded_at: nil).where(tree_id: ids).exclude(variety_id: nil).distinct
              .select_map(:variety_id)
          varieties.select { |each| (grafted | planned).include?(each.id) }
        end
      end

      def standing_months(variety)
        beside_it.reject { |each| each.id == variety.id }.flat_map { |each| VarietyFit.months(each) }.uniq
      end

      # Neighbours on the tree that grow more or less strongly.
      def beside(variety)
        mine = VIGOURS.index(variety.vigour) or return []
        beside_it.reject { |each| each.id == variety.id }.filter_map do |other|
          theirs = VIGOURS.index(other.vigour)
          { code: mine > theirs ? "beside_stronger" : "beside_weaker", other: other.name } if theirs && theirs != mine
        end
      end
    end
  end
end
