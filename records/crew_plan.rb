# frozen_string_literal: true

module Vestry
  module Records
    # The coming days of the crew, with the stubs of each; reckoned around what is fixed by hand.
    class CrewPlan
      DAYS = 14
      Day = Struct.new(:date, :verdict, :hours, :grafters, :stubs, :minutes, :capacity, :known, keyword_init: true)

      # The stubs that a begun day's sheet holds, by the number of their planned limb.
      #
      # @return [Hash{Integer=>Date}]
      def self.begun(orchard, day)
        DB[:begun_sheets].where(orchard_id: orchard.id, day: day).select_hash(:plan_limb_id, :day)
      end

      # These stubs stay on the day, whatever a later forecast says.
      def self.begin(orchard, day, stubs)
        DB[:begun_sheets].multi_insert(stubs.map { |stub| { orchard_id: orchard.id, day: day,
            plan_limb_id: stub.row.id } })
      end

      # It stays on no begun day any more.
      def self.let_go(plan_limb) = DB[:begun_sheets].where(plan_limb_id: plan_limb.id).delete

      # @param held [Boolean] a sheet that was begun keeps its stubs
      def initialize(orchard, today, windows: StubWindows.new(orchard, today), board: nil, held: true)
        @held = held
        @orchard = orchard
        @today = today
        @windows = windows
        @board = board || DayBoard.new(orchard, today, windows)
        @book = orchard.rulebook
      end

      attr_reader :windows, :board

      # @return [Array<Day>]
      def days = @days ||= answer[:days].map { |day| shown(day) }

      # Stubs that will not fit, each with why.
      #
      # @return [Array<Array(StubWindows::Stub, Hash)>]
      def missed = answer[:missed_reasons].map { |reason| [by_id.fetch(reason[:id]), reason] }

      def fixed?(stub) = fixed.key?(stub.row.id)

      private

      def by_id = @by_id ||= @windows.stubs.to_h { |stub| [stub.row.id, stub] }

      def answer
        @answer ||= begin
          Core::Slip::Crew.call(stubs: @windows.stubs.map { |stub| plain(stub) }, days: crew_days,
                                fixed: fixed.map { |id, day| { id: id, date: day } })
        end
      end

      def plain(stub)
        { id: stub.row.id, method: stub.row.technique, opens_on: stub.window[:opens_on],
          closes_on: stub.window[:closes_on], minutes: stub.minutes.to_f,
          tree: format("%s%06d", stub.tree.row, stub.tree.number), row: stub.tree.row, variety: stub.row.variety.name }
      end

      def crew_days
        @crew_days ||= (@today..@today + DAYS - 1).map do |date|
          own = own_days[date]
          { date: date, verdict: @board.verdict(date), hours: own ? own[:hours] : usual_hours(date),
            grafters: own ? own[:grafters] : @book.value("reckoning.crew.grafters") }
        end
      end

      def own_days
        @own_days ||= DB[:crew_days].where(orchard_id: @orchard.id, day: @today..(@today + DAYS)).all.to_h do |row|
          [row[:day], row]
        end
      end
      def usual_hours(date) = date.saturday? || date.sunday? ? 0.0 : @book.value("reckoning.crew.hours").to_f

      # By hand, and on the sheet that was begun today.
      def fixed
        @fixed ||= begin
          by_hand = DB[:crew_fixed].where(orchard_id: @orchard.id).where(Sequel[:day] >= @today)
            .select_hash(:plan_limb_id, :day)
          (@held ? self.class.begun(@orchard, @today) : {}).merge(by_hand).select { |id, _| by_id.key?(id) }
        end
      end

      def shown(day)
        own = crew_days.find { |each| each[:date] == day[:date] }
        Day.new(**own, stubs: day[:stubs].map { |id| by_id.fetch(id) }, minutes: day[:minutes],
                capacity: day[:capacity], known: @board.dates.include?(day[:date]))
      end
    end
  end
end
