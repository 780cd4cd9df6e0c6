# frozen_string_literal: true

module Vestry
  module Records
    # The coming days of the crew, with the stubs of each; reckoned around what is fixed by hand.
    class CrewPlan
      DAYS = 14
      CrewDay = Struct.new(:date, :verdict, :hours, :grafters, :stubs, :minutes, :capacity, :known, keyword_init: true)

      # The stubs that a begun day's sheet holds, by the number of their planned limb.
      #
      # @return [Hash{Integer=>Date}]
      def self.begun(orchard, day)
        DB[:begun_sheets].where(orchard_id: orchard.id, day: day).select_hash(:plan_limb_id, :day)
      end

      # Those settled to a day of their season that is not past, by hand or on a sheet that was begun.
      #
      # @return [Set<Integer>] numbers of planned limbs
      def self.settled(orchard, today)
        days = %i[begun_sheets crew_fixed].flat_map do |table|
          DB[table].join(:plan_limbs, id: :plan_limb_id, hidden_at: nil)
            .where(Sequel[table][:orchard_id] => orchard.id).where { day >= today }
            .select_map(%i[plan_limb_id day season])
        end
        days.filter_map { |row, day, season| row if orchard.season.name_of(day) == season }.to_set
      end

      # These stubs stay on the day, whatever a later forecast says.
      def self.begin(orchard, day, stubs)
        DB[:begun_sheets].multi_insert(stubs.map { |stub| { orchard_id: orchard.id, day: day,
            plan_limb_id: stub.row.id } })
      end

      # It stays on no begun day any more.
      def self.let_go(plan_limb) = DB[:begun_sheets].where(plan_limb_id: plan_limb.id).delete

      # The hours and hands of a day, as said by hand.
      #
      # @return [Hash] +hours+ and +grafters+, nil where nobody said
      def self.said_of(orchard, day)
        DB[:crew_days].where(orchard_id: orchard.id, day: day).select(:hours, :grafters).first ||
          { hours: nil, grafters: nil }
      end

      # @param hours [Float, nil] nil leaves the day to the ordinary
      def self.keep_day(orchard, day, hours:, grafters:)
        return DB[:crew_days].where(orchard_id: orchard.id, day: day).delete if hours.nil?

        DB[:crew_days].insert_conflict(target: %i[orchard_id day], update: { hours: hours, grafters: grafters })
          .insert(orchard_id: orchard.id, day: day, hours: hours, grafters: grafters)
      end

      # The day to which a stub is settled by hand.
      #
      # @return [Date, nil]
      def self.fixed_day(plan_limb) = DB[:crew_fixed].where(plan_limb_id: plan_limb.id).get(:day)

      # Whether it stands on the sheet of a day that was begun.
      def self.begun?(plan_limb) = !DB[:begun_sheets].where(plan_limb_id: plan_limb.id).empty?

      # Settles a stub to a day by hand, and to none where it is nil.
      def self.fix(plan_limb, day, by:)
        DB[:crew_fixed].where(plan_limb_id: plan_limb.id).delete
        DB[:crew_fixed].insert(orchard_id: plan_limb.orchard_id, plan_limb_id: plan_limb.id, day: day, by: by) if day
      end

      # It is settled to no day up to this one.
      def self.unfix_until(plan_limb, until_day)
        DB[:crew_fixed].where(plan_limb_id: plan_limb.id).where { day <= until_day }.delete
      end

      # A stub as the crew's rule takes it.
      #
      # @param stub [StubWindows::StubWindow]
      def self.plain(stub)
        { id: stub.row.id, method: stub.row.technique, opens_on: stub.window[:opens_on],
          closes_on: stub.window[:closes_on], minutes: stub.minutes.to_f,
          tree: format("%s%06d", stub.tree.row, stub.tree.number), row: stub.tree.row, variety: stub.row.variety.name,
          kind: DayBoard.kind(stub.tree.species, stub.kind) }
      end

      # @param held [Boolean] a sheet that was begun keeps its stubs
      def initialize(orchard, today, windows: orchard.stub_windows(today), board: nil, held: true)
        @held = held
        @orchard = orchard
        @today = today
        @windows = windows
        @board = board || DayBoard.new(orchard, today, windows)
        @book = orchard.rulebook
      end

      attr_reader :windows, :board

      # @return [Array<CrewDay>]
      def days
        @days ||= answer[:days].map do |day|
          CrewDay.new(**day.slice(:date, :verdict, :hours, :grafters, :minutes, :capacity, :known),
                  # One that was set since the answer was stored waits no more.
                  stubs: by_id.values_at(*day[:stubs]).compact)
        end
      end

      # What is planned for one day, with the stubs of that day alone read.
      #
      # @return [CrewDay, nil] nil beyond the days that are planned
      def day(date)
        found = answer[:days].find { |each| each[:date] == date } or return nil
        stubs = @windows.of(found[:stubs]).to_h { |stub| [stub.row.id, stub] }
        CrewDay.new(**found.slice(:date, :verdict, :hours, :grafters, :minutes, :capacity, :known),
                stubs: stubs.values_at(*found[:stubs]).compact)
      end

      # Stubs that will not fit, each with why.
      #
      # @return [Array<Array(StubWindows::StubWindow, Hash)>]
      def missed
        answer[:missed_reasons].filter_map { |reason| by_id[reason[:id]]&.then { |stub| [stub, reason] } }
      end

      # Those that have no place in these days, and time after them.
      #
      # @return [Array<StubWindows::StubWindow>] soonest closing first
      def later = @later ||= by_id.values_at(*answer[:later]).compact

      # Those whose window opens after the days that are planned: there is no hurry yet.
      #
      # @return [Array<StubWindows::StubWindow>] soonest opening first
      def ahead = @ahead ||= @windows.stubs.reject { |stub| opens?(stub) }.sort_by { |stub| stub.window[:opens_on] }

      def fixed?(stub) = answer[:fixed].include?(stub.row.id)

      # What is stored, worked out.
      #
      # @return [Hash] +days+, +missed_reasons+, +later+, +fixed+
      def reckoned
        told = Core::Slip::Crew.call(stubs: open_stubs, days: crew_days, rulebook: @book,
                                     fixed: fixed.map { |id, day| { id: id, date: day } })
        own = crew_days.to_h { |day| [day[:date], day] }
        days = told[:days].map do |day|
          own.fetch(day[:date]).except(:kinds).merge(day, known: @board.dates.include?(day[:date]))
        end
        { days: days, missed_reasons: told[:missed_reasons], later: told[:later], fixed: fixed.keys }
      end

      private

      FROM = [*StubWindows::FROM, "crew_days", "crew_fixed", "begun_sheets"].freeze
      private_constant :FROM

      def open_stubs = @windows.stubs.select { |stub| opens?(stub) }.map { |stub| self.class.plain(stub) }

      # In the days that are planned, or put there by hand.
      def opens?(stub) = stub.window[:opens_on] < @today + DAYS || fixed.key?(stub.row.id)

      def by_id = @by_id ||= @windows.stubs.to_h { |stub| [stub.row.id, stub] }

      def answer
        @answer ||= Derived.fetch(@orchard, @held ? "crew" : "crew, nothing begun", @today, from: FROM) do |orchard|
          CrewPlan.new(orchard, @today, held: @held).reckoned
        end
      end

      def crew_days
        @crew_days ||= (@today..@today + DAYS - 1).map do |date|
          own = own_days[date]
          { date: date, verdict: @board.verdict(date), kinds: @board.verdicts(date),
            hours: own ? own[:hours] : Core::Slip::Crew.usual_hours(date, @book),
            grafters: own ? own[:grafters] : @book.value("reckoning.crew.grafters") }
        end
      end

      def own_days
        @own_days ||= DB[:crew_days].where(orchard_id: @orchard.id, day: @today..(@today + DAYS)).all.to_h do |row|
          [row[:day], row]
        end
      end

      # By hand, and on the sheet that was begun today.
      def fixed
        @fixed ||= begin
          by_hand = DB[:crew_fixed].where(orchard_id: @orchard.id).where(Sequel[:day] >= @today)
            .select_hash(:plan_limb_id, :day)
          (@held ? self.class.begun(@orchard, @today) : {}).merge(by_hand).select { |id, _| by_id.key?(id) }
        end
      end
    end
  end
end
