# frozen_string_literal: true

module Vestry
  module Web
    class Headline
      # What matters of a tree, a limb or a stripped trunk.
      module OfTrees
        # @param trees [Integer, nil] how many stand here, where it was counted already
        # @param found [Integer, nil] how many of them are as they are looked for
        def survey(trees: nil, found: nil)
          return "No tree here is all of that: ask for less at once." if found&.zero?

          broken = Records::BrokenLimbs.of(orchard, @today)
          return broken_words(broken) if broken.any?

          trees ||= orchard.tree_count
          bare = orchard.bare_tree
          return "No tree stands here yet: add the first one." if trees.zero?
          return bare_words(bare, trees) if bare

          planned = Records::PlanQueries.planned_trees(orchard)
          open = Records::PlanQueries.unplanned_count(orchard, @today)
          open.positive? ? unplanned_words(open) : all_planned_words(planned, trees - planned)
        end

        # @param rest [Integer] how many trees are there for their wood, or were grafted on each limb
        def all_planned_words(planned, rest)
          leading("#{planned_words(planned, rest)}; the year's work is at Tend.", "What is due", "tend")
        end

        def planned_words(planned, rest)
          return "No tree is left to be planned" if planned.zero?

          to_work = " to be worked" if rest.positive?
          planned == 1 ? "The one tree#{to_work || ' here'} has a plan" : "All #{planned} trees#{to_work} have a plan"
        end

        def bare_words(bare, trees)
          stand = trees == 1 ? "stands" : "stand"
          leading("#{bare.label} has no limbs surveyed yet; #{counted(trees, 'tree')} #{stand} here.",
                  "Measure the limbs of #{bare.label}", "survey", "/trees/#{bare.id}", role: "grafter")
        end

        # @param open [Integer] how many trees have no plan
        def unplanned_words(open)
          trees = Records::PlanQueries.unplanned(orchard, most: 4)
          names = trees.map(&:label)
          names << "#{open - 4} more" if open > 4
          leading("#{listed(names)} #{open == 1 ? 'has' : 'have'} no plan yet: choose a tree and read its limbs.",
                  "Plan #{trees.first.label}", "plan", "/trees/#{trees.first.id}", role: "steward")
        end
        private :bare_words, :unplanned_words, :all_planned_words, :planned_words

        # Limbs of which something is to be said after they broke.
        def broken_words(broken)
          first = broken.first
          more = broken.size > 1 ? ", and #{counted(broken.size - 1, 'limb')} more" : ""
          leading("#{first.limb.label} #{Records::LimbEvent::KINDS.fetch(first.kind)} on " \
                  "#{day(first.happened_on)}#{more}: graft it, leave it to a branch, or renew it.",
                  "Decide on #{first.limb.label}", "survey", "/trees/#{first.limb.tree_id}?limb=#{first.limb_id}",
                  role: "grafter")
        end

        def tree(tree)
          planned = tree.plan ? tree.plan.of_standing(tree.standing_limbs.map(&:id)) : []
          return "#{tree.label} has no limbs yet: measure the first one." if tree.standing_limbs.empty?
          if tree.wounds.any? && (bare = Records::TreePlan.new(tree, @today).bare_trunk)
            return "#{tree.label}: #{say(bare).then { |words| words[0].downcase + words[1..] }}"
          end
          if (stump = unlogged_stump(tree))
            return say_wound(stump)
          end
          return unplanned_tree(tree) if planned.empty?

          "#{tree.label}: #{worked_words(tree, planned).join(', ')}#{kept_words(tree, planned)}."
        end

        # A tree without a plan: what stands on it all the same, and what nothing is decided of.
        def unplanned_tree(tree)
          open = tree.standing_limbs.count { |limb| limb.graft.nil? }
          return "#{tree.label} has no plan: choose a limb to be worked." if open == tree.standing_limbs.size

          left = "; of #{counted(open, 'limb')} nothing is decided" if open.positive?
          "#{tree.label}: #{worked_words(tree, []).join(', ')}#{left}."
        end

        # A trunk that was cut to a stump and grafted there, of which no graft is logged.
        def unlogged_stump(tree)
          tree.wounds.map { |wound| Records::WoundReport.new(wound, @today) }
            .find { |told| told.stump && told.stump.graft.nil? }
        end
        private :unplanned_tree, :unlogged_stump

        # Which stripped trunk first.
        #
        # @param told [Array<Records::WoundReport>] all of them, the most pressing first
        def repairs(told)
          return "No stripped trunk is known: look at every trunk foot after the winter." if told.empty?

          open = told.reject { |each| each.settled? || each.repaired? }
          open.empty? ? all_repaired(told) : to_repair(open, open.first)
        end

        # What a picture measured.
        def measured(measure)
          photo = measure.photo
          "#{(photo.limb || photo.tree).label} on #{day(photo.taken_on)}: #{measured_words(measure)}."
        end

        # @param report [Records::GraftReport, nil] of its graft, where the page has read it already
        def limb(limb, report: nil)
          graft, planned = limb.graft, limb.planned
          return gone_words(limb, graft) if limb.gone_by?(@today)

          if graft && !planned&.decided_since?(graft, @today)
            return graft_words(graft, report&.graft&.id == graft.id ? report :
              Records::GraftReport.new(graft, @today))
          end

          stump = unlogged_stump(limb.tree)
          return say_wound(stump) if stump && stump.stump.id == limb.id

          decided_words(limb, planned)
        end

        # What matters about a graft: its limb's, unless another stands for that.
        #
        # @param report [Records::GraftReport]
        def of_graft(graft, report)
          graft.limb.graft&.id == graft.id ? limb(graft.limb, report: report) : graft_words(graft, report)
        end

        # A nurse that has something to be done to it now, as the list of them says; what else is decided, as it is.
        def unworked_words(limb, planned)
          told = say_unworked(planned.unworked(orchard.season_to_plan(@today)))
          return told unless planned.role == "nurse"

          NURSE_NOW.fetch(Records::Nurses.of_limb(limb, @today)&.action, told)
        end

        NURSE_NOW = { "off" => "was kept as a nurse and can come off now: the grafts carry the tree",
                      "shorten" => "is kept as a nurse, and is to be shortened now, so that the grafts get the " \
                                   "light" }.freeze
        private_constant :NURSE_NOW

        # Of a limb that is no more there is nothing to do.
        def gone_words(limb, graft)
          "#{limb.label}#{"#{was_words(graft)}," if graft} came off on #{day(limb.gone_on)}."
        end

        # Nobody says what a limb is before it is known to have taken.
        def was_words(graft)
          name, made = graft.variety.name, day(graft.grafted_on)
          graft.fate == "took" ? ", #{name} since #{made}" : ", grafted with #{name} on #{made}"
        end

        def role_now(planned) = planned.role_in(orchard.season_to_plan(@today))

        def decided_words(limb, planned)
          return "#{limb.label} has nothing decided: work it, keep it or lift it." unless planned
          if role_now(planned) == "later"
            return "#{limb.label} is kept now and worked " \
                   "in #{planned.season}" \
                   "#{planned.variety ? ", to become #{planned.variety.name}" : '; choose its variety by then'}."
          end
          return "#{limb.label} #{unworked_words(limb, planned)}." unless %w[work backup].include?(role_now(planned))
          return unready_words(limb, planned) unless planned.complete?
          return missed_limb_words(limb, planned) if orchard.stub_windows(@today).past?(planned)

          "#{limb.label} is to become #{planned.variety.name} in #{planned.season}#{', as a backup' if
            planned.role == 'backup'}: " \
          "#{place_words(planned.technique)} at #{length(planned.cut_mm)}, " \
          "#{method_name(planned.technique).downcase}, #{set_words(planned.technique, planned.sticks)}."
        end

        # What is to be worked, and something is to be chosen first.
        def unready_words(limb, planned)
          if planned.place_gone?
            return "#{limb.label} is #{length(limb.length_mm)} long now, and was to be worked at " \
                   "#{length(planned.cut_mm)}: choose its place again."
          end
          if (with = planned.comes_off_with)
            return "#{limb.label} is to be worked, but #{comes_off_words(with.cut_below_facts)}: choose one of the two."
          end

          "#{limb.label} is to be worked; choose its cut, method and variety."
        end
        private :role_now, :decided_words, :unworked_words, :gone_words, :was_words, :unready_words

        # A cut that is being moved along its limb, and not decided.
        def cut_at(limb, advice, share)
          return limb(limb) unless advice.stock_mm

          "#{limb.label} #{place_words(advice.technique)} at #{length(advice.at_mm)} from the fork: " \
          "#{length(advice.stock_mm)} thick " \
          "there, #{counted(advice.sticks[:count], 'stick')}, and #{percent(share)} of the head comes off."
        end

        private

        # Where each stripped trunk has its scions.
        def all_repaired(reports)
          failing = reports.select { |each| each.mending[:state] == "failing" }
          return failing_words(failing) if failing.any?

          ["Every stripped trunk is repaired#{how_they_stand(reports)}.", next_of_repaired(reports)].compact.join(" ")
        end

        def failing_words(failing)
          anew = failing.map { |each| scions_or_stocks(each.course) }.uniq.sort.join(" and ")
          "#{listed(failing.map { |each| each.wound.label })} #{failing.size == 1 ? 'is' : 'are'} failing: " \
            "set new #{anew} #{when_bark_slips(failing)}."
        end

        # Now, or from when on: of whichever slips first.
        def when_bark_slips(reports)
          opens_on = reports.map { |each| each.slips_from(@today) }.min
          opens_on <= @today ? "while bark slips" : "when bark slips again, from about #{day(opens_on)}"
        end

        # Of those that are bridged or inarched, how many hold.
        def how_they_stand(reports)
          reports = reports.select { |each| each.wound.seated.any? }
          holding = reports.count { |each| each.mending[:state] == "holding" }
          lost = reports.select { |each| each.mending[:state] == "lost" }.map { |each| each.wound.label }
          [("#{holding} of #{reports.size} #{holding == 1 ? 'holds' : 'hold'}" if holding.positive?),
           ("#{listed(lost)} #{lost.one? ? 'is' : 'are'} lost" if lost.any?)].compact.map { |words| "; #{words}" }.join
        end

        # What is longest due at any of them.
        def next_of_repaired(reports)
          report, task = reports.flat_map { |each| each.mending[:tasks].map { |task| [each, task] } }
            .select { |_, task| %w[open late].include?(task[:status]) }.min_by { |_, task| task[:due_on] }
          unless task
            open = reports.select { |each| each.wound.seated.any? && each.mending[:state] != "lost" }
            return open.any? ? "Look at the #{scions_or_stocks(open.first.course)} at the next visit." : nil
          end

          "#{report.wound.label}: #{due_words(task)}."
        end

        def to_repair(open, first)
          trees = open.map { |each| each.wound.label }
          trees = [*trees.first(NAMED), "#{trees.size - NAMED} more"] if trees.size > NAMED + 1
          "#{listed(trees)} #{open.size == 1 ? 'waits' : 'wait'} for " \
            "repair: #{"#{first.wound.label} first, " unless open.one?}#{percent(first.share)} of it is bare" \
            "#{left_words(first.triage)}."
        end

        # So many are called by name.
        NAMED = 4
        private_constant :NAMED

        def left_words(triage)
          left = triage[:days_left] or return

          left.negative? ? ", #{say_time_left(triage)}" : ", with #{counted(left, 'day')} left"
        end

        # Each limb is counted once.
        def worked_words(tree, planned)
          counts = counted_once(tree, *now_and_later(undone(tree, planned)))
          return none_grafted(*counts.values_at("to be worked", "to be worked later")) unless
            counts.except("to be worked", "to be worked later").values.any?(&:positive?)

          counts.select { |_, count| count.positive? }
            .map.with_index { |(what, count), place| "#{place.zero? ? counted(count, 'limb') : count} #{what}" }
        end

        # @return [Array<Array<Integer>>] limbs that are worked in the season that is planned, those that are worked
        #   later, and those whose last sensible day is over
        def now_and_later(waiting)
          now, later = waiting.select { |each| Records::TreePlan::WORKED.include?(each.role) }
            .partition { |each| (each.season || 0) <= orchard.season_to_plan(@today) }
          missed, now = now.partition { |each| each.complete? && orchard.stub_windows(@today).past?(each) }
          [now, later, missed].map { |rows| rows.map(&:limb_id) }
        end

        # But for those that were lost and not decided again.
        def undone(tree, planned)
          made = tree.limbs.to_h { |limb| [limb.id, limb.graft] }
          planned.reject { |each| each.failed?(made[each.limb_id]) }
        end

        def none_grafted(now, later)
          ["#{now.zero? ? 'no limb' : counted(now, 'limb')} to be worked", ("#{later} later" if later.positive?),
           "none grafted yet"].compact
        end

        # @param work [Array<Integer>] limbs that are planned to be worked, +later+ in a later season, +missed+ until a
        #   day gone by
        def counted_once(tree, work, later, missed)
          lost, living = tree.standing_limbs.select(&:graft).partition { |limb| limb.graft.fate == "lost" }
          again = lost.count { |limb| (work + later + missed).include?(limb.id) }
          work, later, missed = [work, later, missed].map { |ids| (ids - (lost + living).map(&:id)).size }
          { "grafted" => living.size, "to be worked" => work, "to be worked later" => later,
            "not grafted in time" => missed, "to be worked again" => again, "lost" => lost.size - again }
        end

        def nurse_words(planned)
          nurses = planned.count { |each| each.role == "nurse" }
          nurses.zero? ? "; no nurse limb is kept" : ", #{counted(nurses, 'nurse limb')} kept"
        end

        # What stands beside those that are worked: nurses, and what lives in place of one that was lost.
        def kept_words(tree, planned) = "#{nurse_words(planned)}#{backup_words(tree, planned)}"

        # Where a graft was lost, which of those that were set in case of that lives.
        def backup_words(tree, planned)
          spare = planned.select { |each| each.role == "backup" }.map(&:limb_id)
          living, lost = tree.standing_limbs.select(&:graft).partition { |limb| limb.graft.fate != "lost" }
          living = living.select { |limb| spare.include?(limb.id) }
          return unless lost.any? && living.any?

          "; #{listed(living.map(&:tag))}, #{living.size == 1 ? 'its backup' : 'its backups'}, " \
            "#{living.size == 1 ? 'lives' : 'live'}"
        end

        def graft_words(graft, report)
          fate, label = graft.fate, graft.limb.label
          due = report.care[:tasks].select { |each| %w[late open].include?(each[:status]) }
          if report.care[:state] == "gone"
            "#{label}#{was_words(graft)}, was cut off on #{day(report.ended_on)}, and grafted anew."
          elsif fate == "lost" then "#{label}, #{graft.variety.name}: #{say(report.answer.first)}"
          elsif due.any? { |each| each[:rule] == "false-start" }
            "#{label} moved before callus can have knit: shade it and look at its seals."
          else
            graft_stands(graft, fate, due.first, report.care)
          end
        end

        # @param care [Hash]
        def graft_stands(graft, fate, task, care)
          label, name, since = graft.limb.label, graft.variety.name, day(graft.grafted_on)
          if fate == "took" && care[:state] != "sleeping"
            return "#{label} is #{name} since #{since}: #{due_words(task)}."
          end
          return "#{label}, grafted with #{name} on #{since}: #{due_words(task)}." if task

          "#{label}, grafted with #{name} on #{since}, #{how_it_stands(care)}: #{ahead_words(care)}."
        end

        # A bud of stored wood wakes in the summer in which it was set.
        def bud_sleeps(wakes_on)
          return "has knit, and wakes now if it lives" if @today >= wakes_on

          spring = orchard.season.name_of(wakes_on) > orchard.season.name_of(@today)
          "has knit and sleeps until it wakes#{spring ? ' in spring' : ", from about #{short_day(wakes_on)}"}"
        end

        def how_it_stands(care)
          return "was cut from its donor" if care[:parted_on]
          return "shows callus and knits on" if care[:kind] == "approach" && care[:state] == "callused"

          return bud_sleeps(care[:waking_on]) if care[:state] == "sleeping"

          { "knitting" => "is left to knit", "callused" => "has knit and sleeps",
            "false-start" => "moved too soon and is not safe yet" }.fetch(care[:state], "has not been seen to take")
        end

        # What comes next, with its day.
        def ahead_words(care)
          return "look as you pass" unless WAITED_FOR.include?(care[:state])

          ahead = care[:tasks].select { |each| each[:status] == "ahead" }
          looks = care[:state] == "knitting" ? ahead.select { |each| looked_for?(each) } : []
          task = (looks.any? ? looks : ahead).min_by { |each| each[:opens_on] }
          task ? "#{task_title(task).downcase} from #{day(task[:opens_on])}" : "look as you pass"
        end

        def looked_for?(task) = ![nil, "count"].include?(orchard.rulebook.task(task[:rule])["answered-by"])

        # How one stands of which something is still to be seen, and nothing today.
        WAITED_FOR = %w[knitting callused sleeping false-start waiting].freeze
        private_constant :WAITED_FOR

        def due_words(task)
          return "nothing is due" unless task

          say_task_due(task, task_title(task).downcase)
        end
      end
    end
  end
end
