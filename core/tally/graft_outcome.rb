# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # Whether a graft took, was lost, or waits to be seen: the one place that decides. Records::GraftOutcomeSql says
      # the same
      # in SQL for many at once.
      module GraftOutcome
        module_function

        # A loss that was recorded stands. Else the last word counts: a count, or a visit that says something of
        # the buds or gives a verdict; of one day the count. A verdict outranks the buds: dead buds with "wait"
        # are waited for. What was ever counted alive, or found to have taken, took.
        #
        # @param visits [Array<Hash>] +on+, +verdict+ (took, wait, failed or nil), +buds+, in the order they were made
        # @param counts [Array<Hash>] +on+ and +alive+
        # @param lost_on [Date, nil] a recorded loss
        # @param day [Date, nil] what came later is not heard
        # @return [Hash] +state+ (took, lost or waiting), +lost_on+ (the day since which every word was that it is
        #   dead; nil while it is not lost) and +took+ (whether it ever did)
        def of(visits:, counts:, lost_on: nil, day: nil)
          heard = ->(on) { day.nil? || on <= day }
          visits, counts = [visits, counts].map { |all| all.select { |each| heard[each[:on]] } }
          words = words(visits, counts)
          recorded = lost_on if lost_on && heard[lost_on]
          died = recorded || (words.reverse.take_while { |word| word[:dead] }.last || {})[:on]
          took = visits.any? { |each| each[:verdict] == "took" } || counts.any? { |each| each[:alive] }
          { state: died ? "lost" : (took ? "took" : "waiting"), lost_on: died, took: took }
        end

        # Whether a visit says that it is dead.
        def dead?(visit) = visit[:verdict] == "failed" || (visit[:verdict].nil? && visit[:buds] == "dead")

        # Everything that was said of its life, in order.
        def words(visits, counts)
          telling = visits.select { |each| each[:verdict] || each[:buds] }
          said = telling.map { |each| { on: each[:on], rank: 0, dead: dead?(each) } }
          counted = counts.map { |each| { on: each[:on], rank: 1, dead: !each[:alive] } }
          (said + counted).sort_by.with_index { |each, place| [each[:on], each[:rank], place] }
        end
        private_class_method :words
      end
    end
  end
end
