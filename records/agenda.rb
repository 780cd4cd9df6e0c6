# frozen_string_literal: true

module Vestry
  module Records
    # What the living grafts of the last seasons need, most pressing first.
    class Agenda
      Item = Struct.new(:graft, :task, keyword_init: true)
      PRESSING = { "late" => 0, "open" => 1, "ahead" => 2 }.freeze
      SEASONS_DAYS = 500
      MOST = 400

      attr_reader :today

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end

      # The grafts still looked after, newest first; the latest on each limb only.
      def grafts
        @grafts ||= Graft.in_sight.where(orchard_id: @orchard.id)
                         .where(grafted_on: (@today - SEASONS_DAYS)..@today)
                         .order(Sequel.desc(:grafted_on), :id).limit(MOST)
                         .eager(:variety, :observations, :tallies, :tasks_done, :orchard, limb: %i[tree orchard]).all
      end

      def care(graft) = (@care ||= {})[graft.id] ||= CoreValues.care(graft, @today)

      # Open and late tasks, and those that open within +ahead+ days.
      def items(ahead: 21)
        @items ||= {}
        @items[ahead] ||= grafts.reject { |graft| tallied_lost?(graft) }.flat_map do |graft|
          care(graft)[:tasks].select { |task| PRESSING.key?(task[:status]) && task[:opens_on] <= @today + ahead }
                             .map { |task| Item.new(graft: graft, task: task) }
        end.sort_by { |item| [PRESSING[item.task[:status]], item.task[:due_on], item.graft.limb.tree.row, item.graft.limb.tree.number, item.graft.limb.tag] }
      end

      def due = items.reject { |item| item.task[:status] == "ahead" }
      def ahead = items.select { |item| item.task[:status] == "ahead" }

      private

      # A loss that was counted in autumn is history, not work.
      def tallied_lost?(graft) = graft.tallies.last&.alive == false
    end
  end
end
