# frozen_string_literal: true

module Vestry
  module Records
    # What is decided, or would be best, for one limb that is to be worked: method, place, sticks,
    # and what the work comes to. A plan, a page and a pattern all read it here.
    class StubAdvice
      attr_reader :limb, :planned

      # @param planned [PlanLimb, nil]
      # @param technique [String, nil] one to look at in place of the planned or best
      # @param school [String, nil] one to look at in place of the tree's
      # @param at_mm [Float, nil] a place to look at in place of the planned or preferred
      # @param today [Date, nil] then what took here by this day is weighed in
      def initialize(limb, planned:, technique: nil, practice: nil, school: nil, at_mm: nil, today: nil)
        @limb = limb
        @planned = planned
        @orchard = limb.orchard
        @book = @orchard.rulebook
        @asked = technique
        @practice = practice
        @school = school || limb.tree.school
        @asked_at = at_mm
        @today = today
      end

      # The method asked for, else the planned one, else the best that finds a place on the limb.
      def technique = @technique ||= @asked || planned&.technique || best

      # Whether the method is one of the school's own.
      def preferred? = prefers.include?(technique)

      def cut = @cut ||= place(technique)

      # The place planned for this method, else the preferred one.
      def at_mm
        return @asked_at if @asked_at

        kept_mm || cut[:at_mm]
      end

      # The place planned for this method; where that graft was lost, below it.
      def kept_mm
        return unless planned && technique == planned.technique

        return limb.graft.fresh_cut_mm if planned.failed?(limb.graft)

        planned.place_mm&.to_f
      end

      # Whether the practice is to graft low, near the fork.
      def low? = @book.practice("height", @school) == "near-fork"

      def stock_mm = at_mm && CoreInputs.diameter_at(limb, at_mm)
      def height_mm = limb.height_at(at_mm)
      def practice = @practice || planned_practice || proposed_practice
      def sticks = stock_mm && (@sticks ||= CoreInputs.sticks(limb, stock_mm, practice: practice,
                                                                              method: technique))
      def faces = sticks && (sticks[:bearings_deg] || sticks[:clock_deg])
      def upright? = sticks.key?(:bearings_deg)
      def stick_count = planned&.sticks || (sticks ? sticks[:count] : 1)

      # How many sticks a practice comes to here.
      def count_by(practice)
        stock_mm ? CoreInputs.sticks(limb, stock_mm, practice: practice, method: technique)[:count] : 1
      end

      # The first practice that comes to as many sticks here: two are a pair, by whatever habit they are set.
      def plainest(practice)
        return practice unless stock_mm

        Core::Plan::Sticks::PRACTICES.find { |each| count_by(each) == count_by(practice) }
      end

      def proposed_practice
        stock_mm ? CoreInputs.stick_practice(limb.orchard, @school, stock_mm, technique) :
          @book.practice("sticks", @school)
      end

      # The practice that comes to as many sticks as are planned; the school's own where several do.
      def planned_practice
        return nil unless planned&.sticks && stock_mm && technique == planned.technique

        own = @book.practice("sticks", @school)
        [own, *Core::Plan::Sticks::PRACTICES].find do |each|
          CoreInputs.sticks(limb, stock_mm, practice: each, method: technique)[:count] == planned.sticks
        end
      end

      # Chance that a single stick takes, by what took here where that is asked for, or by who took the limb on.
      def stick_take = @stick_take ||= reckoned_take

      # Chance that the stub takes: that one of its sticks does.
      def stub_take = 1 - (1 - stick_take)**stick_count

      # What one, two or more sticks come to here.
      #
      # @return [Array<Hash>] see Core::Plan::StickChoice
      def stick_choices
        @stick_choices ||= stock_mm ? CoreInputs.stick_choice(limb, stock_mm, technique, stick_take) : []
      end

      # What a shoot on it bears unbraced in its first gales, in this site's gusts.
      #
      # @param shoot_mm [Numeric] that is expected of its first year
      # @return [Hash] +weeks+, +gust_ms+, +safe_mm+ and +shoot_mm+
      def wind(shoot_mm)
        weeks = @book.value("reckoning.sticks.wind_weeks")
        gust = @orchard.weather(@today).gust_to_expect
        told = Core::Tend::Wind.reckon({ weeks: weeks, length_mm: shoot_mm, gust_ms: gust,
                                         leaf_width_mm: @book.value("reckoning.union.leaf_width")
                                           .fetch(limb.tree.species, 70),
                                         hold: Core::Tend::Union.hold(technique, 0.0, @book) }, rulebook: @book)
        { weeks: weeks, gust_ms: gust, safe_mm: told[:safe_length_mm], shoot_mm: shoot_mm }
      end

      # The bud that stands in where its graft fails.
      #
      # @param shoot_mm [Numeric] a year's shoot of it
      # @return [Hash, nil] see Core::Plan::BudFallback; nil once its days are over
      def bud_fallback(shoot_mm, season)
        species = limb.tree.species
        days = @orchard.last_days(@today).budding(limb.tree_id, species, @orchard.season.span(season).begin,
                                                  technique: technique)
        return nil if days.end < [@today, days.begin].max

        take = @orchard.success(@today).of(species, "chip-bud")[:stick]
        Core::Plan::BudFallback.of(take: take, shoot_mm: shoot_mm, days: days, stick_mm: @orchard.stick_mm,
                                   rulebook: @book)
      end

      # Minutes for the stub: by method, further sticks, and a ladder where it is high.
      # By the rulebook's figures, at the pace of this orchard.
      def minutes
        Core::Plan::WorkTime.minutes(technique, stick_count, height_mm, @book) * @orchard.own_pace.times
      end

      def ladder? = Core::Plan::WorkTime.ladder?(height_mm, @book)
      def out_of_reach? = @orchard.beyond_reach?(height_mm)

      # Whether it is kinder cut long in winter: why, or nil.
      #
      # @param share [Float] of the head that goes with it
      def heavy(share) = (Core::Plan::LongCut.heavy(stock_mm, share, @book) if heads?)

      # Whether the head is cut off above it.
      def heads? = @book.heads?(technique)

      # Where it would be cut long: beyond the place, and on the limb.
      def long_cut_mm = at_mm && Core::Plan::LongCut.at(at_mm, limb.length_mm, @book)

      private

      def reckoned_take
        return Core::Plan::Methods.expected_take(limb.tree.species, technique, @book) unless @today

        @orchard.success(@today).of(limb.tree.species, technique, hand: planned&.hand)[:stick]
      end

      def best
        @best ||= Core::Plan::ProposedMethod.of(in_order, length_mm: limb.length_mm.to_f, rulebook: @book) do |method|
          place(method)
        end
      end

      def place(method) = (@places ||= {})[method] ||= CoreInputs.cut_point(limb, method)

      def prefers = @book.book("schools").dig("schools", @school, "prefers") || []

      # The methods as the school would think of them: its own first; of flaps as many as it makes on such wood; and
      # while it grafts on sleeping stock, those first that need no slip.
      def in_order
        all = prefers + (@book.end_methods - prefers)
        all = flaps_in_order(all)
        @book.practice("season", @school) == "dormant" ?
          all.partition { |each| !@book.value("methods.#{each}.needs_slip") }.flatten(1) : all
      end

      def flaps_in_order(methods)
        thin = (CoreInputs.section(limb)[:diameter_mm] * (1 - @book.value("reckoning.cut.taper"))) <
               @book.value("reckoning.cuts.three_flaps_under")
        three = @book.practice("flaps", @school) == "three-under-12" && thin
        flaps = methods.select { |each| @book.method_fact(each, "flaps") }
          .sort_by { |each| (@book.method_fact(each, "flaps") == 3) == three ? 0 : 1 }
        methods.map { |each| @book.method_fact(each, "flaps") ? flaps.shift : each }
      end
    end
  end
end
