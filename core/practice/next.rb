# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # What to practise next: what was got right comes again after more and more days, what was not the next day, and
      # the season says which of the rest comes first.
      module Next
        # In which months the orchard asks for each, by the northern year.
        SEASONS = { "shoot" => [11, 12, 1, 2], "where-to-cut" => [12, 1, 2], "hands" => [1, 2, 3], "face" => [2, 3, 4],
                    "bridge" => [3, 4],
                    "right-way" => [1, 2, 3, 4], "line-up" => [2, 3, 4],
                    "order" => [2, 3, 4], "to-wood" => [3, 4, 5], "which-face" => [3, 4, 5], "seat" => [4, 5],
                    "seal" => [4, 5], "read-graft" => [5, 6], "which-shoot" => [5, 6, 7, 8],
                    "ten-years" => [10, 11, 12] }.freeze
        NAMES = SEASONS.keys.freeze
        QUIET = [11, 12, 1, 2].freeze
        private_constant :QUIET

        module_function

        # The months in which little is done in an orchard.
        def quiet?(day, southern: false) = QUIET.include?(northern(day.month, southern))

        # @param tries [Array<Hash>] in order, each +exercise+, +level+, +passed+ and +on+ (Date)
        # @return [Hash] +step+ (how far the days have grown), +level+ to practise at, +due_on+ (nil where it was never
        #   tried), +passed+ and +tries+ (how many)
        def stands(tries, rulebook: Rulebook.shipped)
          days = rulebook.value("reckoning.practice.days")
          step, level = 0, 1
          tries.each { |try| step, level = after(try, step, level, days.size) }
          last = tries.last
          wait = last && last[:passed] ? days[[step - 1, 0].max] : days.first
          { step: step, level: level, due_on: last && last[:on] + wait,
            passed: tries.count { |try| try[:passed] }, tries: tries.size }
        end

        # @param tries [Array<Hash>] of all exercises
        # @param today [Date]
        # @return [Array<Hash>] +exercise+ and +level+, at most reckoning.practice.a_day: what was failed and is due
        #   first, then what is due, then what was never tried, each by how near its season is
        def today(tries, today, southern: false, rulebook: Rulebook.shipped)
          by_name = tries.group_by { |try| try[:exercise] }
          offered = NAMES.filter_map do |name|
            stands = stands(by_name.fetch(name, []), rulebook: rulebook)
            next if stands[:due_on] && stands[:due_on] > today

            { exercise: name, level: stands[:level],
              order: [rank(by_name[name]), away(name, today, southern), NAMES.index(name)] }
          end
          offered.sort_by { |each| each[:order] }.first(rulebook.value("reckoning.practice.a_day"))
            .map { |each| each.slice(:exercise, :level) }
        end

        # One step on after a pass and one back after a fail; a level up only where it was tried at the level reached.
        def after(try, step, level, most)
          return [[step - 1, 0].max, [try[:level], level].min] unless try[:passed]

          [[step + 1, most].min, [try[:level] + 1, level].max.clamp(1, 5)]
        end

        def rank(tries)
          return 2 if tries.nil?

          tries.last[:passed] ? 1 : 0
        end

        # Months until its season, none within it.
        def away(name, today, southern)
          month = northern(today.month, southern)
          SEASONS.fetch(name).map { |each| (each - month) % 12 }.min
        end
        # The month that is as that one is in the north.
        def northern(month, southern) = southern ? (month + 5) % 12 + 1 : month
        private_class_method :after, :rank, :away, :northern
      end
    end
  end
end
