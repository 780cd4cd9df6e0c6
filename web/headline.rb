# frozen_string_literal: true

module Vestry
  module Web
    # The one sentence each page opens with: what matters here today, and what to do.
    class Headline
      include Helpers::Words

      attr_reader :orchard

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end

      # @param trees [Integer, nil] how many stand here, where it was counted already
      def survey(trees: nil)
        trees ||= orchard.tree_count
        bare = Records::TreeQueries.bare_tree(orchard)
        return "No tree stands here yet: add the first one." if trees.zero?
        return "#{bare.label} has no limbs surveyed yet; #{counted(trees, 'tree')} stand here." if bare

        open = trees - Records::PlanQueries.planned_trees(orchard)
        return "All #{counted(trees, 'tree')} have a plan; the year's work is at Tend." if open.zero?

        first = Records::PlanQueries.unplanned(orchard, most: 4).map(&:label)
        first << "#{open - 4} more" if open > 4
        "#{listed(first)} #{open == 1 ? 'has' : 'have'} no plan yet: choose a tree and read its limbs."
      end

      def tree(tree)
        planned = tree.plan ? tree.plan.plan_limbs : []
        work = planned.count { |each| %w[work backup].include?(each.role) }
        grafted = tree.limbs.reject(&:gone_on).count(&:graft)
        return "#{tree.label} has no limbs yet: measure the first one." if tree.limbs.empty?
        return "#{tree.label} has no plan: choose a limb to be worked." if planned.empty?

        "#{tree.label}: #{counted(work, 'limb')} to be " \
        "worked, #{grafted.zero? ? 'none grafted yet' : "#{grafted} grafted"}#{nurse_words(planned)}."
      end

      # Which stripped trunk first.
      #
      # @param told [Array<Records::WoundReport>] all of them, the most pressing first
      def repairs(told)
        open = told.reject { |each| each.settled? || each.wound.repaired_on }
        holding = told.count { |each| each.mending[:state] == "holding" }
        failing = told.select { |each| %w[failing lost].include?(each.mending[:state]) }
        return "No stripped trunk is known: look at the trunk feet when the snow has gone." if told.empty?
        if open.empty? && failing.any?
          return "#{listed(failing.map { |each| each.wound.label })} #{failing.size == 1 ? 'is' : 'are'} failing: " \
                 "set new scions while bark slips."
        end
        if open.empty?
          return "Every stripped trunk is repaired#{"; #{holding} of #{told.size} hold" if holding.positive?}. Look " \
                 "at each scion at its next visit."
        end

        first = open.first
        left = first.triage[:days_left]
        "#{listed(open.map { |each| each.wound.label }.first(4))} #{open.size == 1 ? 'waits' : 'wait'} for " \
        "repair: #{first.wound.label} first, #{percent(first.share)} of it is " \
        "bare#{", and there are #{counted(left, 'day')}" if left}."
      end

      # @param told [Records::GraftReport, nil] of its graft, where the page has read it already
      def limb(limb, told: nil)
        graft = limb.graft
        if graft
          return graft_words(graft, told&.graft&.id == graft.id ? told : Records::GraftReport.new(graft, @today))
        end

        planned = limb.planned
        return "#{limb.label} has nothing decided: work it, keep it or lift it." unless planned
        if planned.role == "later"
          return "#{limb.label} is kept now and worked " \
                 "in #{planned.season}" \
                 "#{planned.variety ? ", to become #{planned.variety.name}" : '; choose its variety by then'}."
        end
        return "#{limb.label} #{KEPT.fetch(planned.role)}." unless %w[work backup].include?(planned.role)
        return "#{limb.label} is to be worked; choose its cut, method and variety." unless planned.complete?

        "#{limb.label} is to become #{planned.variety.name} in #{planned.season}: cut " \
        "at #{length(planned.cut_mm)}, #{method_name(planned.technique).downcase}, #{counted(planned.sticks, 'stick')}."
      end

      # A cut that is being moved along its limb, and not decided.
      def cut_at(limb, advice, share)
        return limb(limb) unless advice.stock_mm

        "#{limb.label} cut at #{length(advice.at_mm)} from the fork: #{length(advice.stock_mm)} thick " \
        "there, #{counted(advice.sticks[:count], 'stick')}, and #{percent(share)} of the head comes off."
      end

      def plan
        season = orchard.season_to_plan(@today)
        short = Records::WoodSupply.new(orchard, season, @today).lines.find(&:short?)
        if short
          return "#{short.variety.name} wants #{counted(short.shortage[:wanted], 'stick')} in #{season} " \
                 "and #{short.have.zero? ? 'none are' : "only #{short.have} are"} at hand or promised."
        end

        waiting = orchard.planned(:waiting, season).rows
        unfinished = waiting.reject(&:complete?)
        if waiting.empty? && orchard.rows.empty?
          return "No tree stands here yet: add trees under Survey, and their limbs."
        end
        return "No limb waits to be worked in #{season}: choose a tree and mark its limbs." if waiting.empty?
        if unfinished.any?
          return "#{counted(unfinished.size, 'limb')} marked to be worked " \
                 "still #{unfinished.size == 1 ? 'lacks' : 'lack'} a cut, method or variety: begin " \
                 "with #{unfinished.first.limb.label}."
        end

        "#{counted(waiting.size, 'limb')} #{waiting.size == 1 ? 'is' : 'are'} decided and waiting for the knife " \
        "in #{season}."
      end

      KEPT = { "nurse" => "is kept as a nurse: it feeds the roots and calms the grafts",
               "renew" => "is headed back, to throw wood for next year's grafts", "lift" => "is to come off" }.freeze

      # What the saw has to do.
      def cuts(season)
        rows = orchard.planned(:cuts, season).rows
        long = rows.count { |row| row.long_cut_mm && row.headed_on.nil? }
        return "Nothing is to be sawn for #{season} yet: give limbs a role and a place to cut." if rows.empty?

        "#{counted(rows.size, 'cut')} for #{season} " \
        "on #{counted(rows.map { |row| row.limb.tree_id }.uniq.size, 'tree')}" \
        "#{"; #{long} of them first cut long in winter" if long.positive?}."
      end

      # What the wood wants today.
      def wood(order, cellar)
        due = cellar.kept(season: order.season).find { |kept| kept.check_due <= @today }
        short = order.lines.find { |line| line.to_cut.positive? }
        window = order.window
        return "#{due.bundle.code} (#{due.bundle.variety.name}) wants looking at: mould, shrivel, swelling." if due
        if order.lines.empty?
          return "No stub is planned for #{order.season} with a variety yet: plan first, and the wood is counted here."
        end
        unless short
          return "All the wood for #{order.season} is in store: #{counted(order.lines.sum(&:have), 'stick')}."
        end
        if @today <= window[:to]
          return "#{short.variety.name} still wants #{counted(short.to_cut, 'stick')}; wood is cut " \
                 "from #{day(window[:from])} to #{day(window[:to])}."
        end

        "#{short.variety.name} is short of #{counted(short.to_cut, 'stick')} and the wood has woken: find stored " \
        "wood, or drop stubs."
      end

      def cutting(order)
        return "Nothing is to be cut for #{order.season}." if order.lines.all? { |line| line.to_cut.zero? }

        "#{counted(order.lines.sum(&:to_cut), 'stick')} to cut for #{order.season}, " \
        "of #{counted(order.lines.count { |line| line.to_cut.positive? }, 'variety', 'varieties')}."
      end

      def bundle(kept)
        words = "#{kept.bundle.code}: #{counted(kept.left, 'stick')} of #{kept.bundle.variety.name} left"
        return "#{words}; look at it now, for it is a month since anyone did." if kept.check_due <= @today

        kept.age ? "#{words}, with #{percent(kept.age[:life_left_share])} of its life." : "#{words}."
      end

      def store(store, readings)
        return "#{store.name} has told nothing yet: bring in its thermometer's log." if readings.empty?

        last = readings.last
        warm = orchard.rulebook.value("reckoning.storage.warm_c")
        figure = orchard.units == "imperial" ? "#{(last[:celsius] * 9 / 5 + 32).round} °F" :
          "#{last[:celsius].round(1)} °C"
        "#{store.name} was at #{figure} " \
        "on #{day(last[:at].to_date)}#{last[:celsius] > warm ? ': too warm, buds wake; move the wood' : ''}."
      end

      def match(board)
        return "Nothing to match for #{board.season} yet." if board.places.empty?

        short = board.short
        short.empty? ? "Every stub of #{board.season} has its sticks." :
          "#{counted(short.size, 'stub')} of #{board.places.size} #{short.size == 1 ? 'goes' : 'go'} short: begin " \
          "with #{short.first.row.limb.label}."
      end

      # Where the spring stands.
      def slip(spring, come_back, board)
        due = come_back.due
        good = board.lines.flat_map { |line| line.days.select { |each| each[:verdict] == "good" }
          .map { |each| each[:date] } }.min
        next_good = good ? (good == @today ? "today is a good day" :
                            "the next good day is #{good.strftime('%A')}, #{day(good)}") : nil
        if due.any?
          return "#{counted(due.size, 'tree')} should slip and #{due.size == 1 ? 'was' : 'were'} not " \
                 "tested: #{listed_some(due.map { |visit| visit.told.tree.label }, 4)}#{"; #{next_good}" if next_good}."
        end

        first = spring.species.filter_map { |species| [spring.of_species(species), species] }
          .reject { |told, _| told[:reached_on] || told[:p50].nil? }.min_by do |told, _|
          told[:p50]
        end
        if first && first[0][:p50]
          return "#{species_name(first[1])} bark slips next, as likely as not by #{day(first[0][:p50])}."
        end

        return "Every tree with a stub waiting slips; #{next_good}." if next_good
        if spring.species.empty?
          return "No tree stands here yet: when bark slips is told for the kinds that stand here."
        end

        board.any? ? "No day of the forecast is good for grafting: wait, and look again tomorrow." :
          "No forecast is known here: go by the sky and the bark, or bring in a weather file."
      end

      def walk(row, told)
        seen = told.count { |each| each.seen.any? { |look| look.seen_on == @today } }
        left = told.reject { |each| each.seen.any?(&:slipping) }
        return "Row #{row}: every tree was seen to slip." if left.empty?

        "Row #{row}: #{counted(left.size, 'tree')} not seen to slip " \
        "yet#{seen.positive? ? ", #{seen} looked at today" : ''}; begin with #{left.first.tree.label}."
      end

      def crew(plan)
        first = plan.days.find { |each| each.stubs.any? }
        return "No stub waits to be grafted." if first.nil? && plan.missed.empty?
        return "#{counted(plan.missed.size, 'stub')} will not fit in the days planned." if first.nil?

        "#{first.date == @today ? 'Today' : first.date.strftime('%A')}: #{counted(first.stubs.size, 'stub')}, " \
        "beginning with #{first.stubs.first.row.limb.label}" \
        "#{plan.missed.any? ? "; #{counted(plan.missed.size, 'stub')} will not fit" : ''}."
      end

      def weather
        last = orchard.weather(@today).known_to
        return "No weather is kept here yet: bring in a station's record." unless last

        last >= @today - 2 ? "The weather is known to #{day(last)}." :
          "The weather is known only to #{day(last)}: forecasts rest on past years since then."
      end

      # What could stand on a tree or along a row.
      def choices(title, lines)
        fit = lines.select { |line| %w[good workable].include?(line.compatibility["value"]) && !line.unpermitted }
        return "Nothing in the register lives on #{title}: add a variety of its kin." if fit.empty?

        partnered = fit.select { |line| line.partner_need != "needed" || line.partners.any? }
        "#{counted(fit.size, 'variety', 'varieties')} of the register #{fit.size == 1 ? 'lives' : 'live'} " \
        "on #{title}#{partner_words(partnered.size) unless partnered.size == fit.size}."
      end

      def varieties(all)
        open = all.select { |each| Records::VarietyFit.unpermitted?(each) }
        return "#{listed(open.map(&:name))} cannot be planned: protected, and no permission is recorded." if open.any?

        all.empty? ? "No variety is written down yet: add the first one." :
          "#{counted(all.size, 'variety', 'varieties')} in the register."
      end

      def graft
        season = orchard.season.name_of(@today)
        ready = orchard.planned(:waiting, season).rows.select(&:complete?)
        if ready.empty?
          return (Records::GraftQueries.grafting_days(orchard, orchard.season.span(season)).empty? ?
                  "No stub is ready to be grafted in #{season}: plan limbs first, each with its cut, method and " \
                  "variety." : "No stub is waiting in #{season}: everything planned is grafted.")
        end

        trees = ready.map { |each| each.limb.tree.label }.uniq
        following = orchard.season_to_plan(@today)
        if following > season
          return "#{number_word(ready.size)} #{ready.size == 1 ? 'stub' : 'stubs'} " \
                 "on #{listed_some(trees, 5)} #{ready.size == 1 ? 'was' : 'were'} not grafted before bark closed: " \
                 "move #{ready.size == 1 ? 'it' : 'them'} to #{following} under Plan."
        end

        "#{number_word(ready.size)} #{ready.size == 1 ? 'stub is' : 'stubs are'} waiting " \
        "on #{listed_some(trees, 5)}; log each one as soon as it is set."
      end

      def sheet(sheet)
        made = Records::GraftQueries.grafts(orchard, on: sheet.day).size
        if sheet.cards.empty?
          return "Nothing #{made.positive? ? 'more ' : ''}is to be grafted " \
                 "on #{day(sheet.day)}" \
                 "#{": #{counted(made, 'graft')} #{made == 1 ? 'is' : 'are'} made" if made.positive?}."
        end

        short = sheet.cards.count { |card| card.short.positive? }
        "#{counted(sheet.cards.size, 'stub')} on #{counted(sheet.trees.size, 'tree')} for #{day(sheet.day)}, " \
        "about #{(sheet.minutes / 60.0).round(1)} hours of " \
        "work#{"; #{counted(short, 'stub')} without all #{short == 1 ? 'its' : 'their'} sticks" if short.positive?}."
      end

      def cutting_now(limb, advice)
        "#{limb.label}, #{method_name(advice.technique).downcase}: " \
        "#{orchard.rulebook.book('methods')[advice.technique]['for']}."
      end

      def different(limb, found)
        return "#{limb.label}: say what you found, and the card answers." unless found.asked?
        return "#{limb.label}: no method suits it as it is; cut lower, or leave it as a nurse." unless found.best

        found.best[:method] == found.planned_method ?
          "#{limb.label}: it still goes, by the #{method_name(found.planned_method).downcase}." :
            "#{limb.label}: change to the #{method_name(found.best[:method]).downcase}."
      end

      def tend(agenda)
        return "Nothing is due today#{next_words(agenda)}." if agenda.due_count.zero?

        due = agenda.due
        alarm = due.find { |item| item.task[:rule] == "false-start" }
        return "#{alarm.label} moved before it can have knit: shade it and look at its seals today." if alarm

        late, first = agenda.late_count, due.first
        "#{counted(agenda.due_count, 'task')} #{agenda.due_count == 1 ? 'is' : 'are'} " \
        "due#{", #{late} late" if late.positive?}: begin with #{first.label}, #{task_title(first.task).downcase}."
      end

      # @param row [Records::CountRow]
      def tally_row(row)
        return "No graft stands in row #{row.name} to be counted." if row.lines.empty?
        if row.left.empty?
          return "All #{counted(row.size, 'graft')} in row #{row.name} #{row.size == 1 ? 'is' : 'are'} counted this " \
                 "autumn."
        end

        counting_opens(row.size, " in row #{row.name}") ||
          "#{counted(row.left.size, 'graft')} in row #{row.name} still to count: begin with #{row.left.first.label}."
      end

      # @param rows [Array<Hash>] with how many grafts stand there and are counted, as CountRow.all
      # @param part [String, nil] which rows these are, where they are not all
      def tally(rows, part: nil)
        total = rows.sum { |row| row[:grafts] }
        return "No graft stands to be counted." if total.zero?

        early = counting_opens(total, part)
        return early if early

        open = rows.select { |row| row[:counted] < row[:grafts] }
        return "All #{total} grafts#{part} are counted this autumn." if open.empty?

        "#{counted(open.sum { |row| row[:grafts] - row[:counted] }, 'graft')}#{part} still to count: begin with " \
        "row #{open.first[:row]}."
      end

      # What a worked tree's winter wants.
      def scaffold(told)
        tree = told.tree
        return "#{tree.label} carries no living graft yet." if told.lines.empty?

        limbs = told.lines.count { |line| line.told.any? { |reason| reason[:code] == "scaffold_is_limb" } }
        shorten = told.varieties.select { |part| part[:shorten].positive? }.map { |part| part[:id] }
        stands = limbs.zero? ? "none of its #{counted(told.lines.size, 'graft')} has become a limb yet" :
          "#{limbs} of #{counted(told.lines.size, 'graft')} #{limbs == 1 ? 'has become a limb' : 'have become limbs'}"
        "#{tree.label}: #{stands}" \
          "#{"; shorten #{listed(shorten)} this winter, or it takes the tree over" if shorten.any?}."
      end

      def task_title(task) = orchard.rulebook.task(task[:rule])["title"]

      private

      def partner_words(count)
        "; #{counted(count, 'of them has', 'of them have')} a partner in bloom within reach"
      end

      # That it is too early to count, and from when it is not.
      def counting_opens(total, part)
        opens = orchard.season.next_day(orchard.rulebook.value("care.calendar.autumn"),
                                        orchard.season.year_start(@today))
        if @today < opens
          "Counting begins on #{day(opens)}, when growth has stopped: #{counted(total, 'graft')}#{part} to measure."
        end
      end

      def nurse_words(planned)
        nurses = planned.count { |each| each.role == "nurse" }
        nurses.zero? ? "; no nurse limb is kept" : ", #{counted(nurses, 'nurse limb')} kept"
      end

      def graft_words(graft, told)
        fate = graft.fate
        care = told.care
        label = graft.limb.label
        if fate == "lost" then "#{label}: the #{graft.variety.name} graft was lost; the stub can be grafted again."
        elsif care[:state] == "false-start" then "#{label} moved before callus can have knit: shade it and look at " \
                                                 "its seals."
        else
          task = care[:tasks].find { |each| %w[late open].include?(each[:status]) }
          doing = task ? "#{task_title(task).downcase} by #{day(task[:due_on])}" : "nothing is due"
          "#{label} is #{graft.variety.name} since #{day(graft.grafted_on)}: #{doing}."
        end
      end

      def next_words(agenda)
        item = agenda.ahead.min_by { |each| each.task[:opens_on] }
        item ? "; next is #{item.label}, #{task_title(item.task).downcase}, from #{day(item.task[:opens_on])}" : ""
      end
    end
  end
end
