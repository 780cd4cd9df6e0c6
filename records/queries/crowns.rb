# frozen_string_literal: true

module Vestry
  module Records
    # The limbs of many trees as they lie seen from above, in metres from the trunk, with how each stands: for drawings
    # that show a whole orchard.
    class Crowns
      # +from+ and +to+ are east and north of the trunk; +cut+ is where it is to be cut, or was; +across_m+ is how
      # thick it is at its fork.
      CrownLimb = Struct.new(:tag, :state, :from, :to, :cut, :across_m, keyword_init: true) do
        def end_point = %w[grafted lost].include?(state) && cut ? cut : to
      end

      # @param planning [Integer] the season that is planned for now
      # @param by [Date, nil] grafts that were made later are not seen, nor what was planned
      # @return [Hash{Integer=>Array<CrownLimb>}] by tree; trees without limbs are missing
      def self.of(orchard, tree_ids, planning:, by: nil) = new(orchard, tree_ids, planning, by).all

      # How a tree stands by its limbs, as TreeQueries.tree_states says it.
      def self.state_of(limbs)
        states = limbs.map(&:state)
        return "trouble" if states.include?("lost")
        return "grafted" if states.include?("grafted")

        states.all?("open") ? "open" : "planned"
      end

      def initialize(orchard, tree_ids, planning, by = nil)
        @orchard = orchard
        @planning = planning
        @tree_ids = tree_ids
        @by = by
      end

      def all
        limbs = Limb.where(tree_id: @tree_ids, gone_on: nil, hidden_at: nil).order(:id).all
        limbs.group_by(&:tree_id).transform_values { |own| crown(own) }
      end

      private

      def crown(limbs)
        tips = {}
        by_id = limbs.to_h { |limb| [limb.id, limb] }
        limbs.each { |limb| limb.associations[:parent] = by_id[limb.parent_id] }
        limbs.map do |limb|
          from, to = line(limb, by_id, tips)
          state, cut_mm = standing(limb)
          CrownLimb.new(tag: limb.tag, state: state, from: from, to: to, cut: cut_mm && at(from, to, cut_mm, limb),
                        across_m: limb.across_mm / 1000.0)
        end
      end

      # Where a limb leaves and ends. A ring of limbs that grow from each other ends at the trunk.
      def line(limb, by_id, known, above = [])
        known[limb.id] ||= begin
          under = by_id[limb.parent_id] unless above.include?(limb.parent_id)
          from = under ? at(*line(under, by_id, known, [*above, limb.id]), limb.fork_mm.to_f, under) : [0.0, 0.0]
          [from, from.zip(reach(limb)).map(&:sum)]
        end
      end

      # How far it reaches to the east and to the north.
      def reach(limb)
        rise, bearing = [limb.rise_deg, limb.bearing_deg].map { |deg| Core::Survey::Figure.radians(deg.to_f) }
        out = limb.length_mm.to_f / 1000 * Math.cos(rise)
        [out * Math.sin(bearing), out * Math.cos(bearing)]
      end

      def at(from, to, mm, limb)
        share = (mm / limb.length_mm.to_f).clamp(0.0, 1.0)
        from.zip(to).map { |a, b| a + (b - a) * share }
      end

      # @return [Array(String, Float)] its state in a drawing's words, and where it is or will be cut
      def standing(limb)
        grafted = grafts[limb.id]
        return [grafted[:lost] ? "lost" : "grafted", grafted[:cut_off_at_mm]&.to_f] if grafted

        planned = @by ? nil : plans[limb.id]
        [planned ? Deferred.role(planned[:role], planned[:season], @planning) : "open", planned && head_cut(planned)]
      end

      # What is set into the side cuts nothing off.
      def head_cut(row) = (row[:cut_mm]&.to_f if Core::Rulebook.shipped.heads?(row[:technique]))

      def grafts
        @grafts ||= GraftQueries.latest_grafts(@orchard.id, within: @tree_ids, by: @by)
          .select(Sequel[:limbs][:id], Sequel[:latest][:cut_off_at_mm],
                  GraftOutcomeSql.lost(as: :latest).as(:lost))
          .as_hash(:id)
      end

      def plans
        @plans ||= DB[:plan_limbs].join(:plans, id: :plan_id, superseded_at: nil)
          .where(Sequel[:plans][:hidden_at] => nil, Sequel[:plan_limbs][:hidden_at] => nil,
                 Sequel[:plans][:tree_id] => @tree_ids)
          .select(:limb_id, :role, :season, :cut_mm, :technique).as_hash(:limb_id)
      end
    end
  end
end
