# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      module Workings
        # Workings of wood and bark: when it slips, and how much wood is spare and lasts.
        module WoodWorkings
          def slip_working(species, told, spring)
            if told[:basis] == "calendar"
              return Working.of("By the ordinary dates of the rulebook", calendar_reason(species, told),
                                rules: ["species.#{species}.slip_opens", "species.#{species}.slip_latitude",
                                        "reckoning.slip.opens_degree", "reckoning.slip.day_metres"],
                                notes: moved_by_place(species))
            end

            Working.of("#{degree_days(told[:accumulated_dd]).to_i} of #{degree_days(told[:threshold_dd])} " \
                       "above #{warmth_named(orchard.rulebook.value("species.#{species}.slip_base"))} " \
                       "since #{short_day(spring.biofix)}",
                       "the species' figure, weighed with what was seen here: " \
                       "#{degree_days(told[:threshold_dd]).to_i}",
                       rules: ["species.#{species}.slip_dd", "species.#{species}.slip_base",
                               "reckoning.slip.first_guess"],
                       notes: ["Each past spring kept here is run on from today, with the forecast first; the dates " \
                               "are when a tenth, half and nine tenths of them get there."])
          end

          # By how much the ordinary day of a kind's bark is moved to the orchard's place.
          #
          # @return [Array<String>] a sentence, or none
          def moved_by_place(species)
            book = orchard.rulebook
            days = (Core::Slip::Closing.opens_day(species, *orchard.place, book) -
                    book.value("species.#{species}.slip_opens")).round
            return [] if days.zero?

            ["At this latitude and height it comes #{counted(days.abs, 'day')} " \
             "#{days.positive? ? 'later' : 'sooner'} than where that day was taken."]
          end

          # Why a spring is told by the calendar.
          def calendar_reason(species, forecast)
            return "a kind that keeps its leaves has no winter's sleep to count from" if
              orchard.rulebook.evergreen?(species)
            return "no weather is kept of these days" unless forecast[:accumulated_dd]

            "this spring has come to #{degree_days(forecast[:accumulated_dd]).to_i} of " \
              "#{degree_days(forecast[:threshold_dd])}; the past springs that are kept are fewer than " \
              "#{number_word(orchard.rulebook.value('reckoning.slip.least_years').to_i).downcase}, or none came to that"
          end

          def reserve_working(line)
            low, high = line.success
            Working.of(line.reserve.to_s,
                       "enough for the failures of #{percent(orchard.rulebook.value('reckoning.wood.confidence'))} " \
                       "of " \
                       "years, where single sticks " \
                       "take #{low == high ? percent(low) : "#{percent(low)} to #{percent(high)}"}",
                       rules: %w[reckoning.wood.confidence reckoning.wood.cull],
                       notes: [line.trials.zero? ?
                               "By the rulebook's first figures: nothing of this kind was counted here yet." :
                                 "By this orchard's own record of #{counted(line.trials, 'stub')}, weighed with the " \
                                 "rulebook's first figures."])
          end

          def storage_working(kept)
            age = kept.age
            life = "species.#{kept.bundle.variety.species}.wood_life"
            life = "reckoning.storage.life_days" unless orchard.rulebook.known?(life)
            Working.of(percent(age[:life_left_share]),
                       "1 − #{format('%.1f', age[:equivalent_days])} ÷ #{orchard.rulebook.value(life)} days of age " \
                       "− #{age[:warm_degree_hours].round} ÷ #{storage_figure(:life_warm)} degree-hours of warmth",
                       rules: ["reckoning.storage.q10", life, "reckoning.storage.warm_c",
                               "reckoning.storage.life_warm"],
                       notes: ["Measured since #{day(kept.measured_from.to_date)}.", *silence_note(age)])
          end

          # Until when and from when on it was not measured, and as what it was taken to be.
          def silence_note(age)
            age[:reasons].select { |reason| %w[storage_unmeasured storage_silent].include?(reason[:code]) }
              .map { |reason| say(reason) }
          end

          def storage_figure(name) = orchard.rulebook.value("reckoning.storage.#{name}")

          def store_working(age)
            Working.of("#{age[:equivalent_days].round} days' ageing",
                       "days × #{storage_figure(:q10)}^((T − #{storage_figure(:at_c)}) ÷ 10), summed over the " \
                       "readings: #{format('%.1f', age[:equivalent_days])} days at " \
                       "#{warmth_named(storage_figure(:at_c))}",
                       rules: %w[reckoning.storage.q10 reckoning.storage.at_c reckoning.storage.life_days])
          end
        end
      end
    end
  end
end
