# frozen_string_literal: true

module Vestry
  module Records
    # What matters in an orchard today, across its stations, the most pressing first; and what was changed of late.
    class TodayBoard
      # +urgency+ is from 1, today, on; +trees+ are those it is about, where it is about some.
      Matter = Struct.new(:station, :urgency, :trees, keyword_init: true)
      # The front page as it is shown: matters, the sentence of the first and of each, and what each coming day is.
      Front = Struct.new(:matters, :first, :words, :days, keyword_init: true) do
        def trees = matters.flat_map(&:trees).uniq
        # The first day on which some stub that waits can be set; nil where none is told.
        def next_day = days.find { |_, verdict| verdict != "wait" }&.first
      end
      # Trees that are marked for one matter.
      MOST_TREES = 200
      # What it follows from, besides the orchard and the day.
      FROM = (StubWindows::FROM + CareSchedule::FROM + StrippedTrunks::FROM +
              %w[limb_events sites plan_sites wood_promises bundle_checks]).uniq.freeze

      # As it was worked out last, while nothing it follows from was changed.
      #
      # @yieldparam board [TodayBoard]
      # @yieldreturn [Hash{String=>String}] what is said: of each matter by its station, and +first+
      # @return [Front]
      def self.front(orchard, today, &words)
        # While grafts are still reckoned, what is due is not known to the end.
        agenda = Agenda.new(orchard, today)
        facts = agenda.left.positive? ? new(orchard, today, agenda).facts(&words) :
          Derived.fetch(orchard, "today", today, from: FROM) { |fresh| new(fresh, today).facts(&words) }
        Front.new(**facts, matters: facts[:matters].map { |each| Matter.new(**each) })
      end

      # The same as plain values.
      def facts
        words = yield self
        { matters: matters.map(&:to_h), first: words["first"], words: words.except("first"),
          days: board.dates.map { |date| [date, board.verdict(date)] } }
      end

      attr_reader :agenda, :windows, :board, :revisits, :order, :cellar

      def initialize(orchard, today, agenda = Agenda.new(orchard, today))
        @orchard = orchard
        @today = today
        @agenda = agenda
        @windows = orchard.stub_windows(today)
        @board = DayBoard.new(orchard, today, @windows)
        @revisits = RevisitList.new(orchard, today, @windows)
        @order = WoodOrder.new(orchard, orchard.season_of_wood(today), today)
        @cellar = orchard.wood_store(today)
      end

      # @return [Array<Matter>]
      def matters
        @matters ||= [survey, tend, bark, grafting, wood, plan, tally].compact.sort_by.with_index do |each, place|
          [each.urgency, place]
        end
      end

      def today_is = board.dates.include?(@today) ? board.verdict(@today) : nil

      # The rows that are counted in autumn, and how far.
      def count_rows = @count_rows ||= CountRow.all(@orchard, @today)

      private

      def matter(station, urgency, trees = []) = Matter.new(station: station, urgency: urgency, trees: trees)

      def survey
        return matter("survey", 1) if @orchard.treeless?

        broken = BrokenLimbs.of(@orchard, @today)
        return matter("survey", 2, broken.map { |event| event.limb.tree_id }.uniq) if broken.any?

        bare = @orchard.bare_tree
        bare && matter("survey", 6, [bare.id])
      end

      def tend
        return nurses_to_cut if agenda.due_count.zero?

        matter("tend", agenda.late_count.positive? ? 1 : 3, agenda.due.map { |item| item.tree.id }.uniq)
      end

      # Nurse limbs press nobody.
      def nurses_to_cut = Nurses.to_cut(@orchard, @today).values.any?(&:any?) ? matter("tend", 5) : nil

      def grafting
        ready = waiting.select(&:complete?)
        return nil if ready.empty?

        windows = @orchard.stub_windows(@today)
        in_time = ready.reject { |row| windows.past?(row) }
        matter("graft", in_time.any? ? { "good" => 2, "marginal" => 3 }.fetch(today_is, 5) : 5,
               (in_time.any? ? in_time : ready).map { |row| row.limb.tree_id }.uniq.first(MOST_TREES))
      end

      def bark
        due = revisits.due
        due.empty? ? nil : matter("slip", 2, due.map { |visit| visit.told.tree.id })
      end

      def wood
        return matter("wood", 2) if cellar.still_kept(order.season).any? { |kept| kept.due?(@today) }
        wanted = order.lines.select { |line| line.to_cut.positive? }
        return nil if wanted.empty?

        matter("wood", wanted.any? { |line| line.to_find.positive? && order.cut_now?(line.variety) } ? 3 : 5)
      end

      def plan
        open = @orchard.planned(:waiting, @orchard.season_to_plan(@today)).rows.reject(&:complete?)
        short = @orchard.wood_supply(@orchard.season_to_plan(@today), @today).wanting.any?
        lost = @orchard.lost_undecided(@today)
        return first_plan unless open.any? || lost.any? || short

        matter("plan", 4, [*open.map(&:limb), *lost].map(&:tree_id).uniq.first(MOST_TREES))
      end

      # Where limbs are measured and nothing was ever decided of one.
      def first_plan
        return nil if !TreeQueries.limbs?(@orchard) || PlanQueries.planned_trees(@orchard).positive? ||
                      @orchard.grafts_dataset.any?

        matter("plan", 6, PlanQueries.unplanned(@orchard, most: MOST_TREES).map(&:id))
      end

      def tally
        return nil unless CountRow.open?(@orchard, @today)
        return nil if count_rows.none? { |row| row[:counted] < row[:grafts] }

        matter("tally", 3)
      end

      def waiting = @waiting ||= @orchard.planned(:waiting, @orchard.season.name_of(@today)).rows
    end
  end
end
