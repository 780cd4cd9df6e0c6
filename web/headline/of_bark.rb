# frozen_string_literal: true

module Vestry
  module Web
    class Headline
      # What matters of bark, weather and the crew.
      module OfBark
        # Where the spring stands.
        def slip(spring, come_back, board)
          next_good = next_good_day(board)
          return untested_words(come_back.due, next_good) if come_back.due.any?

          told, species = next_to_slip(spring)
          return next_bark_words(told, species, come_back) if told

          windows = orchard.stub_windows(@today)
          return next_spring_words(windows) if windows.ahead? && windows.stubs.any?
          return no_stub_words(spring) if windows.stubs.empty?

          when_all_tested(windows, come_back, board, next_good)
        end

        # What slips next: a tree that did not lift when it was tested, or another kind.
        def next_bark_words(told, species, come_back)
          again = come_back.days.find { |on, visits| on < told[:p50] && visits.any?(&:did_not_lift?) }
          return again_words([again[0], again[1].select(&:did_not_lift?)]) if again

          "#{species_name(species)} bark slips next, as likely as not by #{day(told[:p50])}."
        end

        # Of stubs that wait, where no bark is to be tested today.
        def when_all_tested(windows, come_back, board, next_good)
          return again_words(come_back.days.first) if come_back.visits.any?
          return "Every tree with a stub waiting slips; #{next_good}." if next_good

          past = windows.stubs.count(&:late)
          past.positive? ? past_words(past) : no_day_words(board)
        end

        def no_stub_words(spring)
          return "No stub waits to be grafted." if spring.species.any?

          "No tree stands here yet: when bark slips is told for the kinds that stand here."
        end

        def next_spring_words(windows)
          opens = day(windows.stubs.map { |stub| stub.window[:opens_on] }.min)
          many = windows.stubs.size
          many == 1 ? "One stub waits for #{windows.season}; it opens about #{opens}." :
            "#{counted(many, 'stub')} wait for #{windows.season}; the first opens about #{opens}."
        end

        def untested_words(due, next_good)
          trees, names = counted(due.size, "tree"), listed_some(due.map { |visit| visit.told.tree.label }, 4)
          "#{trees} should slip by now and #{due.one? ? 'was' : 'were'} not seen to: test the bark of #{names}" \
            "#{"; #{next_good}" if next_good}."
        end

        # Those that were not seen to slip, and on which there is no hurry today.
        def again_words((from, visits))
          trees = listed_some(visits.map { |visit| visit.told.tree.label }, 4)
          "Test the bark of #{trees} from #{day(from)} on: it was not seen to slip yet."
        end

        def past_words(many)
          leading("#{counted(many, 'stub')} #{many == 1 ? 'is' : 'are'} past #{many == 1 ? 'its' : 'their'} last " \
                  "sensible day: move #{many == 1 ? 'it' : 'them'} under Plan.", "To the plan", "plan", role: "steward")
        end

        def no_day_words(board)
          board.any? ? "No day of the forecast is good for grafting: wait, and look again tomorrow." :
            "No forecast is known here: go by the sky and the bark, or bring in a weather file."
        end
        private :next_bark_words, :when_all_tested, :no_stub_words, :untested_words, :again_words, :past_words,
                :no_day_words, :next_spring_words

        # @param barks [Array<Records::BarkForecast::TreeBark>] of the row's trees
        # @param spring [Records::BarkForecast]
        # @param come_back [Records::RevisitList]
        def walk(row, barks, spring, come_back)
          buds = come_back.due.select { |visit| visit.buds && visit.told.tree.row == row }
          return buds_words(row, buds) if buds.any?

          left = barks.reject(&:lifted?)
          return all_seen(row, barks, spring) if left.empty?

          still, shut = left.partition { |each| !closed?(each, spring) }
          return too_late(row, shut.size, barks.count { |each| !closed?(each, spring) }) if still.empty?

          to_test(row, still, barks, come_back)
        end

        def buds_words(row, visits)
          trees = listed_some(visits.map { |visit| visit.told.tree.label }, 4)
          "Row #{row}: test the bark of #{trees} again: buds wait until it slips a second time."
        end

        def all_seen(row, barks, spring)
          return "Row #{row}: every tree was seen to slip." unless barks.all? { |each| closed?(each, spring) }

          second = barks.select { |each| each.seen.last&.slipping && each.seen.last.seen_on > closing(each, spring) }
          return "Row #{row}: bark lifts no longer." if second.empty?

          "Row #{row}: #{listed_some(second.map { |each| each.tree.label }, 4)} " \
            "#{second.one? ? 'slips' : 'slip'} a second time."
        end

        def closed?(bark, spring) = closing(bark, spring) < @today
        def closing(bark, spring) = bark.closes_on || spring.closes_on(bark.tree.species)

        # One begins where a stub waits for the look.
        def to_test(row, still, barks, come_back)
          soonest = still.map { |each| each.reached_on || each.p10 || @today }.min
          if soonest > @today
            return "Row #{row}: bark is not likely to lift before #{day(soonest)}; walk it from then on."
          end

          seen = barks.count { |each| each.seen.last&.seen_on == @today }
          "Row #{row}: #{counted(still.size, 'tree')} not seen to slip " \
            "yet#{seen.positive? ? ", #{seen} looked at today" : ''}; begin with #{first_of(still, come_back).label}."
        end

        def first_of(barks, come_back)
          wanted = come_back.due.map { |visit| visit.told.tree.id }
          (barks.find { |each| wanted.include?(each.tree.id) } || barks.first).tree
        end

        # @param slipping [Integer] how many of the row's trees slip yet
        def too_late(row, trees, slipping)
          never = "#{counted(trees, 'tree')} #{trees == 1 ? 'was' : 'were'} never seen to slip this year"
          return "Row #{row}: bark lifts no longer; #{never}." if slipping.zero?

          "Row #{row}: #{counted(slipping, 'tree')} #{slipping == 1 ? 'slips' : 'slip'} yet; #{never}, and closed."
        end
        private :buds_words, :all_seen, :closed?, :closing, :to_test, :first_of, :too_late

        def crew(plan)
          first = plan.days.find { |each| each.stubs.any? }
          return none_in_time(plan) if first.nil? && plan.missed.empty?
          return "#{counted(plan.missed.size, 'stub')} will not fit in the days planned." if first.nil?

          "#{first.date == @today ? 'Today' : weekday(first.date)}: #{counted(first.stubs.size, 'stub')}, " \
          "beginning with #{first.stubs.first.row.limb.label}" \
          "#{plan.missed.any? ? "; #{counted(plan.missed.size, 'stub')} will not fit" : ''}."
        end

        # A day of the week, which alone could be this week's or the next.
        def weekday(date) = "#{date.strftime('%A')}, #{day(date)}"

        def none_in_time(plan)
          return later_words(plan.later) if plan.later.any?
          return "No stub waits to be grafted." if plan.ahead.empty?

          opens, days = day(plan.ahead.first.window[:opens_on]), Records::CrewPlan::DAYS
          return "The stub that waits opens about #{opens}: not in these #{days} days." if plan.ahead.one?

          "None of #{plan.ahead.size} stubs can be set in these #{days} days: the first opens about #{opens}."
        end

        # Those for which these days have no place.
        def later_words(later)
          stubs = later.one? ? "the stub that waits" : "the #{later.size} stubs that wait"
          closes = later.map { |stub| stub.window[:closes_on] }.min
          "No day of these #{Records::CrewPlan::DAYS} suits #{stubs}: there is time until #{day(closes)}."
        end
        private :weekday, :none_in_time, :later_words

        def weather
          last = orchard.weather(@today).known_to
          return "No weather is kept here yet: bring in a station's record." unless last

          weather_late || "The weather is known to #{day(last)}."
        end

        # That the weather of the last days is missing, where it once was known; nil where it is there.
        def weather_late
          last = orchard.weather(@today).known_to
          return if last.nil? || last >= @today - 2

          "The weather is known only to #{day(last)}: forecasts rest on past years since then."
        end

        private

        # The next day on the board that is good for any method, in words; nil when there is none.
        def next_good_day(board)
          good = board.lines.flat_map(&:days).select { |each| each[:verdict] == "good" }.map { |each| each[:date] }.min
          return nil unless good

          good == @today ? "today is a good day" : "the next good day is #{weekday(good)}"
        end

        # The forecast that is reached first of those not reached yet, and its species.
        def next_to_slip(spring)
          spring.species.map { |species| [spring.of_species(species), species] }
            .reject { |told, _| told[:reached_on] || told[:p50].nil? }.min_by { |told, _| told[:p50] }
        end
      end
    end
  end
end
