# frozen_string_literal: true

module Vestry
  module Records
    # Nurse limbs of trees that were worked: when each is shortened, and when it comes off.
    class Nurses
      NurseLimb = Struct.new(:limb, :since, :closed, :regained, :advice, :on, keyword_init: true)
      MOST = 200

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @practice = orchard.rulebook.practice("nurse-off", orchard.school)
      end

      attr_reader :practice

      # @return [Array<NurseLimb>] in walking order
      def all
        @all ||= PlanQueries.in_use(@orchard).where(role: "nurse").limit(MOST)
          .eager(limb: { tree: { limbs: { grafts: %i[visits tallies] } } }).all.filter_map do |row|
          nurse(row.limb)
        end
      end

      private

      def nurse(limb)
        limb.tree.associations[:orchard] = @orchard
        grafts = limb.tree.limbs.reject(&:gone_on).filter_map(&:graft).select do |graft|
          graft.grafted_on <= @today && graft.fate != "lost"
        end
        return nil if grafts.empty?

        grafts.each { |graft| graft.associations[:orchard] = @orchard }
        since = grafts.map(&:grafted_on).max
        closed = grafts.map { |graft| CoreInputs.closure(graft)[:closed_share] }.min
        told = Core::Tend::Nurse.advice(practice: @practice, since: since, closed: closed, season: @orchard.season,
                                        today: @today, rulebook: @orchard.rulebook)
        NurseLimb.new(limb: limb, since: since, closed: closed, regained: regained(grafts), **told)
      end

      # What the grafts have grown back of what their limbs carried, by the rulebook's years.
      def regained(grafts)
        shares = grafts.map do |graft|
          Core::Tally::Growth.share(@orchard.season.name_of(@today) - @orchard.season.name_of(graft.grafted_on),
                                    @orchard.rulebook)
        end
        shares.sum / shares.size
      end
    end
  end
end
