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

      def any? = @plan.any? && @plan.work.any?

      # The plan as it is decided, beside the ways that decide the rest.
      def decided = @plan.as_decided

      # The way that is decided, where every limb is.
      #
      # @return [Way, nil]
      def decided_way
        return unless @plan.decided_any? && decided.equal?(@plan)

        ways.find do |way|
          way.feasible && way.seasons.each_with_index.all? do |limbs, i|
            limbs.all? { |limb| @plan.season(limb) == @plan.first_season + i }
          end
        end
      end

      # What is to be shared out over the seasons: what is worked again takes nothing of the head.
      def work = @plan.fresh_work

      # @return [Array<Way>]
      def ways = @ways ||= (1..most).map { |count| way(count) }

      # The most seasons up to a wished number that can be kept.
      #
      # @return [Way, nil]
      def nearest(wished)
        [wished, most].min.downto(1).lazy.map { |count| way(count) }.find(&:feasible)
      end

      # Many futures of each way, by the same names as the projections.
      #
      # @return [Hash{String=>Hash}] see Core::Plan::Foresee
      def foresights = @foresights ||= foresight.all

      # Whether the seasons of those futures are past years here; without any, no day is lost and no gust is known.
      def past_years? = foresight.past_years?

      # Ten seasons each way, by the number of seasons as text, and as the plan stands ("standing").
      #
      # @return [Hash{String=>Hash}]
      def projections
        @projections ||= begin
          told = named_plans.empty? ? [] : Core::Plan::Projection.reckon({ plans: named_plans, nut: nut? },
                                                                         rulebook: @orchard.rulebook)[:plans]
          told.to_h { |each| [each[:name], each] }
        end
      end

      # The tree left as it is, regrafted as it is planned, or replanted, by what the steward says its crops are worth.
      #
      # @return [Hash, nil] see Core::Plan::Worth; nil while that is not said, or nothing is planned
      def worth
        plan = @plan.tree.plan
        return nil unless plan && plan.old_worth && plan.new_worth && @plan.decided_any?

        rows = projections["standing"]&.fetch(:seasons) or return nil
        seen = foresights.fetch("standing")[:seasons]
        Core::Plan::Worth.reckon({ old_worth: plan.old_worth.to_f, new_worth: plan.new_worth.to_f, nut: nut?,
                                   regraft: rows.zip(seen).map do |row, future|
                                     { **row.slice(:old, :hours), crop: future[:crop][:mean] }
                                   end },
                                 rulebook: @orchard.rulebook)
      end

      private

      def foresight = @foresight ||= TreeForesight.new(@plan, named_plans, nut: nut?)

      # No more seasons than there are limbs whose heads come off: what is set in a side is set beside those.
      def most = work.count { |limb| @plan.taken_by(limb).positive? }.clamp([work.size, 1].min, MOST_SEASONS)

      # Each way as a projection takes it.
      def named_plans
        @named_plans ||= ways.select(&:feasible).map do |way|
          seasons = way.seasons.each_with_index.flat_map { |limbs, at| limbs.map { |limb| [limb.id, at] } }.to_h
          @plan.projected(way.count.to_s, seasons, shoots: way.shoots)
        end + (decided.decided_any? && decided.work.any? ? [decided.projected("standing")] : [])
      end

      def way(count)
        answer = stages(count, cap_of(count))
        # Whole limbs seldom share out so evenly: then as evenly as they can be.
        looser = answer[:reasons].find { |reason| reason[:code] == "stages_higher_cap" }&.fetch(:cap)
        answer = stages(count, looser + Core::Near::TOLERANCE) if looser && looser <= (@cap || 1.0)
        unless answer[:feasible] && answer[:seasons].size == count
          return Way.new(count: count, feasible: false, reasons: reasons(answer, count))
        end

        seasons = answer[:seasons].map { |ids| ids.map { |id| work.find { |limb| limb.id == id } } }
        Way.new(count: count, feasible: true, seasons: seasons, removed: answer[:removed], reasons: [],
                shoots: shoots(seasons),
                leans: seasons.map { |limbs| lean(limbs) })
      end

      # By how much what a season takes of the head leans to one side.
      def lean(limbs)
        taken = limbs.map { |limb| { share: @plan.taken_by(limb), bearing_deg: limb.leans_to_deg } }
        Core::Survey::Head.balance(taken, rulebook: @orchard.rulebook)[:lean]
      end

      def stages(count, cap)
        Core::Plan::Stages.reckon({ limbs: work.map { |limb| { id: limb.id, share: @plan.taken_by(limb),
                                                               bearing_deg: limb.leans_to_deg, height_mm: limb
                                                                 .tip_height_mm } },
                                    cap: cap.clamp(0.0, 1.0), seasons_max: count }, rulebook: @orchard.rulebook)
      end

      def reasons(answer, count)
        return [{ code: "stages_fewer_do", seasons: answer[:seasons].size, wanted: count }] if answer[:feasible]

        answer[:reasons].map do |reason|
          reason.key?(:limb) ? reason.merge(limb: work.find { |limb| limb.id == reason[:limb] }.tag) : reason
        end
      end

      # So much that this many seasons are needed and none takes much over its even part; never
      # more than the steward allows.
      def cap_of(count)
        shares = work.map { |limb| @plan.taken_by(limb) }
        even = [shares.sum / count * @orchard.rulebook.value("reckoning.pace.over_even"), shares.max].max
        wanted = count == 1 ? [shares.sum, 1.0].min : [even, shares.sum / (count - 1) * 0.999].min.clamp(0.0, 1.0)
        [wanted, @cap || 1.0].min
      end

      # The first-year shoot to expect in each season.
      def shoots(seasons)
        seasons.each_index.map do |i|
          made = seasons[0..i].each_with_index.flat_map { |limbs, index| limbs.map { |limb| [limb,
            @plan.first_season + index] } }.to_h
          @plan.vigour(@plan.first_season + i, stubs: seasons[i].size,
                       kept: @plan.kept(@plan.first_season + i, made: made,
                                        off: @plan.lifted + @plan.renewed))[:shoot_mm]
        end
      end

      def nut? = Core::Rulebook.shipped.book("species").dig("names", @plan.tree.species, "kind") == "nut"
    end
  end
end
