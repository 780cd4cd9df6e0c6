# frozen_string_literal: true

module Vestry
  module Records
    # One graft with everything that follows from its facts: its care, what the last visit means, how
    # long its shoot may grow, what fruit it could carry, and why it may have failed.
    class GraftReport
      attr_reader :graft, :today

      def initialize(graft, today)
        @graft = graft
        @today = today
        @orchard = graft.orchard
        @book = @orchard.rulebook
        @species = graft.limb.tree.species
      end

      # What was not done on the day on which it went with its limb is past.
      def care
        @care ||= ended_on.nil? ? CoreInputs.care(graft, today) : past_care(CoreInputs.care(graft, ended_on))
      end

      # On which day its limb came off, or was cut anew for another graft; nil while it stands.
      def ended_on
        return @ended_on if defined?(@ended_on)

        off = graft.limb.gone_on if graft.limb.gone_by?(today)
        @ended_on = [off, GraftsOfLimb.worked_over_on(graft, today)].compact.min&.then do |day|
          [day, graft.grafted_on].max
        end
      end

      def seen = @seen ||= visits.last
      def patience_on = care[:patience_on]
      def last_days = @last_days ||= @orchard.last_days(today)
      def budding = last_days.budding(*again_where, technique: @graft.technique)
      def regraft_until = last_days.regraft(*again_where, technique: @graft.technique)

      # What was seen last of each part that a visit looks at; what mends or grows is older than its last word.
      #
      # @return [Hash{String=>String}]
      def last_seen
        { "buds" => :buds, "callus" => :callus, "seal" => :seal_state, "wrap" => :wrap_state,
          "stock_shoots" => :stock_shoots, "pests" => :pests }
          .transform_values { |column| visits.filter_map { |visit| visit[column] }.last }
      end

      # Which of its sticks were found dead, at any visit.
      def dead_sticks = visits.flat_map { |visit| visit.dead_sticks.map(&:to_i) }.uniq.sort

      # Those that are drawn as gone: found dead, and as many more as the last count says, which are not known by name.
      #
      # @return [Array<Integer>]
      def gone_sticks = dead_sticks + ((1..graft.sticks).to_a - dead_sticks).last(gone_unnamed)

      # How many sticks are gone of which none is known.
      def gone_unnamed = [graft.sticks - graft.living_sticks - dead_sticks.size, 0].max
      def visits = graft.visits.select { |each| each.seen_on <= today }

      # Whether what it was set into still has its head: a bud's shoot, until that is cut off above it.
      def head_on?
        return !graft.head_off?(today) unless care[:kind] == "bud"

        graft.headings.empty? && care[:tasks].none? { |task| task[:rule] == "bud-head" && task[:status] == "done" }
      end

      # Between which days its callus is likely to have knit.
      #
      # @return [Array(Date, Date)]
      def knit_span
        offset = @book.value("care.figures.cover_warms").fetch(graft.finish(:cover), 0).to_f
        @orchard.weather(today).climate(graft.grafted_on - 1).knit_span(@species, graft.grafted_on, today,
                                                                        offset_c: offset)
      end

      # What the last visit, or a loss that was recorded, means and what to do, as reasons; none without either.
      def answer
        return [] unless (seen || lost_on) && care[:state] != "gone"

        # What there is to make it again with is asked of one that is lost, and of which nothing is decided.
        other = instead
        again = care[:state] == "failed" && other.nil?
        told = Core::Tend::Answer.of(seen ? CoreInputs.visit(seen) : {}, care: care, slip: again ? slip : {},
                                     regraft_until: regraft_until, budding: budding, instead: other,
                                     lost: (graft.lost_cause if known_loss?), **standing)
        seen && UNDECIDED.include?(told.first&.fetch(:code)) ? told + [odds] : told
      end

      # How it stands on this day.
      def standing
        { hand_mm: @book.value("care.figures.hand"), asleep: asleep?, today: today,
          safe_mm: (wind[:safe_length_mm] if shoot_mm && in_leaf?) }
      end

      # Whether the leaves of the summer in which it was last looked at are still on: bare wood is no sail.
      def in_leaf? = seen.nil? || today < @orchard.season.next_day(@book.value("care.calendar.leaf-fall"), seen.seen_on)

      # Whether it sleeps with its tree since a summer that it was there in.
      def asleep?
        !@book.evergreen?(@species) &&
          Core::Tend::Leaf.fallen_since?(graft.grafted_on, today, @orchard.season, @book,
                                         Core::Tend::Leaf.later(@species, @orchard.place, @book))
      end

      # A day of the season in which it could be made again: its own, or the one that has begun since.
      def year_of_regraft = @orchard.season.at_hand(graft.grafted_on, today)

      # What stands in the place of one that was lost, or is decided for it.
      #
      # @return [Hash, nil] a reason
      def instead
        return unless care[:state] == "failed"

        mate, later = graft.living_mate(today), graft.followed_by(today)
        return { code: "answer_mate", variety: mate.variety.name, on: mate.grafted_on } if mate
        return { code: "answer_followed", variety: later.variety.name, on: later.grafted_on } if later

        row = graft.limb.planned
        return unless row&.decided_since?(graft, today)

        row.again?(graft, today) ? planned_again(row) :
          { code: "answer_decided", **row.unworked(@orchard.season_to_plan(today)) }
      end

      def planned_again(row)
        windows = @orchard.stub_windows(today)
        return { code: "answer_planned", season: row.season } unless row.complete? && windows.past?(row)

        { code: "answer_missed", season: row.season, to: windows.following([row]), **regrowth_days }
      end

      # While the regrowth of its stub can still be budded this year, between which days.
      def regrowth_days
        return {} unless care[:kind] == "stub" && today <= budding.end

        { from: (budding.begin if today < budding.begin), until: budding.end }.compact
      end

      # While one waits, how likely it lives by what was seen, and what the next look would make of that. One that has
      # knit may sleep until the leaves fall: of it nothing is told by when its buds move. One that moved and whose buds
      # are then dead is called dead, however likely it was to live.
      UNDECIDED = %w[answer_wait answer_swelling answer_knitting answer_false_start].freeze
      private_constant :UNDECIDED

      # The day by which a living graft has moved as likely as not, or a week on.
      def look_again_on = [patience_on, today + 7].max

      # @return [Hash] a reason: +alive+ now, and what it would be on +on+ with buds as +better+ and +worse+ say
      def odds
        moved = %w[swelling leafing].include?(seen_so_far[:buds])
        better, worse = moved ? "leafing" : "swelling", ("asleep" unless moved)
        again = ->(buds) { buds && alive(look_again_on, { **seen_so_far, buds: buds }) }
        { code: "answer_odds", alive: alive(seen.seen_on, seen_so_far), on: look_again_on, better: better,
          worse: worse, if_better: again[better], if_worse: again[worse] }.compact
      end

      # By Core::Practice::Read, with the time until its patience ends as the time in which its buds move: a living
      # graft sleeps on for a while after it has knit.
      def alive(day, so_far)
        days = [(day - graft.grafted_on).to_i, 0].max
        stick = @orchard.success(today).of(@species, graft.technique, hand: taken_on_by)[:stick]
        Core::Practice::Read.call(callus_share: days / (patience_on - graft.grafted_on).to_f, days: days,
                                  expected_take: LaterWood.lives(stick, graft.sticks), seen: so_far,
                                  rulebook: @book)[:alive]
      end

      # Who took the limb on as their own when it was planned, and grafted it: until they have grafted some, it is read
      # by their hand, as its plan was. A grafter of whom nothing is recorded yet is not a new hand by that alone.
      def taken_on_by
        row = graft.limb.planned
        of_then = row && row.season == @orchard.season.name_of(graft.grafted_on)
        row.hand if of_then && row.hand == graft.grafter
      end

      def seen_so_far = last_seen.slice("buds", "callus").transform_keys(&:to_sym).compact

      # Where it would be made again, and in which year.
      def again_where = [@graft.limb.tree_id, @species, year_of_regraft]

      # Whether another like it can be made now, from when and until when, and what wood of its variety is free.
      def slip
        @slip ||= free_wood.then do |wood|
          { **(needs_bark? ? bark_days : days_at_rest(wood)), **wood, no_room: graft.no_room? }
        end
      end

      def needs_bark? = !last_days.at_rest?(graft.technique)

      def bark_days
        bark = @orchard.bark_forecast(today).of_trees([graft.limb.tree]).first
        opens, closes = bark.opens_on, bark.closes_on
        { slips: !opens.nil? && today >= opens && today <= closes, opens_on: opens,
          ahead: today <= closes && (opens.nil? || today < opens) }
      end

      # Of a method that needs no bark that slips; its wood may still be cut where none is at hand.
      def days_at_rest(wood)
        opens = @orchard.stub_windows(today).opens_at_rest(@species, @orchard.bark_forecast(today),
                                                           method: graft.technique)
        { slips: today.between?(opens, regraft_until), opens_on: opens, at_rest: true,
          ahead: today < opens || (wood[:sticks].zero? && !wood[:woken] && today <= regraft_until) }
      end

      def free_wood
        supply = @orchard.wood_supply(@orchard.season.name_of(today), today)
        stored, free = supply.in_store(graft.variety_id)
        { sticks: free, wanted: stored.positive? && free.zero?, woken: !supply.to_come?(graft.variety),
          leafy: supply.leafy?(graft.variety), **(free.positive? ? also_lost : {}) }
      end

      # Other limbs whose grafts of that variety were lost, and of which nothing is decided: the same sticks are told
      # to them.
      def also_lost
        limbs = @orchard.lost_undecided(today)
        others = limbs.reject { |limb| limb.id == graft.limb_id }
          .select { |limb| limb.graft&.variety_id == graft.variety_id }
        others.any? ? { also: others.map(&:label) } : {}
      end

      def weeks = (today - graft.grafted_on).to_i / 7.0
      def shoot_mm
        @shoot_mm ||= graft.tallies.select(&:growth_mm).last&.growth_mm&.to_f ||
          graft.visits.select { |each| each.longest_shoot_mm && each.seen_on <= today }
            .last&.longest_shoot_mm&.to_f
      end

      # How thick the shoot is at its foot: measured at a tally, else by its length.
      def base_mm
        measured = graft.tallies.select(&:above_mm).last&.above_mm&.to_f
        measured || (shoot_mm && Core::Tend::Union.foot(shoot_mm, @book))
      end

      def measured_base? = graft.tallies.any?(&:above_mm)
      def hold
        Core::Tend::Union.hold(graft.technique,
                               CoreInputs.closure(graft)[:closed_share], @book)
      end
      def gust_ms = @gust_ms ||= @orchard.weather(today).gust_to_expect

      def wind(weeks_at = weeks, base: base_mm)
        Core::Tend::Wind.reckon({ weeks: [weeks_at, 0].max, base_diameter_mm: base, gust_ms: gust_ms,
                                  leaf_width_mm: @book.value("reckoning.union.leaf_width").fetch(@species, 70),
                                  hold: hold }, rulebook: @book)
      end

      # Week by week, for this thickness.
      def wind_curve = (0..[(weeks + 12).ceil, 26].max).step(2).map { |week| [week.to_f, wind(week)[:safe_length_mm]] }

      def fruit(weeks_at = weeks)
        Core::Tend::Fruit.reckon({ weeks: [weeks_at, 0].max, base_diameter_mm: base_mm,
                                   lever_mm: @book.value("reckoning.union.lever"),
                                   fruit_g: @book.value("reckoning.union.fruit_g").fetch(@species, 150), hold: hold,
                                   season: [@orchard.season.name_of(today) - @orchard.season.name_of(graft.grafted_on) +
                                            1, 1].max, none_for: none_for }, rulebook: @book)
      end

      def fruit_curve
        (0..[(weeks + 26).ceil, 52].max).step(4).map { |week| [week.to_f, fruit(week)[:could_carry].to_f] }
      end

      def none_for = @book.fruitless_seasons(graft.limb.tree.school)

      # When it was found dead; nil while it stands.
      def lost_on
        graft.outcome(today)[:lost_on]
      end

      # Whether somebody said by what it was lost.
      def known_loss? = !graft.lost_on.nil? && !%w[failed unknown].include?(graft.lost_cause)

      # Likely causes, ranked; nil while it stands, or where its cause is known.
      def causes
        died = lost_on or return nil
        return nil if known_loss?

        Core::Tend::Cause.reckon(
          { species: @species, grafted_on: graft.grafted_on, failed_on: died,
            weather: weather_of(died), bark_slip: graft.bark_slip,
            cover: graft.finish(:cover), in_reach: in_reach?, southern: @orchard.southern?,
            latitude_deg: @orchard.latitude, altitude_m: @orchard.altitude_m, **wood,
            **seen_by(died), **day_mates },
          rulebook: @book
        )
      end

      # Days from before it was made and up to its end; of one that stood for years those of its first and of its last.
      def weather_of(died)
        weather, made = @orchard.weather(today), graft.grafted_on - 30
        return weather.days(made, died) if died - made <= 2 * WEATHER_DAYS

        weather.days(made, made + WEATHER_DAYS) + weather.days(died - WEATHER_DAYS, died)
      end
      # So many days hold all that a cause is looked for in.
      WEATHER_DAYS = 400
      private_constant :WEATHER_DAYS

      # What a visit can have seen that speaks for a cause.
      SIGNS = {
        moved_early: ->(visit, report) { MOVING.include?(visit.buds) && visit.seen_on < report.care[:knit_on] },
        had_grown: ->(visit, report) { report.seen_grown?(visit) },
        seal_cracked: ->(visit, _) { %w[cracked gone].include?(visit.seal_state) },
        wrap_loose: ->(visit, _) { visit.wrap_state == "loose" },
        tape_biting: ->(visit, _) { visit.wrap_state == "biting" },
        pests: ->(visit, _) { visit.pests && visit.pests != "none" }
      }.freeze
      MOVING = Core::Tend::GraftLife::MOVING
      private_constant :SIGNS, :MOVING

      # How long a shoot is that grew, and did not only open its buds.
      def grown_mm = @book.value("cause.figures.grown")

      # Whether a visit saw it grow: what took, and a bud not before it was to wake.
      def seen_grown?(visit)
        return true if (visit.longest_shoot_mm || 0) > grown_mm

        visit.verdict == "took" && (care[:waking_on].nil? || visit.seen_on >= care[:waking_on])
      end

      private

      def past_care(care)
        begun = care[:tasks].reject { |task| task[:status] == "ahead" }
        { **care, state: care[:state] == "failed" ? "failed" : "gone",
          tasks: begun.map { |task| %w[open late].include?(task[:status]) ? { **task, status: "passed" } : task } }
      end

      def seen_by(day)
        visits = graft.visits.select { |each| each.seen_on <= day }
        # What is joined to a rooted plant moves and grows by that one's root.
        signs = graft.kind == "approach" ? SIGNS.except(:moved_early, :had_grown) : SIGNS
        signs.transform_values { |sign| visits.any? { |visit| sign.call(visit, self) } }
      end

      # How the wood had lain until it was used.
      def wood
        bundle = Stick.where(graft_id: graft.id).first&.bundle
        age = bundle && @orchard.wood_store(graft.grafted_on).aged(bundle).last
        { wood_life_left: age && age[:life_left_share], wood_warm_hours: age && age[:warm_degree_hours] }
      end

      def in_reach?
        @orchard.grazing != "none" && graft.cut_mm && graft.limb.height_at(graft.cut_mm) < @orchard.browse_mm
      end

      MATES = 200

      # How the other grafts of that day fared.
      def day_mates
        fates = GraftOutcomeSql.tally(
          Graft.in_sight.where(orchard_id: @orchard.id, grafted_on: graft.grafted_on).exclude(id: graft.id).order(:id)
          .limit(MATES)
        )
        { day_took: fates[:took], day_failed: fates[:lost] }
      end
    end
  end
end
