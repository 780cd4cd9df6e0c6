# frozen_string_literal: true

module Vestry
  module Records
    # Nurse limbs of trees that were worked: when each is shortened, and when it comes off.
    class Nurses
      Nurse = Struct.new(:limb, :since, :closed, :regained, :advice, :on, keyword_init: true)
      MOST = 200

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @practice = orchard.rulebook.practice("nurse-off", orchard.school)
      end

      attr_reader :practice

      # @return [Array<Nurse>] in walking order
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
        on = off_on(since, closed)
        Nurse.new(limb: limb, since: since, closed: closed, regained: regained(grafts), on: on,
                  advice: advice(on, since))
      end

      # The day from which it may come off; nil while its stubs are not closed.
      def off_on(since, closed)
        winter = @orchard.season.next_day(@orchard.rulebook.value("care.calendar.winter"), since)
        case @practice
        when "first-autumn" then @orchard.season.next_day(@orchard.rulebook.value("care.calendar.autumn"), since)
        when "second-year" then winter >> 12
        else closed >= 1 - Core::Near::TOLERANCE ? @today : nil
        end
      end

      def advice(on, since)
        return "nurse_off" if on && @today >= on
        return "nurse_wait_closed" if on.nil?

        @today - since > @orchard.rulebook.value("reckoning.nurse.shorten_after") ? "nurse_shorten" : "nurse_keep"
      end

      # What the grafts have grown back of what their limbs carried, by the rulebook's years.
      def regained(grafts)
        curve = @orchard.rulebook.value("reckoning.projection.regrow")
        shares = grafts.map do |graft|
          curve[[@orchard.season.name_of(@today) - @orchard.season.name_of(graft.grafted_on), curve.size - 1].min]
        end
        shares.sum / shares.size
      end
    end
  end
end
