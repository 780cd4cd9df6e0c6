# frozen_string_literal: true

module Vestry
  module Records
    # What grafts and stripped trunks need, most pressing first and then in walking order: from what is
    # kept as reckoned, so that a great orchard opens as fast as a small one.
    class Agenda
      # A task with what it belongs to: a graft or a wound.
      Item = Struct.new(:of, :task, :label, :person, :place, keyword_init: true) do
        def wound? = of.is_a?(Wound)
        def tree = wound? ? of.tree : of.limb.tree
      end
      PAGE = 60
      AHEAD = 21

      attr_reader :today, :left

      # @param person [String, nil] whose grafts alone
      # @param row [String, nil]
      # @param within [Integer, nil] only what falls due within so many days
      def initialize(orchard, today, person: nil, row: nil, within: nil)
        @orchard = orchard
        @today = today
        @person = person
        @row = row
        @within = within
        @left = CareSchedule.refresh(orchard, today)
      end

      # Open and late, a page at a time.
      def due(page: 1)
        (@due ||= {})[page] ||= of_grafts(open_rows.limit(PAGE).offset((page - 1) * PAGE),
                                          page == 1 ? wound_items { |task| %w[open late].include?(task[:status]) } : [])
      end
      # What to begin with: a graft that moved too soon, else what has been due longest; nil where nothing is due.
      def most_pressing = due.find { |item| item.task[:rule] == "false-start" } || due.first

      def due_count = tally(late: false) + wound_items { |task| %w[open late].include?(task[:status]) }.size
      def late_count = tally(late: true) + wound_items { |task| task[:status] == "late" }.size

      # What opens in the next weeks.
      def ahead(days: AHEAD, most: PAGE)
        @ahead ||= {}
        @ahead[days] ||= of_grafts(rows.where(Sequel[:opens_on] > @today).where(Sequel[:opens_on] <= @today +
          days).order(:opens_on, :row, :number, :tag).limit(most),
                                   wound_items { |task| task[:status] == "ahead" && task[:opens_on] <= @today + days },
                                   by: :opens_on)
      end

      # Everything open or to come, for a calendar.
      def calendar(most: 1000)
        of_grafts(rows.where(Sequel[:closes_on] >= @today).order(:due_on, :row, :number, :tag).limit(most),
                  wound_items { |task| %w[open late ahead].include?(task[:status]) })
      end

      # The days on which something falls due, whoever does it.
      def due_days(until_day)
        days = LooseIndexScan.values(rows.where(Sequel[:due_on] <= until_day).where(Sequel[:closes_on] >= @today),
                                     :due_on)
        (days + @orchard.stripped_trunks(@today).due_days.select { |day| day <= until_day }).uniq.sort
      end

      # Trees where something is due, as a dataset of ids.
      def due_trees
        DB[:limbs].where(id: DB[:grafts].where(id: open_rows.unordered.select(:graft_id)).select(:limb_id))
          .select(:tree_id)
      end

      # Who has something due, and in which rows, with how much.
      def people
        @people ||= open_counts.each_with_object(Hash.new(0)) { |each, sums| sums[each[:person]] += each[:count] }
          .sort_by { |name, count| [-count, name] }.first(30).to_h
      end
      def rows_due
        @rows_due ||= open_counts.each_with_object(Hash.new(0)) { |each, sums| sums[each[:row]] += each[:count] }.sort
          .first(400).to_h
      end

      # The state of grafts by id.
      def states(ids) = DB[:care_states].where(orchard_id: @orchard.id, graft_id: ids).select_hash(:graft_id, :state)

      # Open tasks counted once for every question: by person and row, late, and due within the asked days.
      #
      # @return [Array<Hash>] +person+, +row+, +late+, +within+ and +count+
      def counted
        base.where(Sequel[:opens_on] <= @today).where(Sequel[:closes_on] >= @today).group(:person, :row, :late, :within)
          .select(:person, :row, (Sequel[:due_on] < @today).as(:late),
                  (Sequel[:due_on] <= @today + (@within || 100_000)).as(:within),
                  Sequel.function(:count, Sequel.lit("*")).as(:count)).all
      end

      private

      def open_counts = @open_counts ||= @within ? counted : stored

      # Those of all days. They are reckoned after the revisions were read that they are stored under, and not stored
      # while some are still out of date.
      def stored
        Derived.fetch(@orchard, "open tasks", @today, from: CareSchedule::FROM) do |fresh|
          agenda = Agenda.new(fresh, @today)
          agenda.left.zero? ? agenda.counted : (return agenda.counted)
        end
      end

      def tally(late:)
        open_counts.sum do |each|
          next 0 if (@person && each[:person] != @person) || (@row && each[:row] != @row) || !each[:within] ||
          (late && !each[:late])

          each[:count]
        end
      end

      def base = DB[:care_tasks].where(orchard_id: @orchard.id)

      def rows
        all = base
        all = all.where(person: @person) if @person
        all = all.where(row: @row) if @row
        all = all.where(Sequel[:due_on] <= @today + @within) if @within
        all
      end

      def open_rows
        rows.where(Sequel[:opens_on] <= @today).where(Sequel[:closes_on] >= @today)
          .order(:due_on, :row, :number, :tag, :key)
      end

      def of_grafts(dataset, others, by: :due_on)
        kept = dataset.all
        grafts = Graft.where(id: kept.map { |row| row[:graft_id] }.uniq).eager(:variety, limb: :tree).all
          .to_h do |graft|
          [graft.id, graft]
        end
        items = kept.map do |row|
          graft = grafts.fetch(row[:graft_id])
          graft.associations[:orchard] = graft.limb.associations[:orchard] = @orchard
          Item.new(of: graft, task: row.slice(:key, :rule, :opens_on, :due_on, :closes_on).merge(status: status(row)),
                   label: graft.limb.label, person: row[:person], place: [row[:row], row[:number], row[:tag]])
        end
        (items + others).sort_by.with_index { |item, i| [item.task[by], item.place, i] }
      end

      def status(row)
        return "ahead" if row[:opens_on] > @today

        row[:due_on] >= @today ? "open" : "late"
      end

      # Stripped trunks are few: theirs is reckoned as it is asked for.
      def wound_items(&wanted)
        @wounds ||= @orchard.stripped_trunks(@today).all
        return [] if @person && @wounds.none? { |told| told.wound.person == @person }

        @wounds.select { |told| asked_about?(told.wound) }.flat_map do |told|
          told.mending[:tasks].select { |task| wanted.call(task) && soon?(task) }
            .map { |task| wound_item(told.wound, task) }
        end
      end

      def asked_about?(wound) = (@person.nil? || wound.person == @person) && (@row.nil? || wound.tree.row == @row)
      def soon?(task) = @within.nil? || task[:due_on] <= @today + @within

      def wound_item(wound, task)
        Item.new(of: wound, task: task, label: wound.label, person: wound.person,
                 place: [wound.tree.row, wound.tree.number, ""])
      end
    end
  end
end
