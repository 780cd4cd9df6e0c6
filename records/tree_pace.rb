# frozen_string_literal: true

module Vestry
  module Records
    # How fast a tree could be changed: its limbs to be worked, over one, two or three seasons.
    class TreePace
      MOST_SEASONS = 3
      Way = Struct.new(:count, :seasons, :removed, :leans, :shoots, :reasons, :feasible, keyword_init: true)

      attr_reader :tree, :head

      def initialize(tree)
        @tree = tree
        @orchard = tree.orchard
        @limbs = tree.limbs.reject(&:gone_on)
        @planned = (tree.plan ? PlanLimb.in_sight.where(plan_id: tree.plan.id).all : []).to_h { |each| [each.limb_id, each] }
        @head = CoreValues.head(tree)
      end

      def any? = !@head.nil?

      # A limb's role: decided, else as it offers itself. Branches go with their limb unless decided.
      def role(limb) = @planned[limb.id]&.role || @head[:candidates][limb.id]&.fetch(:role)
      def decided?(limb) = @planned.key?(limb.id)

      # Limbs still to be worked, that carry no graft yet.
      def work = @work ||= @limbs.select { |limb| %w[work later backup].include?(role(limb)) && limb.graft.nil? }
      def nurses = @limbs.select { |limb| role(limb) == "nurse" }
      def lifted = @limbs.select { |limb| role(limb) == "lift" }

      # What each limb takes with it when it is cut where it is planned, or best cut.
      def shares
        @shares ||= work.to_h { |limb| [limb.id, removed([limb])] }
      end

      def ways
        (1..[MOST_SEASONS, work.size].min).map { |count| way(count) }
      end

      # The head that is left once everything to be worked and lifted is off.
      def kept = 1 - removed(work + lifted)
      def vigour(kept, stubs) = Core::Plan::Vigour.reckon({ kept: kept.clamp(0.0, 1.0), stubs: stubs }, rulebook: @orchard.rulebook)

      private

      def way(count)
        answer = Core::Plan::Stages.reckon({ limbs: work.map { |limb| { id: limb.id, share: shares[limb.id], bearing_deg: limb.bearing_deg.to_f, height_mm: limb.tip_height_mm } },
                                             cap: cap(count), seasons_max: count })
        return Way.new(count: count, feasible: false, reasons: answer[:reasons]) unless answer[:feasible] && answer[:seasons].size == count

        seasons = answer[:seasons].map { |ids| ids.map { |id| work.find { |limb| limb.id == id } } }
        Way.new(count: count, feasible: true, seasons: seasons, removed: answer[:removed], reasons: [], shoots: shoots(seasons),
                leans: seasons.map { |limbs| Core::Survey::Head.balance(limbs.map { |limb| { share: shares[limb.id], bearing_deg: limb.bearing_deg.to_f } })[:lean] })
      end

      # So much that this many seasons are needed, and no season takes much over its even part.
      def cap(count)
        total = shares.values.sum
        even = [total / count * @orchard.rulebook.value("reckoning.pace.over_even"), shares.values.max].max
        count == 1 ? [total, 1.0].min : [even, total / (count - 1) * 0.999].min.clamp(0.0, 1.0)
      end

      # The first-year shoot to expect in each season.
      def shoots(seasons)
        seasons.each_index.map { |i| vigour(1 - removed(seasons[0..i].flatten + lifted), seasons[i].size)[:shoot_mm] }
      end

      def removed(limbs)
        cuts = limbs.map { |limb| { limb: limb.id, at_mm: role(limb) == "lift" ? 0.0 : cut_mm(limb) } }
        Core::Survey::Canopy.reckon({ limbs: @limbs.map { |limb| { id: limb.id, parent: limb.parent_id, diameter_mm: CoreValues.section(limb)[:diameter_mm], fork_at_mm: limb.parent_id ? limb.fork_mm.to_f : 0.0 } },
                                      cuts: cuts })[:removed]
      end

      def cut_mm(limb)
        @cuts ||= {}
        @cuts[limb.id] ||= @planned[limb.id]&.cut_mm&.to_f || CoreValues.cut_point(limb, @orchard.rulebook.book("schools").dig("schools", @orchard.school, "prefers").first)[:at_mm] || 0.0
      end
    end
  end
end
