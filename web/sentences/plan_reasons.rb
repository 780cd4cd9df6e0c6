# frozen_string_literal: true

module Vestry
  module Web
    module Sentences
      # Why a limb has its role and its cut, and what a plan and its pace meet.
      module PlanReasons
        def say_head_under_browse(r)
          "Ends #{about_length(r[:tip_height_mm])} up, where the animals reach (#{about_length(r[:lowest_mm])})."
        end
        def say_head_crowds(r) = "Crowds #{r[:other_tag] || 'a larger limb'}: same side, same height."
        def say_head_cuttable(r)
          "Can be cut#{r[:own] ? " for the school's own methods" : ', though not for a method of the school\'s'}; " \
            "carries #{percent(r[:share])} of the head."
        end
        def say_head_large(r)
          "Where it can be cut it is #{thickness(r[:mm])} thick: work its branches first, or set a graft in its " \
            "side. Till then it can feed the roots."
        end
        def say_head_damaged(_) = "It is damaged: cut below the damage, or lift it."
        def say_head_nurse(r)
          "Low (ends #{about_length(r[:tip_height_mm])} up) and carries #{percent(r[:share])}: enough to feed the " \
            "roots, little to miss."
        end
        def say_head_none_small(r)
          "No limb is small enough to nurse the others without taking the tree over. This one carries " \
          "#{percent(r[:share])}: shorten it by half, and keep what is low."
        end
        def say_head_only_limb(r) = say_limb_only(r)
        def say_head_no_cut(r)
          "#{say_conflict(r[:conflict])} Till then it can feed the roots."
        end

        def say_plan_all_lifted(r)
          "Every limb (#{listed(r[:tags])}) is to be lifted: nothing would be left to feed the roots. Keep at least " \
          "one to work and one as nurse."
        end
        def say_plan_nothing_worked(_) = "Nothing is to be grafted: give at least one limb the role of work."
        def say_plan_trunk_bare(r)
          "Its trunk is bare round #{percent(r[:share])} of its girth, and no bridge carries yet: mend it first, and " \
          "leave the head on until one does."
        end
        def say_plan_refused(r)
          "#{r[:tag]}: #{r[:variety]} will not live on this stock. #{r[:why]} Choose a variety of near kin."
        end
        def say_plan_protected(r)
          "#{r[:tag]}: #{r[:variety]} is protected and no permission is recorded. Record it in the register, or " \
          "choose another."
        end
        def say_plan_limb_gone(r)
          "#{r[:tag]} is gone since this was planned. Plan another limb in its place, or let it be."
        end
        def say_plan_cut_beyond(r)
          "#{r[:tag]} is #{length(r[:length_mm])} long now; its cut was planned at #{length(r[:cut_mm])}. Choose the " \
          "place again."
        end
        def say_plan_comes_off(r)
          return "#{r[:tag]} #{comes_off_words(r)}. Cut #{r[:with]} above it, or fill no stretch there." if r[:stretch]

          "#{r[:tag]} #{comes_off_words(r)}. Cut #{r[:with]} above it, or let #{r[:tag]} take over from it, or " \
            "choose another limb."
        end

        # @param cut [Hash] +with+ (the tag of the limb that is cut below it), +cut_mm+ and +season+
        def comes_off_words(cut)
          "comes off with #{cut[:with]}, which is to be #{cut[:cut_mm] ? "cut at #{length(cut[:cut_mm])}, below it," :
            'taken off'}#{" in #{cut[:season]}" if cut[:season]}"
        end
        def say_plan_lift_waits(r)
          "#{r[:tag]} is to come off#{" in #{r[:season]}" if r[:season]} #{above_branch(r)}: leave its top on " \
            "until a graft grows there, or decide it again."
        end

        BRANCH_STATES = { "gone" => "which came off itself", "lost" => "where the graft died",
                  "unworked" => "which is not grafted yet", "waiting" => "which is not known to have taken" }.freeze
        private_constant :BRANCH_STATES

        # Above what a limb comes off, and why not yet.
        #
        # @param waits_for [Hash] +branch+ and +state+, as PlanLimb#lift_waits has them
        def above_branch(waits_for)
          "above #{waits_for[:branch]}, #{BRANCH_STATES.fetch(waits_for[:state])}"
        end

        def say_plan_measured_anew(r)
          "#{r[:tag]} was measured anew: #{length(r[:was_mm])} at the cut when it was planned, #{length(r[:now_mm])} " \
          "now. Look at its method and sticks again."
        end
        def say_plan_no_cut(r) = "#{r[:tag]}: #{say_conflict(r[:conflict])}"
        def say_plan_overdue(r)
          "#{r[:tag]} was to be worked in #{r[:season]} and carries no graft: move it to a later season, or decide " \
          "otherwise."
        end
        def say_plan_no_nurse(r)
          "#{r[:have].zero? ? 'No nurse limb is' : "Only #{counted(r[:have], 'nurse limb')} is"} kept; the school " \
          "wants #{r[:wanted] == 1 ? 'one' : 'two'}. A nurse feeds the roots and calms the graft: choose a low limb " \
          "of middling size."
        end
        def say_plan_long_shoots(r)
          "Expect first-year shoots of #{about_length(r[:shoot_mm])}, over " \
            "#{about_length(r[:long_mm])}: they flag and blow out. " \
          "Keep more nurse, work more stubs, or go slower; brace every shoot."
        end
        def say_plan_overtopped(r)
          "#{percent(r[:above])} of the leaf that stays would stand higher than the grafts, and shade and starve " \
          "them: work the higher limbs first, or shorten those that stay."
        end
        def say_plan_nurse_too_strong(r)
          "One limb that stays carries #{percent(r[:largest_kept])} of the head and takes the sap from the grafts: " \
          "shorten it by half."
        end
        def say_plan_all_arms(r)
          "#{r[:season]} takes #{r[:arms]} of #{r[:of]} arms: half of the tiers at once is enough, and the others " \
          "feed it."
        end
        def say_plan_strong_high(r)
          "#{r[:tag]}: #{r[:variety]} grows strongly and stands high: give it a low, flat limb, or it takes the " \
          "tree over."
        end
        def say_plan_weak_low(r)
          "#{r[:tag]}: #{r[:variety]} grows weakly and stands low: give it a high limb in the sun, or it is shaded out."
        end
        def say_plan_many_varieties(r)
          "#{counted(r[:count], 'variety', 'varieties')} on one tree; this school keeps to #{r[:most]}, alike in " \
          "vigour."
        end
        def say_plan_only_limb(r) = "#{r[:tag]} is all there is. #{say_limb_only(r)}"

        # What else there is for a tree of one limb, or for a thick one.
        def say_limb_only(_)
          "The tree has no other limb: set a side graft below and keep the top until it has taken, or renew first " \
          "and " \
          "graft what comes. Cut in one season, nothing would feed the roots but the grafts."
        end
        def say_limb_taper(_)
          "A long limb: measure it across once more, further out. Until then how thick it is there is a guess."
        end
        def say_limb_trained(r)
          "Trained to a wall: cut near the trunk, on a shoot or at the arm's own base, half of the tiers in a " \
          "season. " \
          "A new shoot tied to the arm's wire fills its place in #{counted(r[:seasons], 'season')}."
        end
        def say_kind_bleeds(r) = "#{bleeding(r[:days]).capitalize}."

        def bleeding(days)
          "it bleeds: cut it some #{days} days before, or notch the trunk low on two sides, and graft when the " \
            "cut is dry"
        end

        # What is minded before a stub that bleeds is cut; nil where it does not, or where nothing is cut.
        #
        # @param seen [Boolean] whether its tree was seen to bleed
        def mind_bleeding(limb, technique, seen: false)
          days = bleed_days(limb, technique, seen) and bleeding(days)
        end

        def bleed_days(limb, technique, seen)
          Core::Plan::LimbWays.bleed_days(limb.tree.species, technique, orchard.rulebook, seen: seen)
        end

        # By when a stub that bleeds is cut for its day, or what is done where that is over.
        #
        # @param stub [#row, #told] of a crew's day
        # @return [String, nil]
        def cut_before(stub, date, today)
          days = bleed_days(stub.row.limb, stub.row.technique, stub.told.bleeds?) or return
          by = date - days
          return ", it bleeds: notch the trunk low on two sides" if by < today

          ", to be cut by #{short_day(by)}, for it bleeds"
        end
        def say_kind_evergreen(r)
          "Evergreen: no winter's sleep to count from, so its days are the calendar's. Take leafy wood on the day, " \
          "cut the leaves off and keep their stalks; graft when nights stay above #{warmth(r[:night_c])}; bag it, " \
          "and shade the bag for #{counted(r[:days] / 7, 'week')}."
        end
        def say_kind_evergreen_joined(r)
          "Evergreen: no winter's sleep to count from, so its days are the calendar's. Join it when nights stay " \
          "above #{warmth(r[:night_c])}; the plant beside it keeps its leaves and its roots."
        end
        def say_kind_warm(r)
          "#{species_name(r[:species])} knits only in warmth: wait for days near its best" \
          "#{r[:bag] ? ", and put a bag over the union: it adds some #{bag_warms}" : ', under the bag'}."
        end
        # How much warmer it is under a bag.
        def bag_warms
          degrees = orchard.rulebook.value("care.figures.cover_warms").fetch("foil-and-bag")
          "#{Core::Measure.degrees_summed(degrees, orchard.units)} °#{orchard.units == 'imperial' ? 'F' : 'C'}"
        end

        def say_large_branches(r)
          return "No branch of it is #{range(r)} thick: see whether one can be grown." if r[:tags].empty?

          "Graft its branches first: #{listed(r[:tags])} #{r[:tags].one? ? 'is' : 'are'} of a size that takes well " \
          "and closes (#{range(r)})."
        end
        def say_large_side(_)
          "Or set a side bark graft into its bare stretch, and leave its head on until that has grown."
        end
        def say_large_ring(r)
          "Cut at #{length(r[:mm])}, it wants a ring of #{r[:sticks]} sticks and some " \
          "#{counted(r[:seasons], 'season')} to close."
        end

        def say_plan_short_wood(r)
          "#{r[:tag]}: #{r[:variety]} is short of #{counted(r[:short], 'stick')} for #{r[:season]}, and this stub is " \
          "among those to drop first. Find more wood, or move it to a later season."
        end
        def say_plan_doubtful(r)
          "#{r[:tag]}: #{r[:variety]} on this stock is doubtful. #{[r[:why], r[:delayed]].compact.join(' ')}"
        end
        def say_plan_delayed(r) = "#{r[:tag]}: #{r[:variety]} takes here; later: #{r[:delayed]}"

        def say_plan_over_cap(r)
          if r[:tag]
            return "#{r[:tag]} alone carries #{percent(r[:share])} of the head and #{percent(r[:cap])} is the most " \
                   "one season may take. Allow #{percent_up(r[:share])}, or let a side branch of it take over."
          end

          "#{r[:season]} takes #{percent(r[:share])} of the head; #{percent(r[:cap])} is the most one season may. " \
          "Move a limb to another season."
        end

        def say_stages_limb_over_cap(r)
          "#{r[:limb]} alone carries #{percent(r[:share])}: no season can take it under #{percent(r[:cap])}."
        end
        def say_stages_more_seasons(r) = "#{counted(r[:seasons], 'season')} would do."
        def say_stages_not_known(_) = "Whether so few seasons can do was not settled: try one more, or a looser cap."
        def say_stages_higher_cap(r) = "#{percent_up(r[:cap])} a season would do."
        def say_stages_fewer_do(r)
          "There are too few limbs to share " \
          "out: #{counted_are(r[:seasons], 'season')} " \
          "enough."
        end

        def percent_up(share) = "#{Core::Near.ceil(share * 100)} %"

        def say_vigour_keep_more(_) = "Long enough to flag and blow out: keep more nurse, or more stubs."
        def say_vigour_overtopped(r)
          "#{percent(r[:above])} of the leaf that stays stands higher than the grafts, and shades and starves them: " \
          "work the higher limbs first, or shorten them."
        end
        def say_vigour_nurse_too_strong(r)
          "One limb keeps #{percent(r[:largest_kept])} of the head, and takes the sap: keep less of it, by half."
        end
        def say_vigour_well(_) = "Neither driven nor starved: well balanced."

        # When the crop is back, in the middle future and in eight of ten.
        def say_crop_back(ranks, first)
          year = ->(season) { season ? (first + season.round).to_s : "later than #{first + 9}" }
          low, middle, high = ranks.values_at(:p10, :p50, :p90).map(&year)
          low == high ? middle : "#{middle}, between #{low} and #{high}"
        end

        # What the three ways come to over the years.
        def say_worth(told, first)
          worth = told[:ways].transform_values { |way| format("%.1f", way[:worth]) }
          best = { "leave" => "Leaving it as it is", "regraft" => "Regrafting it", "replant" => "Replanting" }
          years = told[:ways]["leave"][:years].size
          from = told[:ahead_from] && first + told[:ahead_from] - 1
          ahead = from ? "Regrafted it is ahead of the old tree from #{from} on." :
            "Regrafted it is not ahead of the old tree within #{years} years."
          "#{best.fetch(told[:best])} is worth most over #{years} years: #{worth['leave']} full crops left as it is, " \
            "#{worth['regraft']} regrafted, #{worth['replant']} replanted. #{ahead}"
        end

        # What wind does to one stick and to several.
        # @param expected [Float, false] of a new hand's single sticks
        def say_hand(name, expected)
          return "#{name} grafts it." unless expected

          "#{name} grafts it, and is new at it: of single sticks of a new hand #{percent(expected)} are expected to " \
            "take. The plan and the reserve of wood go by that."
        end

        def say_sticks_wind(r)
          "In gusts of #{wind_speed(r[:gust_ms])} a shoot of week #{r[:weeks]} is safe to " \
          "#{safe_length(r[:safe_mm])}; #{about_length((r[:shoot_mm] / 10.0).round * 10)} will come" \
          "#{': brace it' if r[:safe_mm] < r[:shoot_mm]}. One torn out alone is the stub; of several, the others go on."
        end

        # The bud that stands in where the graft fails, in short and with what it wants.
        def say_bud_in_short(r)
          return "If nothing takes: too thin to bud" unless r[:shoots_mm]

          "If nothing takes: #{counted(r[:buds], 'bud')} by #{short_day(r[:until])}"
        end

        def say_bud_fallback(r)
          return "Its regrowth stays too thin to bud this year: graft it again next spring." unless r[:shoots_mm]

          low, high = r[:shoots_mm].map { |mm| thickness(mm) }
          "#{counted(r[:buds], 'bud')} into its new shoots, #{low} to #{high} thick, between " \
          "#{short_day(r[:from])} and #{short_day(r[:until])}: chip, or shield where bark lifts. They want " \
          "#{counted(r[:sticks], 'stick')} of this summer's wood, and at least one of them takes in " \
          "#{percent(r[:take])}."
        end

        STICK_WARNINGS = {
          "one_on_large" => "one side of so wide a stub would die back",
          "under_side" => "the lowest sticks hang on the underside"
        }.freeze

        # What a pace risks, in a few words.
        def pace_risk(shoot_mm, taken)
          long = orchard.rulebook.value("reckoning.vigour.long_shoot")
          found = []
          found << "shoots flag and blow out" if shoot_mm && shoot_mm > long
          found << "roots are shocked and bark scorched" if taken &&
                                                            taken > orchard.rulebook.value("reckoning.pace.shock")
          found.empty? ? "none that stands out" : found.join("; ")
        end

        def say_heavy_diameter(r) = "It is #{length(r[:mm])} thick there: heavy enough to tear."
        def say_heavy_share(r) = "#{percent(r[:share])} of the head goes with it."

        def say_beside_stronger(r)
          "grows more strongly than #{r[:other]}: it must be checked, or it takes the tree over"
        end
        def say_beside_weaker(r) = "grows more weakly than #{r[:other]}: give it the upper limbs"

        # What a limb that is not worked is kept for, or what was done to it.
        #
        # @param row [Hash] as PlanLimb#unworked has it
        def say_unworked(row)
          case row[:role]
          when "renew" then say_headed_back(**row.slice(:sawn_on, :wood_for, :planning))
          when "lift" then say_lifted(row)
          else "is kept as a nurse: it feeds the roots and calms the grafts"
          end
        end

        def say_lifted(row)
          return say_to_come_off(row) unless row[:sawn_on]

          "was to come off, and was sawn on #{day(row[:sawn_on])}; what is left stands"
        end

        # In its season, where that is still to come, and above what it waits for.
        def say_to_come_off(row)
          later = " in #{row[:season]}" if row[:season].to_i > row[:planning].to_i
          waits = " #{above_branch(row[:waits_for])}: leave its top on" if row[:waits_for]
          "is to come off#{later}#{waits}"
        end

        def say_headed_back(sawn_on:, wood_for:, planning:)
          return "is headed back, to throw wood for the grafts of #{wood_for}" unless sawn_on

          throws = wood_for < planning ? ", and threw" : ": it throws"
          "was headed back on #{day(sawn_on)}#{throws} wood for the grafts of #{wood_for}"
        end

        def say_break_leave(r)
          "Leave it: cut back clean to the branch at #{length(r[:branch_mm])}, which leads on by itself."
        end

        def say_break_graft(r)
          "Graft it: saw at #{length(r[:clean_mm])} from the fork, below the split, and work the stub within " \
            "#{counted(r[:days_left], 'day')}."
        end

        def say_break_graft_later(r)
          "Graft it next spring: saw at #{length(r[:clean_mm])} from the fork then; leave it longer till that day."
        end

        def say_break_renew(r)
          "Renew it: cut clean at #{length(r[:clean_mm])}, let shoots come, and keep the best placed one."
        end

        def say_pattern_gone(_) = "is no longer there"
        def say_pattern_taken_back(_) = "was taken back"
        def say_pattern_no_limbs(_) = "no limb is surveyed: measure its limbs first"
        def say_pattern_has_plan(_) = "has a plan already, which was left as it is"
        def say_pattern_refused(r) = r[:words]
        def say_pattern_nothing_workable(_) = "no limb is of a size to be worked: look at it by hand"
        def say_pattern_no_pace(r) = "cannot be shared out over #{counted(r[:seasons], 'season')} or fewer"
        def say_pattern_fewer_seasons(r)
          "in #{counted(r[:made], 'season')}, not #{r[:wished]}: it has too few limbs to share out"
        end
        def say_pattern_lasting(r)
          doubt = r[:value] == "doubtful" ? "is doubtful. #{r[:why]}" : "takes."
          ["#{r[:variety]} on this stock #{doubt}", *("Later: #{r[:delayed]}" if r[:delayed])].join(" ")
        end
        def say_pattern_no_cut(r) = "#{r[:tag]}: #{say_conflict(r[:conflict])}"

        CONFLICTS = {
          "clearance" => "the fork takes up the limb's whole length",
          "diameter" => "the limb is nowhere of a diameter the method works",
          "browse" => "the limb is nowhere above what the animals reach",
          "reach" => "the limb is nowhere within your reach",
          "nurse" => "the nurse on it stands too high",
          "grafted" => "a branch of it that is grafted, or is to be, stands too high",
          "branches" => "its forks leave no room for a cut",
          "unsound" => "its sound wood leaves no room for a cut",
          "stub" => "its stub is too short to be cut back to fresh wood"
        }.freeze

        LIMITS = { "clearance" => "clear of the fork", "diameter" => "a diameter the method works",
                   "browse" => "above the animals and the mower", "reach" => "within reach",
                   "nurse" => "above its nurse", "grafted" => "above its branch that is grafted, or is to be",
                   "stub" => "fresh wood below the stub that died" }.freeze

        WAYS_OUT = {
          "clearance" => "cut a side branch instead", "diameter" => "choose another method",
          "browse" => "guard the graft, or keep the limb as a nurse",
          "reach" => "work from a platform, or graft a lower side branch",
          "nurse" => "keep a lower nurse", "grafted" => "let that branch take over from it",
          "branches" => "graft one of its branches",
          "unsound" => "graft a sound branch, or renew the limb",
          "stub" => "bud a shoot that grows below it, or renew the limb"
        }.freeze

        def say_conflict(names)
          words = names.size == 1 ? CONFLICTS.fetch(names.first) :
            "#{LIMITS.fetch(names[0])} and #{LIMITS.fetch(names[1])} cannot hold together"
          "No place to cut: #{words}. What would help: #{names.map { |name| WAYS_OUT.fetch(name) }.join(', or ')}."
        end

        # What a limit does to the place of the cut, in a few words.
        def say_limit(limit)
          words = LIMITS.fetch(limit[:name])
          limit[:from_mm] ? "#{words}: #{length(limit[:from_mm])} to #{length(limit[:to_mm])} from the fork" :
            "#{words}: nowhere"
        end
      end
    end
  end
end
