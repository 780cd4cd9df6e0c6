# frozen_string_literal: true

module Vestry
  module Records
    # How fast a tree could be changed: its limbs to be worked, over one, two or three seasons,
    # and what ten years come to each way.
    class TreePace
      MOST_SEASONS = 3
      Way = Struct.new(:count, :seasons, :removed, :leans, :shoots, :reasons, :feasible, keyword_init: true)

      attr_reader :plan, :cap

      # @param plan [TreePlan]
      # @param cap [Float, nil] the most of the head one season may take
      def initialize(plan, cap: plan.tree.plan&.cap&.to_f)
        @plan = plan
        @orchard = plan.orchard
        @cap = cap
      end

      def any? = @plan.any? && work.any?
      def work = @plan.work

      # @return [Array<Way>]
      def ways = @ways ||= (1..[MOST_SEASONS, work.size].min).map { |count| way(count) }

      # Ten seasons each way, by the number of seasons as text, and as the plan stands ("standing").
      #
      # @return [Hash{String=>Hash}]
      def projections
        @projections ||= begin
          plans = ways.select(&:feasible).map { |way| @plan.projected(way.count.to_s, way.seasons.each_with_index.flat_map { |limbs, index| limbs.map { |limb| [limb.id, index] } }.to_h) }
          plans << @plan.projected("standing") if @plan.decided_any?
          plans.empty? ? {} : Core::Plan::Projection.reckon({ plans: plans, nut: nut? }, rulebook: @orchard.rulebook)[:plans].to_h { |each| [each[:name], each] }
        end
      end

      private

      def way(count)
        answer = Core::Plan::Stages.reckon({ limbs: work.map { |limb| { id: limb.id, share: @plan.share(limb), bearing_deg: limb.bearing_deg.to_f, height_mm: limb.tip_height_mm } },
                                             cap: cap_of(count), seasons_max: count })
        return Way.new(count: count, feasible: false, reasons: answer[:reasons]) unless answer[:feasible] && answer[:seasons].size == count

        seasons = answer[:seasons].map { |ids| ids.map { |id| work.find { |limb| limb.id == id } } }
        Way.new(count: count, feasible: true, seasons: seasons, removed: answer[:removed], reasons: [], shoots: shoots(seasons),
                leans: seasons.map { |limbs| Core::Survey::Head.balance(limbs.map { |limb| { share: @plan.share(limb), bearing_deg: limb.bearing_deg.to_f } })[:lean] })
      end

      # So much that this many seasons are needed and none takes much over its even part; never
      # more than the steward allows.
      def cap_of(count)
        shares = work.map { |limb| @plan.share(limb) }
        even = [shares.sum / count * @orchard.rulebook.value("reckoning.pace.over_even"), shares.max].max
        wanted = count == 1 ? [shares.sum, 1.0].min : [even, shares.sum / (count - 1) * 0.999].min.clamp(0.0, 1.0)
        [wanted, @cap || 1.0].min
      end

      # The first-year shoot to expect in each season.
      def shoots(seasons)
        seasons.each_index.map do |i|
          season = @plan.first_season + i
          @plan.vigour(season, stubs: seasons[i].size, kept: @plan.kept(season, cut: seasons[0..i].flatten + @plan.lifted + @plan.renewed))[:shoot_mm]
        end
      end

      def nut? = Core::Rulebook.shipped.book("species").dig("names", @plan.tree.species, "kind") == "nut"
    end
  end
end
