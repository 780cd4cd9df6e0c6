# frozen_string_literal: true

module Vestry
  module Deeds
    # Decides what becomes of a limb. The tree's plan is begun with its first limb.
    module PlanLimb
      # @param values [Hash] +role+; for a limb to be worked also +season+, +cut+ (mm from the fork),
      #   +technique+, +variety+ (id), +practice+, +against_reason+
      # @param season [Integer] the present one, where none is given
      # @return [Records::PlanLimb]
      # @raise [Refused] when the cut cannot be made there, or does not suit the method unexplained
      def self.call(limb, values, by:, season:, version: nil)
        columns = columns(limb, values, season)
        DB.transaction do
          # One plan is begun, whoever presses first.
          tree = Records::Tree.where(id: limb.tree_id).for_update.first
          plan = tree.plan || Ledger.add(Records::Plan, { orchard_id: limb.orchard_id, tree_id: tree.id, school: limb.orchard.school }, by: by)
          row = Records::PlanLimb.first(plan_id: plan.id, limb_id: limb.id)
          next Ledger.change(row, columns, by: by, version: version) if row

          Ledger.add(Records::PlanLimb, columns.merge(orchard_id: limb.orchard_id, plan_id: plan.id, limb_id: limb.id), by: by)
        end
      end

      def self.columns(limb, values, season)
        kept = { role: values[:role], season: values[:season] || season }
        return kept unless %w[work backup later].include?(values[:role])

        variety = values[:variety] && variety!(limb, values[:variety])
        return kept.merge(variety_id: variety&.id) unless values[:technique] && values[:cut]

        stock, reason = check_cut(limb, values)
        sticks = Records::CoreValues.sticks(limb, stock, practice: values[:practice])
        kept.merge(variety_id: variety&.id, technique: values[:technique], cut_mm: values[:cut].round(1), sticks: sticks[:count],
                   faces: Sequel.pg_array(sticks[:bearings_deg] || sticks[:clock_deg], :numeric), against_reason: reason)
      end

      def self.variety!(limb, id)
        limb.orchard.variety!(id)
      rescue Records::Missing
        raise Refused, variety: ["is not in this orchard's register"]
      end

      # The diameter at the cut, and the reason given where the rulebook speaks against it.
      def self.check_cut(limb, values)
        at = values[:cut]
        units = limb.orchard.units
        if at >= limb.length_mm
          raise Refused, cut: ["is beyond the limb's end; it is #{Core::Measure.say(limb.length_mm, units)} long"]
        end

        stock = Records::CoreValues.diameter_at(limb, at)
        against = against(limb, values, at, stock)
        reason = values[:against_reason].to_s.strip
        raise Refused, cut: [against], against_reason: ["say why, and it is kept so"] if against && reason.empty?

        [stock, against && reason]
      end

      def self.against(limb, values, at, stock)
        misfit = LogGraft.misfit(limb, technique: values[:technique], stub_mm: stock)
        return misfit if misfit

        found = Records::CoreValues.cut_point(limb, values[:technique])
        return nil if found[:feasible] && Core::Near.within?(at.round, found[:from_mm].floor, found[:to_mm].ceil)

        units = limb.orchard.units
        broken = found[:limits].reject { |limit| limit[:from_mm] && Core::Near.within?(at.round, limit[:from_mm].floor, limit[:to_mm].ceil) }
        words = { "clearance" => "too near the fork", "browse" => "within reach of the animals", "reach" => "above your reach", "diameter" => "a diameter the method does not work" }
        "#{Core::Measure.say(at, units)} is #{broken.map { |limit| words.fetch(limit[:name]) }.join(' and ')}" \
          "#{"; #{Core::Measure.say(found[:from_mm], units)} to #{Core::Measure.say(found[:to_mm], units)} is clear" if found[:feasible]}."
      end
      private_class_method :columns, :variety!, :check_cut, :against
    end
  end
end
