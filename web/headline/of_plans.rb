# frozen_string_literal: true

module Vestry
  module Web
    class Headline
      # What matters of plans, cuts and varieties.
      module OfPlans
        def plan
          season = orchard.season_to_plan(@today)
          waiting = orchard.planned(:waiting, season).rows
          falling = waiting.select(&:comes_off_with)
          return falling_words(falling) if falling.any?

          short = orchard.wood_supply(season, @today).wanting.first
          short ? short_words(short, season) : waiting_words(waiting, season)
        end

        def short_words(short, season)
          leading("What is planned for #{season} takes #{counted(short.wanted, 'stick')} of " \
                  "#{short.variety.name}, and #{short.have.zero? ? 'none are' : "only #{short.have} are"} " \
                  "at hand or promised.",
                  "See what wood is missing", "wood")
        end

        def waiting_words(waiting, season)
          begun = none_to_plan if waiting.empty?
          return begun if begun

          failed = orchard.lost_undecided(@today)
          return failed_words(failed) if failed.any?
          return none_waits_words(season) if waiting.empty?

          unfinished = waiting.reject(&:complete?)
          return unfinished_words(unfinished) if unfinished.any?

          waiting_in(waiting, season)
        end

        # So many seasons on it is looked for what waits.
        SEASONS_ON = 5

        def none_waits_words(season)
          later = orchard.planned(:waiting, season + SEASONS_ON).rows
          return nothing_waits_words(season) if later.empty?

          soonest, rows = later.group_by(&:season).min
          "No limb is left for #{season}; #{rows.size == 1 ? 'one waits' : "#{rows.size} wait"} for #{soonest}."
        end

        def nothing_waits_words(season)
          "No limb waits to be worked in #{season}: " \
            "#{all_planned? ? 'every tree has its plan' : 'choose a tree and mark its limbs'}."
        end

        def all_planned? = (@unplanned ||= Records::PlanQueries.unplanned(orchard, most: 1)).empty?

        # Where no limb can be planned yet.
        def none_to_plan
          return "No tree stands here yet: add trees under Survey, and their limbs." if orchard.treeless?

          first = orchard.measured_first
          first && leading("#{first.label} has no limbs surveyed yet: measure them, then say what becomes of each.",
                           "Measure the limbs of #{first.label}", "survey", "/trees/#{first.id}", role: "grafter")
        end

        # @param rows [Array<Records::PlanLimb>] decided in full, of this season or of earlier ones
        def waiting_in(rows, season)
          missed, rest = rows.partition { |row| orchard.stub_windows(@today).past?(row) }
          ahead, due = rest.partition { |row| row.season >= season }
          return later_this_year(due, ahead, missed, season) if due.any?
          return missed_in_plan(missed) if ahead.empty?

          "#{counted_are(ahead.size, 'limb')} decided and waiting for the knife in #{season}#{left_behind(missed)}."
        end

        # Buds are set after bark has closed, when the next season is planned for.
        def later_this_year(due, ahead, missed, season)
          more = "; #{ahead.size} more #{ahead.one? ? 'is' : 'are'} decided for #{season}" if ahead.any?
          "#{counted(due.size, 'limb')} #{due.one? ? 'has its' : 'have their'} day this year yet" \
            "#{more}#{left_behind(missed)}."
        end

        def missed_in_plan(rows)
          was, its, it = rows.one? ? %w[was its it] : %w[were their them]
          "#{counted(rows.size, 'limb')} #{was} not grafted by #{its} last sensible day: move #{it} to " \
            "#{orchard.stub_windows(@today).following(rows)}."
        end

        def left_behind(rows)
          return if rows.empty?

          "; #{rows.size} more #{rows.one? ? 'is past its' : 'are past their'} last sensible day"
        end

        def unfinished_words(rows)
          "#{counted(rows.size, 'limb')} marked to be worked still #{rows.size == 1 ? 'lacks' : 'lack'} a cut, " \
            "method or variety: begin with #{rows.first.limb.label}."
        end

        # What stands on wood that is to be cut off.
        def falling_words(rows)
          row = rows.first
          more = rows.size > 1 ? ", and #{counted(rows.size - 1, 'limb')} more so" : ""
          told = comes_off_words(row.comes_off_with.cut_below_facts)
          leading("#{row.limb.label} is to be worked, but #{told}#{more}.",
                  "Decide on #{row.limb.label}", "plan", "/trees/#{row.limb.tree_id}?limb=#{row.limb_id}",
                  role: "steward")
        end

        def failed_words(limbs)
          it = limbs.one? ? "it" : "them"
          leading("#{listed_some(limbs.map(&:label), 4)} #{limbs.one? ? 'was' : 'were'} lost, and nothing is decided " \
                  "of #{it} since: plan #{it} again, or give #{it} another role.",
                  "Plan #{limbs.first.label} again", "plan", "/trees/#{limbs.first.tree_id}?limb=#{limbs.first.id}",
                  role: "steward")
        end
        private :short_words, :waiting_words, :none_waits_words, :nothing_waits_words, :all_planned?, :waiting_in,
                :later_this_year, :missed_in_plan, :left_behind, :unfinished_words, :falling_words, :failed_words

        # What the saw has to do.
        def cuts(season)
          rows = orchard.planned(:cuts, season).rows
          return nothing_sawn_words(season) if rows.empty?

          "#{counted(rows.size, 'cut')} for #{season} " \
          "on #{counted(rows.map { |row| row.limb.tree_id }.uniq.size, 'tree')}" \
          "#{to_cut_long(rows)}#{tops_left_on(rows, season)}."
        end

        def to_cut_long(rows)
          long = rows.count { |row| row.long_cut_mm && row.headed_on.nil? }
          "; #{long} of them still to be cut long in winter" if long.positive?
        end

        # Those of the cuts that wait for what takes over.
        def tops_left_on(rows, season)
          left = rows.count { |row| row.lift_waits(season) }
          "; #{counted_are(left, 'top')} left on for now" if left.positive?
        end
        private :to_cut_long, :tops_left_on

        def nothing_sawn_words(season)
          waits = orchard.planned(:stubs, season).rows.any?(&:complete?)
          return "What waits in #{season} is set without a saw." if waits
          return "All that was to be sawn for #{season} is done." if Records::PlanQueries.sawn_any?(orchard, season)

          waiting = orchard.planned(:waiting, season).rows
          left = waiting.any? && waiting.all?(&:complete?)
          "Nothing is to be sawn for #{season}#{' yet' if waiting.any? || !all_planned?}" \
            "#{left ? ': move what was not grafted in its time' : to_plan_words(waiting)}."
        end

        def to_plan_words(waiting)
          ": give limbs a role and a place to cut" if waiting.any? || !all_planned?
        end
        private :to_plan_words

        # Whether every tree has its plan, and none of them a limb that waits for what is lacking.
        def nothing_to_plan?(season) = all_planned? && orchard.planned(:waiting, season).rows.empty?

        # What could stand on a tree or along a row.
        def choices(title, lines)
          fit = lines.select { |line| %w[good workable].include?(line.compatibility["value"]) && !line.unpermitted }
          return "Nothing in the register lives on #{title}: add a variety of its kin." if fit.empty?

          partnered = fit.select { |line| line.partner_need != "needed" || line.partners.any? }
          "#{counted(fit.size, 'variety', 'varieties')} of the register #{fit.size == 1 ? 'lives' : 'live'} " \
          "on #{title}#{partner_words(partnered.size, fit.size) unless partnered.size == fit.size}."
        end

        def varieties(all)
          open = all.select { |each| Records::VarietyFit.unpermitted?(each) }
          return "#{listed(open.map(&:name))} cannot be planned: protected, and no permission is recorded." if open.any?

          all.empty? ? "No variety is written down yet: add the first one." :
            "#{counted(all.size, 'variety', 'varieties')} in the register."
        end

        # One of them: where it stands, and where it is to be.
        #
        # @param places [Hash] Records::GraftQueries.where_stands
        def variety(variety, places)
          return "#{variety.name} cannot be planned: protected, and no permission is recorded." if
            Records::VarietyFit.unpermitted?(variety)

          trees, grafts, planned = places.values_at(:trees, :grafts, :planned)
          said = [("#{counted(trees, 'tree')} #{trees == 1 ? 'carries' : 'carry'} it" if trees.positive?),
                  ("#{counted_are(grafts, 'limb')} grafted with it" if grafts.positive?),
                  ("#{counted_are(planned, 'limb')} to become it" if planned.positive?)]
          said.none? ? "#{variety.name} stands nowhere here, and no limb is to become it." :
            "#{variety.name}: #{listed(said.compact)}."
        end

        private

        def partner_words(count, all)
          return "; #{all == 1 ? 'it has' : 'they have'} no known partner in bloom within reach" if count.zero?

          "; #{counted(count, 'of them has', 'of them have')} a partner in bloom within reach"
        end
      end
    end
  end
end
